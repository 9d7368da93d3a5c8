<script setup lang="ts">
/** One quantity over time: the span between lowest and highest as a band, the mean as a line, events as marks below. */
import { computed, ref } from 'vue'

import PlotFrame from '@/charts/PlotFrame.vue'
import { placeAfter, placeAt } from '@/charts/reading'
import { amount, savedAt } from '@/shared/format'

export interface Mark {
  at: number
  text: string
}

const props = defineProps<{
  label: string
  unit: string
  /** Moments [ms since 1970] and readings there. */
  at: readonly number[]
  low: readonly number[]
  mean: readonly number[]
  high: readonly number[]
  marks: readonly Mark[]
}>()
const LEFT = 52
const RIGHT = 12
const HEIGHT = 190
/** Where readings lie this many times the usual distance apart the line is broken. */
const GAP_TIMES = 4
const width = ref(0)
const index = ref<number | null>(null)
const last = computed(() => props.at.length - 1)
const inner = computed(() => Math.max(width.value - LEFT - RIGHT, 10))
const from = computed(() => props.at[0] ?? 0)
const to = computed(() => Math.max(props.at[last.value] ?? 1, from.value + 1))
const x = (moment: number) => ((moment - from.value) / (to.value - from.value)) * inner.value

/** A round step that parts the range in about five. */
function stepOf(range: number): number {
  const rough = range / 5
  const power = 10 ** Math.floor(Math.log10(rough))
  return ([1, 2, 2.5, 5, 10].find((each) => each * power >= rough) ?? 10) * power
}
const range = computed(() => {
  const lowest = Math.min(...props.low)
  const highest = Math.max(...props.high)
  const step = stepOf(Math.max(highest - lowest, Math.abs(highest) * 1e-3, 1e-6))
  return { bottom: Math.floor(lowest / step) * step, top: Math.ceil(highest / step) * step || step, step }
})
const y = (value: number) =>
  HEIGHT - ((value - range.value.bottom) / (range.value.top - range.value.bottom || 1)) * HEIGHT
const levels = computed(() => {
  const { bottom, top, step } = range.value
  return Array.from({ length: Math.round((top - bottom) / step) + 1 }, (_, at) => bottom + at * step)
})
/** Stretches without a gap: first and last place. */
const stretches = computed(() => {
  const apart = props.at.slice(1).map((moment, at) => moment - (props.at[at] ?? 0))
  const usual = [...apart].sort((one, other) => one - other)[Math.floor(apart.length / 2)] ?? 0
  const found: [number, number][] = []
  let first = 0
  apart.forEach((gap, at) => {
    if (gap > GAP_TIMES * usual) {
      found.push([first, at])
      first = at + 1
    }
  })
  found.push([first, last.value])
  return found
})
const point = (at: number, value: number | undefined) =>
  `${x(props.at[at] ?? 0).toFixed(1)} ${y(value ?? 0).toFixed(1)}`
const places = ([first, end]: [number, number]) =>
  Array.from({ length: end - first + 1 }, (_, at) => first + at)
const lines = computed(() =>
  stretches.value.map((stretch) => {
    const own = places(stretch)
    // A single reading is a dot.
    return own.length === 1
      ? `M${point(own[0] ?? 0, props.mean[own[0] ?? 0])}h0.1`
      : `M${own.map((at) => point(at, props.mean[at])).join('L')}`
  }),
)
const bands = computed(() =>
  stretches.value.map((stretch) => {
    const own = places(stretch)
    const above = own.map((at) => point(at, props.high[at]))
    const below = [...own].reverse().map((at) => point(at, props.low[at]))
    return `M${[...above, ...below].join('L')}Z`
  }),
)
const ticks = computed(() => {
  const count = Math.max(Math.floor(inner.value / 110), 1)
  return Array.from({ length: count + 1 }, (_, at) => from.value + ((to.value - from.value) * at) / count)
})
const day = (moment: number) =>
  new Date(moment).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: '2-digit' })
const near = computed(() => {
  if (index.value === null) return null
  const moment = props.at[index.value] ?? 0
  const reach = (to.value - from.value) / 60
  return props.marks.filter((mark) => Math.abs(mark.at - moment) < reach).slice(0, 3)
})
const told = computed(() => {
  if (index.value === null) return props.label
  const at = index.value
  return `${savedAt(new Date(props.at[at] ?? 0).toISOString())}: ${amount(props.mean[at] ?? 0)} ${props.unit}`
})
const rows = () => [
  ['Time', `Lowest ${props.unit}`, `Mean ${props.unit}`, `Highest ${props.unit}`],
  ...props.at.map((moment, at) => [
    new Date(moment).toISOString(),
    props.low[at] ?? 0,
    props.mean[at] ?? 0,
    props.high[at] ?? 0,
  ]),
]

