<script setup lang="ts">
/**
 * The outage drawn along its own hours, painted: sky, air and wind of each day, who is at home, whether fuel or a car can be
 * reached, and when the grid is back for a while.
 */
import { useElementSize } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, useTemplateRef } from 'vue'

import type { Sky } from '@/api/client'
import { useDesign } from '@/design/store'
import { temperature, windSpeed } from '@/fields/units'
import { calendarDay, dayAndTime, hours } from '@/shared/format'

import { dayAt, withDays, type Day } from './days'
import { dayCells, hourCells } from './lane'
import LevelLane from './LevelLane.vue'
import PaintLane from './PaintLane.vue'

const SKIES: readonly Sky[] = ['clear', 'broken', 'overcast', 'covered']
const SKY_CHOICES = SKIES.map((sky) => ({ title: sky, look: sky }))
const HOME_CHOICES = [
  { title: 'somebody home', look: 'none' },
  { title: 'nobody home', look: 'away' },
]
const FUEL_CHOICES = [
  { title: 'no fuel', look: 'none' },
  { title: 'fuel from noon', look: 'open' },
]
const CAR_CHOICES = [
  { title: 'car at hand', look: 'none' },
  { title: 'no car', look: 'away' },
]
const GRID_CHOICES = [
  { title: 'out', look: 'none' },
  { title: 'back', look: 'grid' },
]
const store = useDesign()
const { document, assessment } = storeToRefs(store)
const outage = computed(() => document.value?.outage ?? null)
const days = computed(() => (outage.value ? dayCells(outage.value.start, outage.value.duration_h) : []))
const hourly = computed(() => (outage.value ? hourCells(outage.value.duration_h) : []))
const fromYear = computed(() => outage.value?.sky_from === 'year')

const skies = computed(() =>
  days.value.map((_, index) => {
    const sky = fromYear.value
      ? assessment.value?.charging.skies[index]
      : dayAt(outage.value?.days ?? [], index)?.sky
    return Math.max(SKIES.indexOf(sky ?? 'clear'), 0)
  }),
)
/** A number of each day, as its own entry or the last one says. */
const ofDays = (what: (day: Day | undefined) => number) =>
  computed(() => days.value.map((_, index) => what(dayAt(outage.value?.days ?? [], index))))
const homes = ofDays((day) => (day?.away ? 1 : 0))
const fuels = ofDays((day) => (day?.fuel ? 1 : 0))
const cars = ofDays((day) => (day?.car === false ? 1 : 0))
const airs = ofDays((day) => day?.air_temp_c ?? 0)
const winds = ofDays((day) => day?.wind_m_s ?? document.value?.charging.wind?.mean_m_s ?? 0)
const degrees = computed(() => (document.value ? temperature(document.value) : null))
const speed = computed(() => (document.value ? windSpeed(document.value) : null))
const hasGrid = computed(() => !document.value?.site.off_grid)
const grid = computed(() =>
  hourly.value.map((_, hour) =>
    (outage.value?.grid_back ?? []).some(([from = 0, to = 0]) => hour >= from && hour < to) ? 1 : 0,
  ),
)
const back_h = computed(() => assessment.value?.outage.grid_back_h ?? 0)
const dayNamed = (at: number) => (outage.value ? calendarDay(outage.value.start, at) : '')
const hourNamed = (at: number) => (outage.value ? dayAndTime(outage.value.start, at) : '')

function setDays(
  values: readonly number[],
  now: readonly number[],
  change: (value: number) => Partial<Day>,
): void {
  const changes = new Map(
    values.flatMap((value, index) => (value === now[index] ? [] : [[index, change(value)] as const])),
  )
  if (changes.size && outage.value) store.set('outage.days', withDays(outage.value.days, changes))
}
const setSkies = (values: number[]) => setDays(values, skies.value, (value) => ({ sky: SKIES[value] ?? 'clear' }))
const setHomes = (values: number[]) => setDays(values, homes.value, (value) => ({ away: value === 1 }))
const setFuels = (values: number[]) => setDays(values, fuels.value, (value) => ({ fuel: value === 1 }))
const setCars = (values: number[]) => setDays(values, cars.value, (value) => ({ car: value === 0 }))
const setAirs = (values: number[]) => setDays(values, airs.value, (air_temp_c) => ({ air_temp_c }))
const setWinds = (values: number[]) => setDays(values, winds.value, (wind_m_s) => ({ wind_m_s }))

