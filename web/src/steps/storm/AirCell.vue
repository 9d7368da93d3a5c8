<script setup lang="ts">
import { ref, watch } from 'vue'

const props = defineProps<{ value: number; label: string }>()
const emit = defineEmits<{ changed: [value: number] }>()
const text = ref('')
watch(
  () => props.value,
  (value) => (text.value = String(value)),
  { immediate: true },
)

function commit(): void {
  const number = Number(text.value.trim().replace(',', '.'))
  if (text.value.trim() === '' || !Number.isFinite(number)) text.value = String(props.value)
  else if (number !== props.value) emit('changed', number)
}
</script>

<template>
  <input
    v-model="text"
    class="cell"
    inputmode="decimal"
    :aria-label="label"
    @change="commit"
    @keydown.esc.stop="text = String(value)"
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

.cell:hover,
.cell:focus {
  border-color: var(--slate);
}
</style>
