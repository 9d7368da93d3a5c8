<script setup lang="ts" generic="Unit extends { library_id: string; name: string; price?: number | null }">
/** Several units of the library, sought as typed; only those with a price, since a search is about what kits cost. */
import { computed, ref, useId } from 'vue'

import type { Outcome } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import FieldFrame from '@/fields/FieldFrame.vue'

const props = defineProps<{
  label: string
  units: readonly Unit[]
  find: (words: string) => Promise<Outcome<{ units: Unit[]; total: number }>>
}>()
const emit = defineEmits<{ change: [units: Unit[]] }>()
const id = useId()
const words = ref('')
const { value: found } = useAnswer({ ask: () => props.find(words.value ?? ''), on: words })
const offered = computed(() => {
  const chosen = new Set(props.units.map((unit) => unit.library_id))
  const others = (found.value?.units ?? []).filter(
    (unit) => unit.price != null && !chosen.has(unit.library_id),
  )
  return [...props.units, ...others]
})
</script>

<template>
  <FieldFrame :label="label" :for="id">
    <v-autocomplete
      :id="id"
      v-model:search="words"
      class="words"
      multiple
      chips
      closable-chips
      no-filter
      return-object
      clear-on-select
      item-title="name"
      item-value="library_id"
      :items="offered"
      :model-value="[...units]"
      :aria-label="label"
      no-data-text="No such unit with a price"
      @update:model-value="emit('change', $event as Unit[])"
    />
  </FieldFrame>
</template>

<style scoped>
:deep(.v-field__input) {
  flex-wrap: wrap;
  gap: 3px;
  padding-block: 3px;
}

:deep(.v-chip) {
  height: 22px;
  margin: 0;
  font-size: 12.5px;
  border-radius: 2px;
  max-width: 100%;
}
</style>