/** Hours beyond the outage's end, painted when it was longer, stay. */
function setGrid(values: readonly number[]): void {
  const spans = (outage.value?.grid_back ?? []).flatMap(([from = 0, to = 0]) =>
    to > values.length ? [[Math.max(from, values.length), to]] : [],
  )
  values.forEach((isBack, hour) => {
    if (isBack) spans.push([hour, hour + 1])
  })
  store.set('outage.grid_back', spans)
}
const axis = useTemplateRef('axis')
const { width } = useElementSize(axis)
const ticks = computed(() => days.value.map((cell, index) => ({ at: cell.from_h, label: dayNamed(index) })))
/** Labels that would run into the next are left out. */
const shownTicks = computed(() => {
  const duration = outage.value?.duration_h ?? 1
  const every = Math.max(1, Math.ceil((ticks.value.length * 74) / Math.max(width.value, 74)))
  return ticks.value.filter(
    (tick, index) => index % every === 0 && ((duration - tick.at) / duration) * width.value > 66,
  )
})
</script>

<template>
  <div v-if="outage" class="timeline" data-test="timeline">
    <span />
    <p ref="axis" class="days lesser" aria-hidden="true">
      <span
        v-for="tick in shownTicks"
        :key="tick.at"
        :style="{ left: `${(100 * tick.at) / outage.duration_h}%` }"
        >{{ tick.label }}</span
      >
    </p>
    <span class="name">Sky</span>
    <PaintLane
      label="Sky of each day"
      :cells="days"
      :values="skies"
      :choices="SKY_CHOICES"
      :duration_h="outage.duration_h"
      :named="dayNamed"
      :fixed="fromYear"
      data-test="lane-sky"
      @change="setSkies"
    />
    <template v-if="degrees && !fromYear">
      <span class="name">Air</span>
      <LevelLane
        label="Air temperature of each day"
        :cells="days"
        :values="airs"
        :unit="degrees"
        :least="-60"
        :most="70"
        :duration_h="outage.duration_h"
        :named="dayNamed"
        data-test="lane-air"
        @change="setAirs"
      />
    </template>
    <template v-if="speed && document?.charging.wind && !fromYear">
      <span class="name">Wind</span>
      <LevelLane
        label="Mean wind of each day"
        :cells="days"
        :values="winds"
        :unit="speed"
        :least="0"
        :most="40"
        :duration_h="outage.duration_h"
        :named="dayNamed"
        data-test="lane-wind"
        @change="setWinds"
      />
    </template>
    <span class="name">Home</span>
    <PaintLane
      label="Who is at home on each day"
      :cells="days"
      :values="homes"
      :choices="HOME_CHOICES"
      :duration_h="outage.duration_h"
      :named="dayNamed"
      data-test="lane-home"
      @change="setHomes"
    />
    <template v-if="document?.charging.generator">
      <span class="name" title="The generator’s stock is full again from noon on, while somebody is at home"
        >Fuel</span
      >
      <PaintLane
        label="Whether fuel can be fetched on each day"
        :cells="days"
        :values="fuels"
        :choices="FUEL_CHOICES"
        :duration_h="outage.duration_h"
        :named="dayNamed"
        data-test="lane-fuel"
        @change="setFuels"
      />
    </template>
    <template v-if="document?.charging.alternator">
      <span class="name" title="Its alternator charges on days on which the vehicle can be reached">Car</span>
      <PaintLane
        label="Whether the vehicle can be reached on each day"
        :cells="days"
        :values="cars"
        :choices="CAR_CHOICES"
        :duration_h="outage.duration_h"
        :named="dayNamed"
        data-test="lane-car"
        @change="setCars"
      />
    </template>
    <span v-if="hasGrid" class="name">Grid</span>
    <PaintLane
      v-if="hasGrid"
      label="Hours in which the grid is back"
      :cells="hourly"
      :values="grid"
      :choices="GRID_CHOICES"
      :duration_h="outage.duration_h"
      :named="hourNamed"
      data-test="lane-grid"
      @change="setGrid"
    />
    <span />
    <p class="lesser">
      Drag to paint, air up and down; by keys: arrows, Space, Shift with an arrow.
      <template v-if="back_h && hasGrid">
        The grid is back for {{ hours(back_h) }} of {{ hours(outage.duration_h) }}: it carries the house then,
        and its charger the bank.
        <button type="button" class="clear" data-test="grid-out" @click="store.set('outage.grid_back', [])">
          Out throughout
        </button>
      </template>
    </p>
  </div>
</template>

<style scoped>
.timeline {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  gap: 1px 8px;
  margin-bottom: 12px;
}

.name {
  align-self: center;
  font-size: 12.5px;
  color: var(--slate);
}

.days {
  position: relative;
  height: 16px;
  font-size: 11.5px;
}

.days span {
  position: absolute;
  white-space: nowrap;
}

p {
  margin: 0;
  font-size: 12.5px;
}

.clear {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
