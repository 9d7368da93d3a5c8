<script setup lang="ts">
/**
 * One quantity with its label and unit: a field of the design, named by its path, or a value of the component around it.
 * Numbers, percent, practice units and small sums are all read here; what cannot be used is said below it.
 */
import { storeToRefs } from 'pinia'
import { computed, useId } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'

import FieldFrame from './FieldFrame.vue'
import type { Unit } from './units'
import { useQuantity } from './useQuantity'

const props = withDefaults(
  defineProps<{
    label: string
    /** Dotted path into the design; without it the value is given and a change is told. */
    path?: string
    value?: number | null
    unit?: Unit | string
    /** Whole numbers only. */
    whole?: boolean
    /** What an empty field means; without it, and without mayBeEmpty, a field may not be empty. */
    emptyMeans?: string
    mayBeEmpty?: boolean
    /** The label is heard, not seen. */
    quiet?: boolean
    /** Something outside says that the value cannot be used. */
    fault?: boolean
  }>(),
  {
    path: '',
    value: null,
    unit: '',
    whole: false,
    emptyMeans: '',
    mayBeEmpty: false,
    quiet: false,
    fault: false,
  },
)
const emit = defineEmits<{ change: [value: number | null] }>()

const id = useId()
const store = useDesign()
const { document, problems } = storeToRefs(store)
const kept = computed(() =>
  props.path ? (valueAt(document.value, props.path) as number | null | undefined) : props.value,
)
const { text, wrong, unit, commit, restore } = useQuantity({
  value: kept,
  unit: () => props.unit,
  whole: () => props.whole,
  mayBeEmpty: () => props.mayBeEmpty || props.emptyMeans !== '',
  keep: (value) => (props.path ? store.set(props.path, value) : emit('change', value)),
})
const refused = computed(() => {
  const problem = props.path ? problems.value.find((entry) => entry.field === props.path) : undefined
  return problem ? `${problem.accepted}${typeof props.unit === 'string' ? '' : ', in the file’s unit'}` : ''
})
</script>

<template>
  <FieldFrame :label="label" :for="id" :quiet="quiet">
    <v-text-field
      :id="id"
      v-model="text"
      :suffix="unit.label"
      :placeholder="emptyMeans"
      :persistent-placeholder="emptyMeans !== ''"
      :error="fault"
      :error-messages="wrong || refused || []"
      inputmode="decimal"
      autocomplete="off"
      maxlength="60"
      :data-path="path || undefined"
      @change="commit"
      @keydown.enter="commit"
      @keydown.esc.stop="restore"
    />
  </FieldFrame>
</template>
