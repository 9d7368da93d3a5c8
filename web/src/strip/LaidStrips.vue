<script setup lang="ts">
/** Strips of several designs under one time axis, one cursor on all of them; read by hovering and by keys. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useId, useTemplateRef } from 'vue'

import PictureTools from '@/charts/PictureTools.vue'
import RowsTable from '@/charts/RowsTable.vue'
import { count, dayAndTime, hours, percent } from '@/shared/format'
import type { LaidStrip } from '@/api/client'
import { useDesign } from '@/design/store'
import { storeToRefs } from 'pinia'

const props = defineProps<{
  laid: readonly {
    key: string
    title: string
    strip: LaidStrip
    duration_h: number
    hours_carried_h: number
  }[]
  /** What they are, for its name. */
  label: string
}>()
const { document } = storeToRefs(useDesign())
/** A strip below the line with its title and reading. */
const HEAD = 17
const GAP = 9
const EDGE = 14
const AXIS = 20
const clip = useId()
const plot = useTemplateRef('plot')
const { width } = useElementSize(plot)
/** Hours from the start under the cursor; none where it is away. */
const at_h = ref<number | null>(null)

/** A wide window has the room for taller ones. */
const height = computed(() => Math.round(Math.min(Math.max(width.value / 20, 40), 72)))
const longest_h = computed(() => Math.max(...props.laid.map((one) => one.duration_h), 1e-9))
const most_w = computed(() =>
  Math.max(...props.laid.flatMap(({ strip }) => [...strip.sun_w, ...strip.served_w]), 1),
)
const span = computed(() => Math.max(width.value - 2 * EDGE, 60))
const x = (time_h: number) => EDGE + (span.value * time_h) / longest_h.value
const top = (row: number) => HEAD + row * (HEAD + height.value + GAP)
const foot = computed(() => top(props.laid.length - 1) + height.value)

/** Drawn once a change, not once a cursor's move. */
const drawn = computed(() =>
  props.laid.map((one, row) => {
    const strip = one.strip
    const y = (part: number) => top(row) + height.value * (1 - part)
    const line = strip.time_h.map(
      (time_h, index) => `${x(time_h).toFixed(1)} ${y(strip.stored_frac[index] ?? 0).toFixed(1)}`,
    )
    const steps = (watts: readonly number[]) =>
      strip.time_h
        .slice(0, -1)
        .map((time_h, index) => {
          const level = y((watts[index] ?? 0) / most_w.value).toFixed(1)
          return `${x(time_h).toFixed(1)} ${level}L${x(strip.time_h[index + 1] ?? time_h).toFixed(1)} ${level}`
        })
        .join('L')
    const end = x(strip.time_h.at(-1) ?? 0)
    const spans = (pairs: readonly (readonly number[])[]) =>
      pairs.map(([from = 0, to = 0]) => ({ x: x(from), width: Math.max(x(to) - x(from), 0) }))
    return {
      key: one.key,
      title: one.title,
      top: top(row),
      charge: `M${line.join('L')}`,
      area: `M${x(0)} ${y(0)}L${line.join('L')}L${end} ${y(0)}z`,
      sun: `M${steps(strip.sun_w)}`,
      served: `M${steps(strip.served_w)}`,
      nights: spans(strip.nights_h),
      dark: spans(strip.dark_h),
    }
  }),
)
const ticks = computed(() => {
  const step = [3, 6, 12, 24, 48, 72, 120, 168].find((one) => longest_h.value / one <= 8) ?? 240
  return Array.from({ length: Math.floor(longest_h.value / step) + 1 }, (_, index) => index * step)
})

function indexAt(times: readonly number[], time_h: number): number {
  let low = 0
  let high = times.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if ((times[middle] ?? 0) <= time_h) low = middle
    else high = middle - 1
  }
  return low
}
const readings = computed(() =>
  props.laid.map((column) => {
    const now_h = at_h.value
    if (now_h === null) return hours(column.hours_carried_h)
    if (now_h > column.duration_h) return 'over'
    const { strip } = column
    const index = indexAt(strip.time_h, now_h)
    const isDark = strip.dark_h.some(([from = 0, to = 0]) => from <= now_h && now_h < to)
    return `${percent(strip.stored_frac[index] ?? 0)}, ${isDark ? 'dark' : `${count(strip.served_w[index] ?? 0)} W`}`
  }),
)
const said = computed(() => {
  if (at_h.value === null || !document.value)
    return 'Charge of the bank, sun and what is served under one axis; at the right, hours carried. Point at a moment to read all of them.'
  return `At ${hours(Math.round(at_h.value * 60) / 60)}, ${dayAndTime(document.value.outage.start, at_h.value)}: charge, and what is served.`
})

