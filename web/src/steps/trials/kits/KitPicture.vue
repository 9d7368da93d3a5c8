<script setup lang="ts">
/**
 * Kits by price and share carried, with those that no other beats joined; read by hovering and by keys: an arrow goes to the
 * next by price, with Shift to the next on the front, and Enter holds one.
 */
import { useWindowSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, ref, watch } from 'vue'

import type { KitReport, RatedKit } from '@/api/client'
import PlotFrame from '@/charts/PlotFrame.vue'
import { count, hours } from '@/shared/format'

import { kitNote, shareText } from './words'

const props = defineProps<{
  report: KitReport
  /** The kits of another search, of which the front alone is drawn. */
  beside: KitReport | null
}>()
/** Number of the kit that is held. */
const held = defineModel<number | null>({ required: true })
const LEFT = 46
const RIGHT = 14
const TOP = 8
const FOOT = 34
const RADIUS = 3.6
/** Rows of the table drawn; the file holds all. */
const MOST_ROWS = 400
const width = ref(0)
const { height: windowHeight } = useWindowSize()
const height = computed(() => Math.min(Math.max(Math.round(windowHeight.value * 0.3), 220), 460))
const at = ref<number | null>(null)
const label = computed(
  () =>
    `Kits by price and by share of the year’s hours from which ${hours(props.report.target.hours_h)} are carried`,
)

const kits = computed(() => props.report.kits.filter((entry) => !entry.kit.fault))
const front = computed(() => kits.value.filter((entry) => entry.is_on_front))
const besideFront = computed(() => props.beside?.kits.filter((entry) => entry.is_on_front) ?? [])
const scales = computed(() => {
  const drawn = [...kits.value, ...besideFront.value]
  const prices = drawn.map((entry) => entry.kit.price)
  const [least, most] = [Math.min(...prices), Math.max(...prices)]
  const margin = (most - least || most || 1) * 0.04
  const lowest = Math.min(props.report.target.share_frac, ...drawn.map((entry) => entry.kit.share_frac))
  // Where every kit carries nearly everything, the axis begins near them.
  const foot = lowest > 0.5 ? Math.floor(lowest * 20 - 1) / 20 : 0
  return {
    x: scaleLinear(
      [Math.max(least - margin, 0), most + margin],
      [0, Math.max(width.value - LEFT - RIGHT, 1)],
    ),
    y: scaleLinear([foot, 1 + (1 - foot) * 0.03], [height.value, 0]),
  }
})
const levels = computed(() => scales.value.y.ticks(5).filter((value) => value <= 1))
const prices = computed(() => scales.value.x.ticks(Math.max(2, Math.floor(width.value / 110))))

const x = (entry: RatedKit) => scales.value.x(entry.kit.price)
const y = (entry: RatedKit) => scales.value.y(entry.kit.share_frac)
const dot = (entry: RatedKit) =>
  `M${x(entry) - RADIUS} ${y(entry)}a${RADIUS} ${RADIUS} 0 1 0 ${2 * RADIUS} 0a${RADIUS} ${RADIUS} 0 1 0 ${-2 * RADIUS} 0z`
const cross = (entry: RatedKit) =>
  `M${x(entry) - RADIUS} ${y(entry) - RADIUS}l${2 * RADIUS} ${2 * RADIUS}m0 ${-2 * RADIUS}l${-2 * RADIUS} ${2 * RADIUS}`
const marks = computed(() => {
  const passing = kits.value.filter((entry) => !entry.kit.stops?.length)
  return {
    stopped: kits.value
      .filter((entry) => entry.kit.stops?.length)
      .map(cross)
      .join(''),
    meeting: passing
      .filter((entry) => entry.meets_target && !entry.is_on_front)
      .map(dot)
      .join(''),
    short: passing
      .filter((entry) => !entry.meets_target && !entry.is_on_front)
      .map(dot)
      .join(''),
    front: front.value.map(dot).join(''),
  }
})
/** Up at each kit of the front, level to the next. */
function steps(entries: readonly RatedKit[]): string {
  const end = scales.value.x.range()[1] ?? 0
  return entries.length
    ? entries
        .map((entry, index) => (index ? `H${x(entry)}V${y(entry)}` : `M${x(entry)} ${y(entry)}`))
        .join('') + `H${end}`
    : ''
}

