<script setup lang="ts">
/** One number of the design, with its unit; errors of this field stand below it. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { useDesign } from '@/design/store'
import { valueAt } from '@/design/path'

import FieldFrame from './FieldFrame.vue'
import { commasOf, needs, readNumber } from './numbers'
import { plain, type Unit } from './units'

const props = withDefaults(
  defineProps<{
    /** Dotted path into the design. */
    path: string
    label: string
    unit?: Unit | string
    /** Whole numbers only. */
    whole?: boolean
    /** What an empty field means; without it a field may not be empty. */
    emptyMeans?: string
    /** The label is heard, not seen. */
    quiet?: boolean
  }>(),
  { unit: '', whole: false, emptyMeans: '', quiet: false },
)

const id = useId()
const store = useDesign()
const { document, problems } = storeToRefs(store)
const unit = computed(() => (typeof props.unit === 'string' ? plain(props.unit) : props.unit))
const kept = computed(() => valueAt(document.value, props.path) as number | null | undefined)
const text = ref('')
const wrong = ref('')

watch(
  [kept, unit],
  () => {
    text.value = kept.value === null || kept.value === undefined ? '' : String(unit.value.show(kept.value))
    wrong.value = ''
  },
  { immediate: true },
)

const refused = computed(() => {
  const problem = problems.value.find((entry) => entry.field === props.path)
  return problem
    ? `${problem.accepted}${props.unit === '' || typeof props.unit === 'string' ? '' : ', in the file’s unit'}`
    : ''
})

function commit(): void {
  if (text.value.trim() === '' && props.emptyMeans) {
    if (kept.value !== null) store.set(props.path, null)
    return
  }
  const typed = readNumber(text.value, commasOf(document.value?.practice), unit.value.label)
  if (typed.value === null || (props.whole && !Number.isInteger(typed.value))) {
    wrong.value = needs(text.value, typed, props.whole)
    return
  }
  wrong.value = ''
  const value = unit.value.keep(typed.value)
  if (value !== kept.value) store.set(props.path, value)
}

function restore(): void {
  text.value = kept.value === null || kept.value === undefined ? '' : String(unit.value.show(kept.value))
  wrong.value = ''
}
</script>

<template>
  <FieldFrame :label="label" :for="id" :quiet="quiet">
    <v-text-field
      :id="id"
      v-model="text"
      :suffix="unit.label"
      :placeholder="emptyMeans"
      :persistent-placeholder="emptyMeans !== ''"
      :error-messages="wrong || refused || []"
      inputmode="decimal"
      autocomplete="off"
      :data-path="path"
      @change="commit"
      @keydown.enter="commit"
      @keydown.esc.stop="restore"
    />
  </FieldFrame>
</template>
