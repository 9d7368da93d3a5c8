<script setup lang="ts">
/** One number of a row's panel, with its unit. It is told only when it is a number and has changed. */
import { storeToRefs } from 'pinia'
import { ref, useId, watch } from 'vue'

import { useDesign } from '@/design/store'

import FieldFrame from './FieldFrame.vue'
import { commasOf, needs, readNumber } from './numbers'

const props = defineProps<{
  label: string
  value: number | null
  unit?: string
  placeholder?: string
  mayBeEmpty?: boolean
  fault?: boolean
}>()
const emit = defineEmits<{ change: [value: number | null] }>()
const id = useId()
const { document } = storeToRefs(useDesign())
const text = ref('')
const wrong = ref('')

watch(
  () => props.value,
  (value) => {
    text.value = value === null ? '' : String(value)
    wrong.value = ''
  },
  { immediate: true },
)

function commit(): void {
  wrong.value = ''
  if (text.value.trim() === '' && props.mayBeEmpty) {
    if (props.value !== null) emit('change', null)
    return
  }
  const typed = readNumber(text.value, commasOf(document.value?.practice), props.unit)
  if (typed.value === null) wrong.value = needs(text.value, typed)
  else if (typed.value !== props.value) emit('change', typed.value)
}
</script>

<template>
  <FieldFrame :label="label" :for="id">
    <v-text-field
      :id="id"
      v-model="text"
      :suffix="unit"
      :placeholder="placeholder"
      :persistent-placeholder="!!placeholder"
      :error="fault"
      :error-messages="wrong || []"
      inputmode="decimal"
      autocomplete="off"
      maxlength="24"
      @change="commit"
      @keydown.enter="commit"
    />
  </FieldFrame>
</template>
