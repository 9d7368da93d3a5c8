<script setup lang="ts">
/** Large keys for a number, under a thumb. */
const emit = defineEmits<{ key: [key: string] }>()
const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '⌫'] as const
const NAMES: Record<string, string> = { '.': 'Decimal point', '⌫': 'Delete the last digit' }
</script>

<template>
  <div class="pad" role="group" aria-label="Digits">
    <button
      v-for="key in KEYS"
      :key="key"
      type="button"
      class="figures"
      :aria-label="NAMES[key] ?? key"
      :data-test="`pad-${key === '⌫' ? 'back' : key === '.' ? 'point' : key}`"
      @click="emit('key', key)"
    >
      {{ key }}
    </button>
  </div>
</template>

<style scoped>
.pad {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px;
}

button {
  min-height: 52px;
  font-size: 22px;
  background: var(--sheet);
  border: 1px solid var(--slate);
  touch-action: manipulation;
}

button:active {
  background: var(--idle);
}
</style>