function move(event: PointerEvent): void {
  const box = plot.value?.getBoundingClientRect()
  if (!box) return
  const time_h = ((event.clientX - box.left - EDGE) / span.value) * longest_h.value
  at_h.value = time_h >= 0 && time_h <= longest_h.value ? time_h : null
}

function onKey(event: KeyboardEvent): void {
  const step = event.shiftKey ? 6 : 1
  const now = at_h.value ?? 0
  if (event.key === 'ArrowRight') at_h.value = Math.min(Math.floor(now) + step, longest_h.value)
  else if (event.key === 'ArrowLeft') at_h.value = Math.max(Math.ceil(now) - step, 0)
  else if (event.key === 'Home') at_h.value = 0
  else if (event.key === 'End') at_h.value = longest_h.value
  else if (event.key === 'Escape') at_h.value = null
  else return
  event.preventDefault()
}

const tableRows = () => [
  ['Hours from the start', ...props.laid.map((one) => `${one.title}, charge %`)],
  ...Array.from({ length: Math.floor(longest_h.value) + 1 }, (_, time_h) => [
    time_h,
    ...props.laid.map((one) => {
      const strip = one.strip
      return time_h > one.duration_h
        ? ''
        : Math.round((strip.stored_frac[indexAt(strip.time_h, time_h)] ?? 0) * 1000) / 10
    }),
  ]),
]
</script>

<template>
  <figure class="laid" data-test="laid">
    <p class="lesser" aria-live="polite" data-test="laid-reading">{{ said }}</p>
    <div
      ref="plot"
      class="plot"
      tabindex="0"
      role="group"
      :aria-label="`${label}; arrow keys read them`"
      @pointermove="move"
      @pointerdown="move"
      @pointerleave="at_h = null"
      @keydown="onKey"
      @blur="at_h = null"
    >
      <svg v-if="width > 80 && drawn.length" :width="width" :height="foot + AXIS" aria-hidden="true">
        <clipPath :id="clip"><rect x="0" y="0" :width="EDGE + span - 130" :height="foot" /></clipPath>
        <g v-for="row in drawn" :key="row.key">
          <rect
            v-for="night in row.nights"
            :key="night.x"
            class="night"
            v-bind="night"
            :y="row.top"
            :height="height"
          />
          <path class="area" :d="row.area" />
          <path class="sun" :d="row.sun" />
          <path class="served" :d="row.served" />
          <path class="charge" :d="row.charge" />
          <rect
            v-for="part in row.dark"
            :key="part.x"
            class="dark"
            v-bind="part"
            :y="row.top + height - 6"
            height="6"
          />
          <rect class="frame" :x="EDGE" :y="row.top" :width="span" :height="height" />
          <text class="title" :x="EDGE" :y="row.top - 4" :clip-path="`url(#${clip})`">{{ row.title }}</text>
        </g>
        <text
          v-for="(reading, row) in readings"
          :key="row"
          class="reading"
          :x="EDGE + span"
          :y="top(row) - 4"
          text-anchor="end"
        >
          {{ reading }}
        </text>
        <text v-for="tick in ticks" :key="tick" class="tick" :x="x(tick)" :y="foot + 15" text-anchor="middle">
          {{ tick }} h
        </text>
        <line v-if="at_h !== null" class="cursor" :x1="x(at_h)" :x2="x(at_h)" y1="0" :y2="foot" />
      </svg>
    </div>
    <PictureTools :label="label" :picture="() => plot?.querySelector('svg')" :rows="tableRows">
      <RowsTable :rows="tableRows()" />
    </PictureTools>
  </figure>
</template>

<style scoped>
.laid {
  margin: 0;
}

p {
  margin: 0 0 4px;
}

.night {
  fill: var(--dusk);
}

.area {
  fill: var(--ember);
  opacity: 0.22;
}

.charge,
.sun,
.served,
.frame {
  fill: none;
}

.charge {
  stroke: var(--ember);
  stroke-width: 1.6;
}

.sun {
  stroke: var(--sun);
  stroke-width: 1.4;
}

.served {
  stroke: var(--ink);
  stroke-dasharray: 2 2;
}

.frame {
  stroke: var(--rule);
}

.dark {
  fill: var(--wine);
}

.cursor {
  stroke: var(--ink);
  pointer-events: none;
}

.title {
  font-weight: 600;
}

text {
  fill: var(--ink);
  font-size: 13px;
}

.reading {
  font-family: var(--hk-figures);
  font-size: 12.5px;
}

.tick {
  fill: var(--slate);
  font-size: 12px;
}
</style>
