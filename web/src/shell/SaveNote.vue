<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'

const { saveState, revision, problems } = storeToRefs(useDesign())

const text = computed(() => {
  switch (saveState.value) {
    case 'saved':
      return `Saved, revision ${revision.value}`
    case 'saving':
    case 'unsaved':
      return 'Saving'
    case 'invalid':
      return problems.value.length === 1
        ? 'Not saved: one field cannot be used'
        : `Not saved: ${problems.value.length} fields cannot be used`
    case 'offline':
      return 'Not saved: Hearth Keep is not answering. Work is kept in this window'
    case 'gone':
      return 'Not saved: this design was deleted elsewhere'
    case 'conflict':
      return 'Not saved: a newer revision exists'
    default:
      return ''
  }
})
const isTrouble = computed(() => ['invalid', 'offline', 'conflict', 'gone'].includes(saveState.value))
</script>

<template>
  <span
    class="note"
    :class="{ trouble: isTrouble }"
    role="status"
    data-test="save-note"
    :data-state="saveState"
    >{{ text }}</span
  >
</template>

<style scoped>
.note {
  font-size: 13px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}

.trouble {
  background: var(--wine);
  color: var(--sheet);
  padding: 2px 8px;
}
</style>