const shownAt = computed(() => at.value ?? kits.value.findIndex((entry) => entry.kit.number === held.value))
const reading = computed(() => kits.value[shownAt.value] ?? null)
const said = computed(() =>
  reading.value
    ? `${reading.value.kit.titles.join(', ')}: ${count(reading.value.kit.price)}, ${shareText(reading.value.kit.share_frac)}, ${kitNote(reading.value)}`
    : label.value,
)
watch(
  () => props.report,
  () => (at.value = null),
)

function nearest(event: PointerEvent, box: DOMRect): number {
  const px = event.clientX - box.left - LEFT
  const py = event.clientY - box.top - TOP
  const far = (entry: RatedKit) => (x(entry) - px) ** 2 + (y(entry) - py) ** 2
  return kits.value.reduce(
    (best, entry, index) => (far(entry) < far(kits.value[best] as RatedKit) ? index : best),
    0,
  )
}

function hold(index: number | null): void {
  held.value = index === null ? null : (kits.value[index]?.kit.number ?? null)
}

function onKey(event: KeyboardEvent): void {
  const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  const last = kits.value.length - 1
  if (event.key === 'Escape') at.value = null
  else if (event.key === 'Enter') hold(at.value)
  else if (event.key === 'Home') at.value = 0
  else if (event.key === 'End') at.value = last
  else if (by) {
    let next = at.value === null ? (by > 0 ? 0 : last) : at.value + by
    if (event.shiftKey) while (kits.value[next] && !kits.value[next]?.is_on_front) next += by
    if (kits.value[next]) at.value = next
  } else return
  event.preventDefault()
}

const rows = () => [
  ['Kit', 'Price', 'Carried, %', 'Life carried, %', 'Planned outage, h', 'Remark'],
  ...props.report.kits.map((entry) => [
    entry.kit.titles.join(', '),
    entry.kit.price,
    Math.round(entry.kit.share_frac * 10_000) / 100,
    Math.round(entry.kit.life_frac * 10_000) / 100,
    Math.round(entry.kit.carried_h * 100) / 100,
    kitNote(entry),
  ]),
]
</script>