function move(event: PointerEvent, box: DOMRect): void {
  const moment = placeAt(event.clientX, box, { from: from.value, to: to.value }, { left: LEFT, right: RIGHT })
  let best = 0
  props.at.forEach((each, at) => {
    if (Math.abs(each - moment) < Math.abs((props.at[best] ?? 0) - moment)) best = at
  })
  index.value = best
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Escape') index.value = null
  else {
    const next = placeAfter(event, index.value ?? -1, { from: 0, to: last.value, stride: 1, far: 20 })
    if (next === null) return
    index.value = Math.max(next, 0)
  }
  event.preventDefault()
}
</script>

<template>
  <PlotFrame
    v-model:at="index"
    v-model:width="width"
    class="log-plot"
    :label="label"
    :height="HEIGHT + 40"
    :last="last"
    :told="told"
    :rows="rows"
    test="log"
    @over="move"
    @press="move"
    @key="onKey"
  >
    <template #reading>
      <template v-if="index !== null">
        <b>{{ savedAt(new Date(at[index] ?? 0).toISOString()) }}</b>
        <span class="figures">{{ amount(mean[index] ?? 0) }} {{ unit }}</span>
        <span class="lesser figures">{{ amount(low[index] ?? 0) }} to {{ amount(high[index] ?? 0) }}</span>
        <span v-for="mark in near ?? []" :key="mark.at + mark.text">{{ mark.text }}</span>
      </template>
      <span v-else class="lesser">{{ label }}, {{ unit }}: mean as a line, lowest to highest as a band</span>
    </template>
    <g v-if="width > 80" :transform="`translate(${LEFT} 8)`">
      <g v-for="level in levels" :key="level" class="grid">
        <line x1="0" :x2="inner" :y1="y(level)" :y2="y(level)" />
        <text x="-6" :y="y(level) + 4" text-anchor="end">{{ amount(level) }}</text>
      </g>
      <path v-for="(band, at2) in bands" :key="`b${at2}`" class="band" :d="band" />
      <path v-for="(line, at2) in lines" :key="`l${at2}`" class="line" :d="line" />
      <g v-for="mark in marks" :key="`${mark.at}${mark.text}`">
        <path v-if="mark.at >= from && mark.at <= to" class="mark" :d="`M${x(mark.at)} ${HEIGHT}l-4 8h8z`" />
      </g>
      <line class="axis" x1="0" :x2="inner" :y1="HEIGHT" :y2="HEIGHT" />
      <text
        v-for="(tick, at2) in ticks"
        :key="tick"
        :x="x(tick)"
        :y="HEIGHT + 24"
        :text-anchor="at2 === 0 ? 'start' : at2 === ticks.length - 1 ? 'end' : 'middle'"
      >
        {{ day(tick) }}
      </text>
      <line
        v-if="index !== null"
        data-cursor
        class="cursor"
        :x1="x(at[index] ?? 0)"
        :x2="x(at[index] ?? 0)"
        y1="0"
        :y2="HEIGHT"
      />
    </g>
    <template #table>
      <table class="ledger">
        <thead>
          <tr>
            <th scope="col">Time</th>
            <th scope="col" class="number">Lowest, {{ unit }}</th>
            <th scope="col" class="number">Mean, {{ unit }}</th>
            <th scope="col" class="number">Highest, {{ unit }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(moment, at2) in at" :key="moment">
            <th scope="row">{{ savedAt(new Date(moment).toISOString()) }}</th>
            <td class="number">{{ amount(low[at2] ?? 0) }}</td>
            <td class="number">{{ amount(mean[at2] ?? 0) }}</td>
            <td class="number">{{ amount(high[at2] ?? 0) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </PlotFrame>
</template>

<style scoped>
.log-plot {
  margin: 0 0 10px;
}

.band {
  fill: var(--ember);
  opacity: 0.22;
}

.line {
  fill: none;
  stroke: var(--ember);
  stroke-width: 1.8;
  stroke-linecap: round;
}

.mark {
  fill: var(--ink);
}

.cursor {
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
</style>
