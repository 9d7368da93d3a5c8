<script setup lang="ts">
/**
 * Series along one axis, as wide as its place: lines, areas, bars and marks. Read by hovering and by keys, value by value,
 * and opened as a table.
 */
import { computed, ref } from 'vue'

import { count } from '@/shared/format'

import ChartSwatch from './ChartSwatch.vue'
import { drawn, type ChartSeries } from './geometry'
import PlotFrame from './PlotFrame.vue'
import { placeAfter, placeAt } from './reading'

const props = withDefaults(
  defineProps<{
    /** What the picture shows, for those who hear it. */
    label: string
    series: readonly ChartSeries[]
    /** Name of each place along the axis, for the reading and the table. */
    places: readonly string[]
    /** Labels under the axis: at which place, counted from 0. */
    ticks: readonly { at: number; label: string }[]
    /** Of the values. */
    unit: string
    height?: number
    /** Places that a Shift key jumps. */
    far?: number
    /** The table shows every so many places. */
    every?: number
    digits?: number
    /** A place that the strip has pinned. */
    pinned?: number | null
    /** A place with a flag of its own, between two places too. */
    flag?: { at: number; label: string } | null
    /** Places that the axis has room for, where it grows into it. */
    room?: number
    /** Numbered marks above places, told in the reading. */
    pins?: readonly { at: number; label: string }[]
    /** The highest value that the axis has to hold, where that is known. */
    upTo?: number
  }>(),
  { height: 200, far: 4, every: 1, digits: 0, pinned: null, flag: null, room: 0, pins: () => [], upTo: 0 },
)
const LEFT = 46
const RIGHT = 10
const width = ref(0)
const at = ref<number | null>(null)
const last = computed(() => props.places.length - 1)
const room = computed(() => Math.max(props.room, props.places.length))
const shape = computed(() =>
  width.value > 80 && props.places.length
    ? drawn(props.series, room.value, width.value - LEFT - RIGHT, props.height, props.upTo)
    : null,
)
/** Where its label would leave the picture on the right. */
const isFlagLate = computed(() => (props.flag?.at ?? 0) > 0.75 * last.value)
const axis = computed(() => ({ from: -0.5, to: room.value - 0.5, stride: 1, far: props.far }))
const number = (value: number) => (props.digits ? value.toFixed(props.digits) : count(value))
/** Whole numbers along the axis carry no decimals where all of them are whole. */
const onAxis = (value: number) =>
  shape.value?.levels.every((level) => Number.isInteger(level.value)) ? count(value) : number(value)
const readings = computed(() =>
  at.value === null
    ? []
    : props.series.map((entry) => ({ ...entry, value: (entry.own ?? entry.values)[at.value ?? 0] ?? 0 })),
)
const pinsHere = computed(() => props.pins.filter((pin) => Math.round(pin.at) === at.value))
const told = computed(() => {
  if (at.value === null) return props.label
  const values = readings.value.map((entry) => `${entry.title} ${number(entry.value)} ${props.unit}`)
  return `${props.places[at.value]}: ${[...pinsHere.value.map((pin) => pin.label), ...values].join(', ')}`
})

/** The table's header and rows, every value of it. */
const rows = () => [
  ['', ...props.series.map((entry) => `${entry.title}, ${props.unit}`)],
  ...props.places.map((place, index) => [
    place,
    ...props.series.map((entry) => (entry.own ?? entry.values)[index] ?? 0),
  ]),
]

function move(event: PointerEvent, box: DOMRect): void {
  const place = Math.round(placeAt(event.clientX, box, axis.value, { left: LEFT, right: RIGHT }))
  at.value = Math.min(Math.max(place, 0), last.value)
}

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Escape') at.value = null
  else {
    const next = placeAfter(event, at.value ?? 0, { ...axis.value, from: 0, to: last.value })
    if (next === null) return
    at.value = at.value === null && event.key.startsWith('Arrow') ? 0 : next
  }
  event.preventDefault()
}
</script>

