<script setup lang="ts">
/**
 * What every plot has: a line of words above it, the plot itself as wide as its place, read by the pointer and by keys,
 * and below it its numbers as a table and its files. What is drawn and which place is read is its owner's.
 */
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef, watch } from 'vue'

import PictureTools from './PictureTools.vue'

const props = defineProps<{
  /** What the picture shows, for those who hear it. */
  label: string
  /** Of the drawing [px]. */
  height: number
  /** The last place that can be read, and what stands at the one that is. */
  last: number
  told: string
  /** The place that is held while none is read. */
  held?: number
  /** Header and rows of its numbers. */
  rows: () => (string | number)[][]
  /** Names reading and plot for the tests. */
  test: string
}>()
const emit = defineEmits<{
  /** The pointer is at, or went down at, a place of the plot's box. */
  over: [event: PointerEvent, box: DOMRect]
  press: [event: PointerEvent, box: DOMRect]
  key: [event: KeyboardEvent]
}>()
/** The place that is read; none while nothing points at the plot. */
const at = defineModel<number | null>('at', { required: true })
/** As wide as there is room for [px]; 0 until that is known. */
const width = defineModel<number>('width', { required: true })
const plot = useTemplateRef('plot')
const { width: measured } = useElementSize(plot)
watch(measured, (now) => (width.value = now), { immediate: true })
const now = computed(() => Math.max(at.value ?? props.held ?? 0, 0))

function point(name: 'over' | 'press', event: PointerEvent): void {
  const box = plot.value?.getBoundingClientRect()
  if (!box || props.last < 0) return
  if (name === 'over') emit('over', event, box)
  else emit('press', event, box)
}
</script>

<template>
  <figure class="chart">
    <p class="reading" :data-test="`${test}-reading`"><slot name="reading" /></p>
    <div
      ref="plot"
      class="plot"
      tabindex="0"
      role="slider"
      :aria-label="label"
      aria-valuemin="0"
      :aria-valuemax="Math.max(last, 0)"
      :aria-valuenow="now"
      :aria-valuetext="told"
      :data-test="`${test}-plot`"
      @pointermove="point('over', $event)"
      @pointerdown="point('press', $event)"
      @pointerleave="at = null"
      @keydown="emit('key', $event)"
      @blur="at = null"
    >
      <svg :width="width" :height="height" aria-hidden="true"><slot /></svg>
    </div>
    <PictureTools :label="label" :picture="() => plot?.querySelector('svg')" :rows="rows">
      <slot name="table" />
    </PictureTools>
  </figure>
</template>

<style scoped>
.chart {
  min-width: 0;
}

.reading {
  display: flex;
  flex-wrap: wrap;
  gap: 0 16px;
  min-height: 20px;
  margin: 0;
  font-size: 13px;
}

.plot {
  min-width: 0;
  overflow: hidden;
  cursor: crosshair;
  touch-action: pan-y;
}

svg {
  display: block;
}

/* What is drawn by its owner, which may say otherwise. */
:where(.plot) :deep(text) {
  font-size: 11.5px;
  fill: var(--slate);
}

:where(.plot) :deep(.grid line) {
  stroke: var(--rule);
}

:where(.plot) :deep(.axis) {
  stroke: var(--ink);
}
</style>
