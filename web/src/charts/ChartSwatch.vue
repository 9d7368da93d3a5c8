<script setup lang="ts">
/** How a series is drawn, beside its name: its line with its dashes, or a block of its colour. */
import type { ChartSeries } from './geometry'

defineProps<{ entry: ChartSeries }>()
</script>

<template>
  <svg class="swatch" :width="entry.kind === 'bar' ? 13 : 22" height="8" aria-hidden="true">
    <path
      v-if="entry.kind !== 'bar'"
      class="line"
      :class="entry.role"
      d="M0 4H22"
      :stroke-dasharray="entry.dash"
    />
    <rect v-else class="area" :class="entry.role" width="13" height="8" />
  </svg>
</template>

<style scoped>
.swatch {
  display: inline-block;
  margin-right: 6px;
  vertical-align: middle;
}

.line {
  fill: none;
  stroke: var(--role);
  stroke-width: 2;
}

.area {
  fill: var(--role);
}
</style>