<template>
  <PlotFrame
    v-model:at="at"
    v-model:width="width"
    :label="label"
    :height="height + 30"
    :last="last"
    :told="told"
    :rows="rows"
    test="chart"
    @over="move"
    @press="move"
    @key="onKey"
  >
    <template #reading>
      <template v-if="at !== null">
        <b>{{ places[at] }}</b>
        <span v-for="pin in pinsHere" :key="pin.label">{{ pin.label }}</span>
        <span v-for="entry in readings" :key="entry.key">
          <ChartSwatch :entry="entry" />{{ entry.title }}
          <span class="figures">{{ number(entry.value) }} {{ unit }}</span>
        </span>
      </template>
      <template v-else>
        <span v-for="entry in series" :key="entry.key">
          <ChartSwatch :entry="entry" />{{ entry.title }}
        </span>
        <span class="lesser">in {{ unit }}</span>
      </template>
    </template>
    <g v-if="shape" :transform="`translate(${LEFT} 6)`">
      <g v-for="level in shape.levels" :key="level.value" class="grid">
        <line x1="0" :x2="shape.width" :y1="level.y" :y2="level.y" />
        <text x="-6" :y="level.y + 4" text-anchor="end">{{ onAxis(level.value) }}</text>
      </g>
      <template v-for="entry in shape.series" :key="entry.key">
        <path v-if="entry.area" class="area" :class="[entry.role, { soft: entry.line }]" :d="entry.area" />
        <path
          v-if="entry.line"
          class="line"
          :class="entry.role"
          :d="entry.line"
          :stroke-dasharray="entry.dash"
        />
      </template>
      <line class="axis" x1="0" :x2="shape.width" :y1="height" :y2="height" />
      <text
        v-for="tick in ticks"
        :key="tick.at"
        :x="shape.x(tick.at)"
        :y="height + 16"
        :text-anchor="shape.width - shape.x(tick.at) < 3.2 * tick.label.length ? 'end' : 'middle'"
      >
        {{ tick.label }}
      </text>
      <line
        v-if="pinned !== null"
        class="pinned"
        :x1="shape.x(pinned - 0.4)"
        :x2="shape.x(pinned + 0.4)"
        y1="-3"
        y2="-3"
      />
      <g v-if="flag" class="flag">
        <line :x1="shape.x(flag.at)" :x2="shape.x(flag.at)" y1="-4" :y2="height" />
        <text :x="shape.x(flag.at) + (isFlagLate ? -5 : 5)" y="6" :text-anchor="isFlagLate ? 'end' : 'start'">
          {{ flag.label }}
        </text>
      </g>
      <g v-for="(pin, index) in pins" :key="index" class="pin">
        <path :d="`M${shape.x(pin.at)} 4l-5 -9h10z`" />
        <line :x1="shape.x(pin.at)" :x2="shape.x(pin.at)" y1="4" :y2="height" />
      </g>
      <line
        v-if="at !== null"
        data-cursor
        class="cursor"
        :x1="shape.x(at)"
        :x2="shape.x(at)"
        y1="0"
        :y2="height"
      />
    </g>
    <template #table>
      <table class="ledger" data-test="chart-table">
        <thead>
          <tr>
            <th scope="col"><span class="visually-hidden">Place</span></th>
            <th v-for="entry in series" :key="entry.key" scope="col" class="number">
              {{ entry.title }}, {{ unit }}
            </th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(place, index) in places" :key="place">
            <tr v-if="index % every === 0">
              <th scope="row">{{ place }}</th>
              <td v-for="entry in series" :key="entry.key" class="number">
                {{ number((entry.own ?? entry.values)[index] ?? 0) }}
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </template>
  </PlotFrame>
</template>

<style scoped>
.cursor {
  stroke: var(--ink);
}

.flag line {
  stroke: var(--wine);
  stroke-dasharray: 5 3;
}

.flag text {
  fill: var(--wine);
  font-weight: 700;
}

.pin path {
  fill: var(--pine);
}

.pin line {
  stroke: var(--pine);
  stroke-dasharray: 1 4;
}

.line {
  fill: none;
  stroke: var(--role);
  stroke-width: 1.6;
}

.pinned {
  stroke: var(--ink);
  stroke-width: 3;
}

.area {
  fill: var(--role);
}

.area.soft {
  opacity: 0.25;
}

.line.sun {
  stroke-width: 2.4;
}
</style>
