<script setup lang="ts" generic="Unit extends { library_id: string; name: string; price?: number | null }">
/** One kind of part in a search: whether it is varied, which units of the library, and how many. */
import type { Outcome } from '@/api/client'
import QuantityField from '@/fields/QuantityField.vue'

import UnitsField from './UnitsField.vue'

type Part = { units: readonly Unit[]; least: number; most: number }

const props = defineProps<{
  /** In the plural, as a title; also names the marks for tests. */
  name: string
  /** What is counted, for the lower of the two fields. */
  counted: string
  part: Part | null
  /** What is said while it is not varied. */
  off: string
  find: (words: string) => Promise<Outcome<{ units: Unit[]; total: number }>>
  disabled?: boolean
}>()
const emit = defineEmits<{
  vary: [isOn: boolean]
  change: [fields: { units?: Unit[]; least?: number; most?: number }]
}>()

/** From and to push each other, so that no edit is refused for its order. */
function setEnd(end: 'least' | 'most', value: number | null): void {
  if (!props.part || value === null) return
  const { least, most } = props.part
  emit(
    'change',
    end === 'least'
      ? { least: value, most: Math.max(value, most) }
      : { most: value, least: Math.min(value, least) },
  )
}
</script>

<template>
  <div class="row">
    <label class="name"
      ><input
        type="checkbox"
        :checked="part !== null"
        :disabled="disabled"
        :data-test="`vary-${name.toLowerCase()}`"
        @change="emit('vary', ($event.target as HTMLInputElement).checked)"
      />
      {{ name }}</label
    >
    <template v-if="part">
      <UnitsField
        :label="`${name} to try`"
        :units="part.units"
        :find="find"
        @change="emit('change', { units: $event })"
      />
      <QuantityField
        :label="`${counted}, from`"
        :value="part.least"
        whole
        @change="setEnd('least', $event)"
      />
      <QuantityField label="to" :value="part.most" whole @change="setEnd('most', $event)" />
      <slot />
    </template>
    <span v-else class="lesser">{{ off }}</span>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 96px minmax(180px, 1fr) 108px 108px;
  gap: 4px 12px;
  align-items: end;
  padding-bottom: 8px;
}

.name,
.lesser {
  align-self: center;
}

.name {
  font-weight: 600;
}

input {
  accent-color: var(--pine);
}

@media (max-width: 700px) {
  .row {
    grid-template-columns: 1fr 1fr;
  }

  .row > :nth-child(-n + 2) {
    grid-column: 1 / -1;
  }
}
</style>
