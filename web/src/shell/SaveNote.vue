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

/* In the hand there is room for trouble only; it is still read out. */
@media (max-width: 640px) {
  .note:not(.trouble) {
    position: absolute;
    width: 1px;
    height: 1px;
    clip-path: inset(50%);
  }

  .note.trouble {
    white-space: normal;
    font-size: 12px;
    line-height: 1.2;
    max-width: 150px;
    max-height: 40px;
  }
}

.trouble {
  background: var(--wine);
  color: var(--sheet);
  padding: 2px 8px;
}
</style>
