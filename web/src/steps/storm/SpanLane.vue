<script setup lang="ts">
/**
 * Warning, start and length of the outage as one drawn line on a scale of its own. Three grips are dragged: the warning before it,
 * its start, its end. By keys on a grip: Left and Right by an hour, Page Up and Page Down by a day, Home to the least.
 */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useId, useTemplateRef } from 'vue'

import { calendarMoment, hours } from '@/shared/format'

const props = defineProps<{
  /** Local standard time. */
  start: string
  warning_h: number
  duration_h: number
  /** Without a grid there is no warning. */
  hasWarning: boolean
}>()
const emit = defineEmits<{
  change: [change: { start?: string; warning_h?: number; duration_h?: number }]
}>()

type Grip = 'warning' | 'start' | 'end'
const LIMITS = { warning: { least: 0, most: 240 }, end: { least: 1, most: 720 } } as const
const HEIGHT = 34
const DAY_H = 24

const plot = useTemplateRef('plot')
const hatch = useId()
const { width } = useElementSize(plot)
/** While a grip is dragged: which, where it was taken, where it is, and the scale it began on. */
const dragged = ref<{ grip: Grip; by_h: number; at_h: number; from_h: number; to_h: number } | null>(null)
const shiftOf = (grip: Grip) => (dragged.value?.grip === grip ? dragged.value.by_h : 0)

const now = computed(() => ({
  shift_h: shiftOf('start'),
  warning_h: within('warning', props.warning_h - shiftOf('warning')),
  duration_h: within('end', props.duration_h + shiftOf('end')),
}))
const scale = computed(() => {
  if (dragged.value) return dragged.value
  const room_h = 0.2 * props.duration_h + 4
  return { from_h: props.hasWarning ? -props.warning_h - room_h : -room_h, to_h: props.duration_h + room_h }
})
const x = (hour: number) =>
  ((hour - scale.value.from_h) / (scale.value.to_h - scale.value.from_h)) * width.value
const begins = computed(() => moved(props.start, now.value.shift_h))
const grips = computed(() => [
  ...(props.hasWarning
    ? [
        {
          key: 'warning' as const,
          label: 'Warning before the outage',
          at: now.value.shift_h - now.value.warning_h,
          value: now.value.warning_h,
          text: `${hours(now.value.warning_h)} of warning`,
        },
      ]
    : []),
  {
    key: 'start' as const,
    label: 'Start of the outage',
    at: now.value.shift_h,
    value: 0,
    text: `starts ${calendarMoment(begins.value)}`,
  },
  {
    key: 'end' as const,
    label: 'Length of the outage',
    at: now.value.shift_h + now.value.duration_h,
    value: now.value.duration_h,
    text: `${hours(now.value.duration_h)} long`,
  },
])
const said = computed(() => grips.value.map((grip) => grip.text).join(', '))
const bar = computed(() => ({
  left: x(now.value.shift_h),
  right: x(now.value.shift_h + now.value.duration_h),
}))

function within(grip: 'warning' | 'end', value: number): number {
  const { least, most } = LIMITS[grip]
  return Math.min(Math.max(value, least), most)
}

/** Another moment on the same clock, which knows no summer time. */
function moved(start: string, by_h: number): string {
  return new Date(Date.parse(`${start}Z`) + by_h * 3_600_000).toISOString().slice(0, 19)
}

/** Give a grip so many hours more to the right. */
function shift(grip: Grip, by_h: number): void {
  if (!by_h) return
  if (grip === 'start') emit('change', { start: moved(props.start, by_h) })
  else if (grip === 'warning') emit('change', { warning_h: within('warning', props.warning_h - by_h) })
  else emit('change', { duration_h: within('end', props.duration_h + by_h) })
}

function hourAt(event: PointerEvent): number {
  const box = plot.value?.getBoundingClientRect()
  const part = box ? (event.clientX - box.left) / Math.max(box.width, 1) : 0
  return scale.value.from_h + part * (scale.value.to_h - scale.value.from_h)
}

function begin(event: PointerEvent, grip: Grip): void {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  dragged.value = { grip, by_h: 0, at_h: hourAt(event), ...scale.value }
}

function move(event: PointerEvent): void {
  if (dragged.value)
    dragged.value = { ...dragged.value, by_h: Math.round(hourAt(event) - dragged.value.at_h) }
}

function end(): void {
  const done = dragged.value
  dragged.value = null
  if (done) shift(done.grip, done.by_h)
}

const STEPS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  PageDown: -DAY_H,
  PageUp: DAY_H,
}

function onKey(event: KeyboardEvent, grip: Grip): void {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  const step = STEPS[event.key]
  // More warning is further to the left: up and right are more of it all the same.
  if (step) shift(grip, grip === 'warning' ? -step : step)
  else if (event.key === 'Home' && grip !== 'start')
    emit('change', grip === 'warning' ? { warning_h: 0 } : { duration_h: LIMITS.end.least })
  else return
  event.preventDefault()
}
</script>

<template>
  <div ref="plot" class="span" :title="said" data-test="lane-span">
    <svg :width="width" :height="HEIGHT">
      <defs>
        <pattern :id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path class="hatch" d="M0 0v6" />
        </pattern>
      </defs>
      <rect
        v-if="hasWarning && now.warning_h > 0"
        :fill="`url(#${hatch})`"
        :x="x(now.shift_h - now.warning_h)"
        y="15"
        :width="Math.max(bar.left - x(now.shift_h - now.warning_h), 0)"
        height="14"
      />
      <rect class="out" :x="bar.left" y="15" :width="Math.max(bar.right - bar.left, 1)" height="14" />
      <text :x="bar.left + 4" y="11">{{ calendarMoment(begins) }}</text>
      <text :x="(bar.left + bar.right) / 2" y="26" text-anchor="middle">{{ hours(now.duration_h) }}</text>
      <text v-if="hasWarning && now.warning_h > 0" :x="bar.left - 6" y="11" text-anchor="end">
        warned {{ hours(now.warning_h) }} before
      </text>
      <g
        v-for="grip in grips"
        :key="grip.key"
        class="grip"
        tabindex="0"
        role="slider"
        :aria-label="grip.label"
        :aria-valuenow="grip.value"
        aria-valuemin="0"
        aria-valuemax="720"
        :aria-valuetext="grip.text"
        :data-test="`grip-${grip.key}`"
        @pointerdown="begin($event, grip.key)"
        @pointermove="move"
        @pointerup="end"
        @pointercancel="dragged = null"
        @keydown="onKey($event, grip.key)"
      >
        <rect class="reach" :x="x(grip.at) - 9" y="12" width="18" height="20" />
        <rect class="bar" :x="x(grip.at) - 2.5" y="13" width="5" height="18" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.span {
  height: 34px;
  min-width: 0;
}

svg {
  display: block;
  overflow: visible;
}

.out {
  fill: var(--dusk);
}

.hatch {
  stroke: var(--slate);
  stroke-width: 1.5;
}

text {
  font-size: 11.5px;
  fill: var(--ink);
}

.grip {
  cursor: ew-resize;
  touch-action: none;
  outline: none;
}

.reach {
  fill: transparent;
}

.bar {
  fill: var(--ink);
}

.grip:focus-visible .reach {
  stroke: var(--pine);
  stroke-width: 2;
}

.grip:focus-visible .bar {
  fill: var(--pine);
}
</style>