<template>
  <PlotFrame
    v-model:at="at"
    v-model:width="width"
    class="kits"
    :held="shownAt"
    :label="label"
    :height="height + TOP + FOOT"
    :last="kits.length - 1"
    :told="said"
    :rows="rows"
    test="kit"
    @over="(event, box) => (at = nearest(event, box))"
    @press="(event, box) => hold((at = nearest(event, box)))"
    @key="onKey"
  >
    <template #reading>
      <template v-if="reading">
        <b>{{ reading.kit.titles.join(', ') }}</b>
        <span class="figures">{{ count(reading.kit.price) }}</span>
        <span class="figures">{{ shareText(reading.kit.share_frac) }}</span>
        <span>{{ kitNote(reading) }}</span>
      </template>
      <template v-else>
        <span
          ><svg width="22" height="10" aria-hidden="true">
            <path class="front" d="M0 5H22" />
            <circle class="dot" cx="11" cy="5" r="3.6" /></svg
          >no other beats it</span
        >
        <span
          ><svg width="10" height="10" aria-hidden="true">
            <circle class="meeting" cx="5" cy="5" r="3.6" /></svg
          >beaten</span
        >
        <span
          ><svg width="10" height="10" aria-hidden="true"><circle class="short" cx="5" cy="5" r="3.6" /></svg
          >below the target</span
        >
        <span v-if="report.stopped"
          ><svg width="10" height="10" aria-hidden="true"><path class="stopped" d="M1 1l8 8m0-8l-8 8" /></svg
          >stopped by the checks</span
        >
        <span v-if="besideFront.length"
          ><svg width="22" height="10" aria-hidden="true"><path class="beside" d="M0 5H22" /></svg>the search
          beside it</span
        >
      </template>
    </template>
    <g v-if="width > 80 && kits.length" :transform="`translate(${LEFT} ${TOP})`">
      <g v-for="level in levels" :key="level" class="grid">
        <line x1="0" :x2="width - LEFT - RIGHT" :y1="scales.y(level)" :y2="scales.y(level)" />
        <text x="-6" :y="scales.y(level) + 4" text-anchor="end">{{ Math.round(level * 100) }} %</text>
      </g>
      <line class="axis" x1="0" :x2="width - LEFT - RIGHT" :y1="height" :y2="height" />
      <text v-for="price in prices" :key="price" :x="scales.x(price)" :y="height + 16" text-anchor="middle">
        {{ count(price) }}
      </text>
      <text :x="width - LEFT - RIGHT" :y="height + 31" text-anchor="end">price of what is varied</text>
      <line
        class="target"
        x1="0"
        :x2="width - LEFT - RIGHT"
        :y1="scales.y(report.target.share_frac)"
        :y2="scales.y(report.target.share_frac)"
      />
      <path class="stopped" :d="marks.stopped" />
      <text
        class="asked"
        :x="width - LEFT - RIGHT"
        :y="scales.y(report.target.share_frac) + 14"
        text-anchor="end"
      >
        asked
      </text>
      <path class="short" :d="marks.short" />
      <path class="meeting" :d="marks.meeting" />
      <path class="beside" :d="steps(besideFront)" />
      <path class="front" :d="steps(front)" />
      <path class="dot" :d="marks.front" />
      <g v-if="reading" data-cursor>
        <circle class="cursor" :cx="x(reading)" :cy="y(reading)" r="7" />
      </g>
    </g>
    <template #table>
      <table class="ledger" data-test="kit-rows">
        <thead>
          <tr>
            <th scope="col">Kit, the cheapest first</th>
            <th scope="col" class="number">Price</th>
            <th scope="col" class="number">Carried</th>
            <th scope="col" class="number">Planned</th>
            <th scope="col">Remark</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in report.kits.slice(0, MOST_ROWS)" :key="entry.kit.number">
            <td class="title">{{ entry.kit.titles.join(', ') }}</td>
            <td class="number">{{ count(entry.kit.price) }}</td>
            <td class="number">{{ shareText(entry.kit.share_frac) }}</td>
            <td class="number">{{ hours(entry.kit.carried_h) }}</td>
            <td>{{ kitNote(entry) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="report.kits.length > MOST_ROWS" class="lesser">
        and {{ count(report.kits.length - MOST_ROWS) }} more; the CSV holds all of them.
      </p>
    </template>
  </PlotFrame>
</template>

<style scoped>
/* Names of kits take two lines. */
.kits :deep(.reading) {
  min-height: 40px;
  align-content: end;
}

b {
  overflow-wrap: anywhere;
}

span svg {
  display: inline-block;
  margin-right: 6px;
  vertical-align: middle;
}

.target {
  stroke: var(--wine);
  stroke-dasharray: 5 3;
}

.asked {
  fill: var(--wine);
  font-weight: 700;
}

.front,
.beside {
  fill: none;
  stroke: var(--pine);
  stroke-width: 2;
}

.beside {
  stroke: var(--umber);
  stroke-dasharray: 4 3;
}

.dot {
  fill: var(--pine);
}

.meeting {
  fill: var(--slate);
  opacity: 0.45;
}

.short {
  fill: none;
  stroke: var(--slate);
  opacity: 0.5;
}

.stopped {
  fill: none;
  stroke: var(--wine);
  stroke-width: 1.2;
  opacity: 0.55;
}

.cursor {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}

.title {
  overflow-wrap: anywhere;
}
</style>
