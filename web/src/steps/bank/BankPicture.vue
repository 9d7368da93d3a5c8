<script setup lang="ts">
/** The bank as it stands: each column a series string, columns side by side in parallel. */
import { computed } from 'vue'

const props = defineProps<{ series: number; parallel: number }>()

const MOST_SHOWN = 8
const WIDTH = 150
const HEIGHT = 104

const columns = computed(() => Math.min(props.parallel, MOST_SHOWN))
const rows = computed(() => Math.min(props.series, MOST_SHOWN))
const cell = computed(() => ({ width: WIDTH / columns.value, height: HEIGHT / rows.value }))
const blocks = computed(() =>
  Array.from({ length: columns.value * rows.value }, (_, index) => ({
    x: (index % columns.value) * cell.value.width,
    y: Math.floor(index / columns.value) * cell.value.height,
  })),
)
</script>

<template>
  <figure>
    <svg
      :viewBox="`-1 -7 ${WIDTH + 2} ${HEIGHT + 10}`"
      width="152"
      height="114"
      role="img"
      :aria-label="`${series} in series, ${parallel} in parallel`"
    >
      <g
        v-for="block in blocks"
        :key="`${block.x}-${block.y}`"
        :transform="`translate(${block.x + 2} ${block.y + 4})`"
      >
        <rect class="body" :width="cell.width - 4" :height="cell.height - 6" />
        <rect
          class="charge"
          x="2"
          :y="2"
          :width="Math.max(cell.width - 8, 1)"
          :height="Math.max(cell.height - 10, 1)"
        />
        <path class="pole" :d="`M${(cell.width - 4) * 0.25} 0v-3M${(cell.width - 4) * 0.75} 0v-3`" />
      </g>
    </svg>
    <figcaption class="lesser">{{ series }} in series × {{ parallel }} in parallel</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  flex: none;
}

figcaption {
  font-size: 12.5px;
}

.body {
  fill: none;
  stroke: var(--ink);
}

.charge {
  fill: var(--ember);
  opacity: 0.3;
}

.pole {
  stroke: var(--ink);
  stroke-width: 3;
}
</style>
