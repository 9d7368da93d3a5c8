<script setup lang="ts">
/** One quantity in a cell of a table, its label heard, not seen. */
import { useQuantity } from './useQuantity'
import type { Unit } from './units'

const props = withDefaults(
  defineProps<{
    value: number | null
    label: string
    unit?: Unit | string
    mayBeEmpty?: boolean
    /** Something outside says that the value cannot be used. */
    fault?: boolean
  }>(),
  { unit: '', mayBeEmpty: false, fault: false },
)
const emit = defineEmits<{ change: [value: number | null] }>()
const { text, wrong, commit, restore } = useQuantity({
  value: () => props.value,
  unit: () => props.unit,
  mayBeEmpty: () => props.mayBeEmpty,
  keep: (value) => emit('change', value),
})
</script>

<template>
  <input
    v-model="text"
    class="cell"
    :class="{ fault: !!wrong || fault }"
    :aria-invalid="!!wrong || fault"
    :title="wrong || undefined"
    inputmode="decimal"
    maxlength="60"
    autocomplete="off"
    :aria-label="label"
    @change="commit"
    @keydown.esc.stop="restore"
  />
</template>

<style scoped>
.cell {
  width: 64px;
  text-align: right;
  font: inherit;
  color: inherit;
  padding: 2px 4px;
  border: 1px solid transparent;
}

.fault {
  border-color: var(--wine);
  color: var(--wine);
}

.cell:hover,
.cell:focus {
  border-color: var(--slate);
}
</style>
