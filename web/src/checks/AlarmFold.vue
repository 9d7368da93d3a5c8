<script setup lang="ts">
/** One alarm: its line with its weight, and below it, folded, what it means and what to do. */
import type { Severity } from './severity'
import SeverityMark from './SeverityMark.vue'

defineProps<{ severity: Severity; isOpen: boolean; isSeen?: boolean }>()
</script>

<template>
  <details class="alarm" :class="[severity, { seen: isSeen }]" :open="isOpen">
    <summary><SeverityMark :severity="severity" /> <slot name="line" /></summary>
    <slot />
  </details>
</template>

<style scoped>
.alarm {
  border-left: 3px solid var(--sun);
  padding: 4px 0 4px 10px;
  margin-bottom: 8px;
}

.alarm.stop {
  border-left-color: var(--wine);
}

.alarm.mend {
  border-left-color: var(--ember);
}

.alarm.seen {
  border-left-color: var(--rule);
}

summary {
  font-weight: 700;
  cursor: pointer;
}

.alarm :slotted(p) {
  margin: 0;
}

summary :slotted(.lesser) {
  font-weight: 400;
}
</style>
