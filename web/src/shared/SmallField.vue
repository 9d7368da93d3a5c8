<script setup lang="ts">
/** One number of a row's panel, with its unit. It is told only when it is a number and has changed. */
import { ref, useId, watch } from 'vue'

import FieldFrame from './FieldFrame.vue'

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
const text = ref('')
const wrong = ref(false)

watch(
  () => props.value,
  (value) => {
    text.value = value === null ? '' : String(value)
    wrong.value = false
  },
  { immediate: true },
)

function commit(): void {
  const typed = text.value.trim().replace(',', '.')
  const value = typed === '' && props.mayBeEmpty ? null : Number(typed)
  wrong.value = value !== null && (typed === '' || !Number.isFinite(value))
  if (!wrong.value && value !== props.value) emit('change', value)
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
      :error="fault || wrong"
      inputmode="decimal"
      autocomplete="off"
      maxlength="14"
      @change="commit"
      @keydown.enter="commit"
    />
  </FieldFrame>
</template>
