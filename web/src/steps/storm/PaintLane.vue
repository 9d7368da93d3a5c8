<script setup lang="ts">
/**
 * One lane of the storm's timeline, painted by dragging: the cell pressed takes the next value, and those dragged over take
 * the same. By keys: arrows move, Space takes the next value, a digit its own, and Shift with an arrow paints along.
 */
import { computed, ref, useTemplateRef } from 'vue'

import { runsOf, type LaneCell } from './lane'
import { useLane } from './useLane'

const props = defineProps<{
  label: string
  cells: readonly LaneCell[]
  values: readonly number[]
  /** Of each value: its name, and how it is drawn. */
  choices: readonly { title: string; look: string }[]
  duration_h: number
  /** What a cell is called when it is read out. */
  named: (at: number) => string
  /** Seen, not painted. */
  fixed?: boolean
}>()
const emit = defineEmits<{ change: [values: number[]] }>()

const { width, x, cellAt, active, moveTo, target, hasFocus } = useLane(
  useTemplateRef('plot'),
  () => props.cells,
  () => props.duration_h,
)
const painting = ref<number[] | null>(null)
const brush = ref(0)
const shown = computed(() => painting.value ?? props.values)
const HEIGHT = 22
const runs = computed(() =>
  runsOf(shown.value).map((run) => {
    const left = x(props.cells[run.from]?.from_h ?? 0)
    const choice = props.choices[run.value]
    const wide = x(props.cells[run.to - 1]?.to_h ?? 0) - left
    return {
      ...run,
      left,
      wide,
      look: choice?.look ?? '',
      // About so many pixels a letter; what does not fit is read by hovering.
      text: choice && 6.6 * choice.title.length + 8 < wide ? choice.title : '',
    }
  }),
)
/** Days of one sky are still days. */
const edges = computed(() => props.cells.map((cell) => `M${x(cell.to_h) - 0.5} 1v${HEIGHT - 4}`).join(''))
const marked = computed(() => props.cells[active.value])
const said = computed(
  () => `${props.named(active.value)}: ${props.choices[shown.value[active.value] ?? 0]?.title ?? ''}`,
)

const next = (value: number) => (value + 1) % props.choices.length

function begin(event: PointerEvent): void {
  if (props.fixed) return
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  moveTo(cellAt(event))
  brush.value = next(props.values[active.value] ?? 0)
  painting.value = [...props.values]
  paint(active.value, active.value)
}

/** A quick hand skips cells between two events: all of them are painted. */
function paint(from: number, to: number): void {
  const [least, most] = [Math.min(from, to), Math.max(from, to)]
  painting.value = (painting.value ?? props.values).map((value, at) =>
    at >= least && at <= most ? brush.value : value,
  )
}

function move(event: PointerEvent): void {
  const at = cellAt(event)
  if (painting.value) paint(active.value, at)
  moveTo(at)
}

function end(): void {
  if (painting.value) emit('change', painting.value)
  painting.value = null
}

function set(at: number, value: number): void {
  emit(
    'change',
    props.values.map((held, index) => (index === at ? value : held)),
  )
}

function onKey(event: KeyboardEvent): void {
  if (event.altKey || event.ctrlKey || event.metaKey) return
  const to = target(event.key)
  const value = valueOf(event.key)
  if (to !== null) {
    if (event.shiftKey && event.key.startsWith('Arrow') && !props.fixed && to !== active.value)
      set(to, props.values[active.value] ?? 0)
    moveTo(to)
  } else if (value === null) return
  else if (!props.fixed) set(active.value, value)
  // The lane's own keys are taken where nothing is painted too: Space would scroll the page away from under the hand.
  event.preventDefault()
}

/** What a key paints; none where it paints nothing. */
function valueOf(key: string): number | null {
  if (key === ' ') return next(props.values[active.value] ?? 0)
  const digit = Number(key)
  return digit >= 1 && digit <= props.choices.length ? digit - 1 : null
}
</script>

<template>
  <div
    ref="plot"
    class="lane"
    :class="{ fixed }"
    tabindex="0"
    role="slider"
    :aria-label="label"
    aria-valuemin="0"
    :aria-valuemax="cells.length - 1"
    :aria-valuenow="active"
    :aria-valuetext="said"
    :aria-readonly="fixed || undefined"
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
      <rect
        v-for="run in runs"
        :key="run.from"
        :class="run.look"
        :x="run.left"
        y="1"
        :width="Math.max(run.wide - 1, 0.5)"
        :height="HEIGHT - 4"
      />
      <path v-if="cells.length <= 31" class="edge" :d="edges" />
      <template v-for="run in runs" :key="`text ${run.from}`">
        <text
          v-if="run.text"
          :class="run.look"
          :x="run.left + run.wide / 2"
          :y="HEIGHT - 8"
          text-anchor="middle"
        >
          {{ run.text }}
        </text>
      </template>
      <path
        v-if="hasFocus && marked"
        class="active"
        :d="`M${x(marked.from_h)} ${HEIGHT - 1.5}H${x(marked.to_h)}`"
      />
    </svg>
  </div>
</template>

<style scoped>
.lane {
  height: 22px;
  min-width: 0;
  cursor: pointer;
  touch-action: pan-y;
}

.fixed {
  cursor: default;
}

svg {
  display: block;
}

text {
  font-size: 11.5px;
  fill: var(--ink);
}

.clear {
  fill: var(--sun);
}

text.clear {
  fill: var(--bar);
}

.broken {
  fill: var(--sun);
}

rect.broken {
  opacity: 0.5;
}

.overcast {
  fill: var(--dusk);
}

.covered,
.away {
  fill: var(--slate);
}

rect.none {
  fill: var(--idle);
}

.grid,
.open {
  fill: var(--pine);
}

text.broken,
text.overcast {
  fill: var(--ink);
}

text.covered,
text.away,
text.grid,
.open {
  fill: var(--paper);
}

text.none {
  fill: var(--slate);
}

.edge {
  stroke: var(--paper);
}

.active {
  stroke: var(--pine);
  stroke-width: 3;
}
</style>
