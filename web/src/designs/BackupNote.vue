<script setup lang="ts">
/** When the last backup was made on its own, and where it stands. */
import { onMounted, shallowRef } from 'vue'

import { api, outcome, type LastBackup } from '@/api/client'
import { savedAt } from '@/shared/format'

/** Undefined until it is known; null where backups are switched off. */
const last = shallowRef<LastBackup | null | undefined>()

onMounted(async () => {
  const answer = await outcome(api.GET('/api/backups/last', {}))
  if (answer.kind === 'answer') last.value = answer.value
})
</script>

<template>
  <p v-if="last !== undefined" class="backup lesser" data-test="backup-note">
    <template v-if="last === null">
      Nightly backups are switched off. Make one with <code>./hearth backup FILE</code>.
    </template>
    <template v-else>
      <span v-if="last.trouble" class="failed">The last nightly backup failed: {{ last.trouble }} </span>
      <template v-if="last.file && last.made_at">
        Last backup {{ savedAt(last.made_at) }}: <span class="path">{{ last.folder }}/{{ last.file }}</span
        >. One is made each night and kept for 14 days.
      </template>
      <template v-else-if="!last.trouble"
        >No backup yet; the first is made within a minute of the start, then one each night.</template
      >
    </template>
  </p>
</template>

<style scoped>
.backup {
  margin-top: 28px;
  max-width: 900px;
}

.path {
  overflow-wrap: anywhere;
}

.failed {
  color: var(--wine);
  font-weight: 700;
}
</style>
