<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { ref, watch } from 'vue'

import { useDesign } from '@/design/store'
import { commasOf, needs, readNumber } from '@/shared/numbers'

const props = defineProps<{ value: number; label: string }>()
const emit = defineEmits<{ changed: [value: number] }>()
const text = ref('')
const wrong = ref('')
const { document } = storeToRefs(useDesign())
function commit(): void {
  const typed = readNumber(text.value, commasOf(document.value?.practice))
  wrong.value = typed.value === null ? needs(text.value, typed) : ''
  if (typed.value !== null && typed.value !== props.value) emit('changed', typed.value)
}

function restore(): void {
  text.value = String(props.value)
  wrong.value = ''
}

watch(() => props.value, restore, { immediate: true })
</script>

<template>
  <input
    v-model="text"
    class="cell"
    :class="{ fault: !!wrong }"
    :aria-invalid="!!wrong"
    :title="wrong || undefined"
    inputmode="decimal"
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
