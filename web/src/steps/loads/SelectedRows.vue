<script setup lang="ts">
/** What can be done with the rows that are selected. */
import type { Tier } from '@/api/client'

defineProps<{ count: number }>()
const emit = defineEmits<{ tier: [tier: Tier]; duplicate: []; remove: []; clear: [] }>()
const tiers: readonly { value: Tier; title: string }[] = [
  { value: 'life', title: 'Life' },
  { value: 'keep', title: 'Keep' },
  { value: 'ease', title: 'Ease' },
  { value: 'spare', title: 'Spare' },
]
</script>

<template>
  <div class="selected" role="toolbar" aria-label="Selected rows" data-test="selected-rows">
    <b>{{ count === 1 ? '1 row' : `${count} rows` }}</b>
    <span class="lesser">to</span>
    <button v-for="tier in tiers" :key="tier.value" type="button" @click="emit('tier', tier.value)">
      {{ tier.title }}
    </button>
    <span class="gap" />
    <button type="button" @click="emit('duplicate')">Duplicate</button>
    <button type="button" class="danger" data-test="delete-selected" @click="emit('remove')">Delete</button>
    <button type="button" @click="emit('clear')">Leave</button>
  </div>
</template>

<style scoped>
.selected {
  display: flex;
  gap: 14px;
  align-items: center;
  padding: 5px 10px;
  border: 1px solid var(--pine);
  background: var(--sheet);
  margin-bottom: 4px;
  position: sticky;
  top: -14px;
  z-index: 2;
}

button {
  color: var(--pine);
  font-weight: 600;
}

button:hover {
  text-decoration: underline;
}

.danger {
  color: var(--wine);
}

.gap {
  flex: 1;
}
</style>
