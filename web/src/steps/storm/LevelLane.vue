<script setup lang="ts">
/**
 * One lane of the storm's timeline with a number of each day, drawn as a bar from the lane's foot: dragged up and down, and
 * along over several days. By keys: Left and Right choose a day, Up and Down change it by one, Page Up and Page Down by five,
 * Shift with an arrow carries it along.
 */
import { computed, ref, useTemplateRef } from 'vue'

import type { Unit } from '@/fields/units'

import type { LaneCell } from './lane'
import { useLane } from './useLane'

const props = defineProps<{
  label: string
  cells: readonly LaneCell[]
  /** Of each cell, in the design's unit. */
  values: readonly number[]
  unit: Unit
  /** What is accepted, in the design's unit. */
  least: number
  most: number
  duration_h: number
  named: (at: number) => string
}>()
const emit = defineEmits<{ change: [values: number[]] }>()

/** The lane shows at least so much of the scale, and so much room above and below what is entered, in the screen's unit. */
const LEAST_SPAN = 24
const ROOM = 6
const HEIGHT = 44

const { width, x, cellAt, active, moveTo, target, hasFocus } = useLane(
  useTemplateRef('plot'),
  () => props.cells,
  () => props.duration_h,
)
const limits = computed(() => ({ least: props.unit.show(props.least), most: props.unit.show(props.most) }))
const held = computed(() => props.values.map((value) => props.unit.show(value)))
/** While a hand drags, what it has painted and the scale it began on. */
const painting = ref<{ values: number[]; from: number; to: number } | null>(null)
const shown = computed(() => painting.value?.values ?? held.value)
const scale = computed(() => {
  if (painting.value) return painting.value
  const [low, high] = [Math.min(...held.value) - ROOM, Math.max(...held.value) + ROOM]
  const more = Math.max(LEAST_SPAN - (high - low), 0) / 2
  const from = Math.max(low - more, limits.value.least)
  return { from, to: Math.max(Math.min(high + more, limits.value.most), from + LEAST_SPAN) }
})
const y = (value: number) =>
  HEIGHT - 4 - ((value - scale.value.from) / (scale.value.to - scale.value.from)) * (HEIGHT - 8)
const said = computed(() => `${props.named(active.value)}: ${text(shown.value[active.value] ?? 0)}`)
const bars = computed(() =>
  props.cells.map((cell, at) => {
    const [left, wide] = [x(cell.from_h), x(cell.to_h) - x(cell.from_h)]
    const value = shown.value[at] ?? 0
    const top = Math.min(Math.max(y(value), 2), HEIGHT - 4)
    // Above the bar where there is room, else inside it; a narrow day is read by hovering.
    return { left, wide, top, text: wide > 46 ? text(value) : '', textY: top > 16 ? top - 4 : top + 13 }
  }),
)

function text(value: number): string {
  return `${String(Math.round(10 * value) / 10).replace('-', '−')} ${props.unit.label}`
}

function within(value: number): number {
  return Math.min(Math.max(value, limits.value.least), limits.value.most)
}

function send(values: readonly number[]): void {
  // What was not touched stays as it was entered, to its last digit.
  emit(
    'change',
    values.map((value, at) => (value === held.value[at] ? (props.values[at] ?? 0) : props.unit.keep(value))),
  )
}

function under(event: PointerEvent): number {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const part = (HEIGHT - 4 - (event.clientY - box.top)) / (HEIGHT - 8)
  return within(Math.round(scale.value.from + part * (scale.value.to - scale.value.from)))
}

function begin(event: PointerEvent): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  moveTo(cellAt(event))
  painting.value = { values: [...held.value], ...scale.value }
  paint(active.value, active.value, under(event))
}

/** A quick hand skips days between two events: all of them are painted. */
function paint(from: number, to: number, value: number): void {
  if (!painting.value) return
  const [least, most] = [Math.min(from, to), Math.max(from, to)]
  painting.value = {
    ...painting.value,
    values: painting.value.values.map((was, at) => (at >= least && at <= most ? value : was)),
  }
}

function move(event: PointerEvent): void {
  const at = cellAt(event)
  if (painting.value) paint(active.value, at, under(event))
  moveTo(at)
}

function end(): void {
  if (painting.value) send(painting.value.values)
  painting.value = null
}

const STEPS: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }

function set(at: number, value: number): void {
  send(held.value.map((was, index) => (index === at ? within(value) : was)))
}

function onKey(event: KeyboardEvent): void {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  const step = STEPS[event.key]
  const to = target(event.key)
  const value = held.value[active.value] ?? 0
  if (step) set(active.value, Math.round(value) + step)
  else if (to !== null) {
    if (event.shiftKey && event.key.startsWith('Arrow')) set(to, value)
    moveTo(to)
  } else return
  event.preventDefault()
}
</script>

<template>
  <div
    ref="plot"
    class="lane"
    tabindex="0"
    role="slider"
    :aria-label="label"
    aria-valuemin="0"
    :aria-valuemax="cells.length - 1"
    :aria-valuenow="active"
    :aria-valuetext="said"
    :title="said"
    @pointerdown="begin"
    @pointermove="move"
    @pointerup="end"
    @pointercancel="painting = null"
    @keydown="onKey"
    @focus="hasFocus = true"
    @blur="hasFocus = false"
  >
    <svg :width="width" :height="HEIGHT" aria-hidden="true">
      <g v-for="(bar, at) in bars" :key="at">
        <rect
          class="bar"
          :x="bar.left"
          :y="bar.top"
          :width="Math.max(bar.wide - 1, 0.5)"
          :height="Math.max(HEIGHT - 3 - bar.top, 0)"
        />
        <path class="top" :d="`M${bar.left} ${bar.top}h${Math.max(bar.wide - 1, 0.5)}`" />
        <text v-if="bar.text" :x="bar.left + bar.wide / 2" :y="bar.textY" text-anchor="middle">
          {{ bar.text }}
        </text>
      </g>
      <path
        v-if="hasFocus && cells[active]"
        class="active"
        :d="`M${x(cells[active]?.from_h ?? 0)} ${HEIGHT - 1.5}H${x(cells[active]?.to_h ?? 0)}`"
      />
    </svg>
  </div>
</template>

<style scoped>
.lane {
  height: 44px;
  min-width: 0;
  cursor: ns-resize;
  touch-action: none;
}

svg {
  display: block;
}

.bar {
  fill: var(--idle);
}

.top {
  stroke: var(--slate);
  stroke-width: 2;
}

text {
  font-size: 11.5px;
  fill: var(--ink);
  font-family: var(--hk-figures);
}

.active {
  stroke: var(--pine);
  stroke-width: 3;
}
</style>
