/** The lanes of the storm's timeline: what each shows, of which days or hours, and what a painted one writes down. */
import { storeToRefs } from 'pinia'
import { computed, type ComputedRef } from 'vue'

import type { Design, Sky } from '@/api/client'
import { useDesign } from '@/design/store'
import { temperature, windSpeed, type Unit } from '@/fields/units'
import { calendarDay, dayAndTime } from '@/shared/format'

import { dayAt, withDays, type Day } from './days'
import { dayCells, hourCells, type LaneCell } from './lane'

/** A lane of one value of a few a cell, painted. */
export interface Painted {
  key: string
  name: string
  label: string
  hint?: string
  cells: readonly LaneCell[]
  values: readonly number[]
  choices: readonly { title: string; look: string }[]
  named: (at: number) => string
  fixed?: boolean
  set: (values: number[]) => void
}
/** A lane of one number a day, dragged up and down. */
export interface Levels {
  key: string
  name: string
  label: string
  values: readonly number[]
  unit: Unit
  least: number
  most: number
  set: (values: number[]) => void
}

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

export interface UseLanesReturn {
  outage: ComputedRef<Design['outage'] | null>
  days: ComputedRef<LaneCell[]>
  dayNamed: (at: number) => string
  sky: ComputedRef<Painted>
  levels: ComputedRef<Levels[]>
  there: ComputedRef<Painted[]>
}

export function useLanes(): UseLanesReturn {
  const store = useDesign()
  const { document, assessment, isOffGrid } = storeToRefs(store)
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
  const grid = computed(() =>
    hourly.value.map((_, hour) =>
      (outage.value?.grid_back ?? []).some(([from = 0, to = 0]) => hour >= from && hour < to) ? 1 : 0,
    ),
  )
  const dayNamed = (at: number) => (outage.value ? calendarDay(outage.value.start, at) : '')
  const hourNamed = (at: number) => (outage.value ? dayAndTime(outage.value.start, at) : '')

  /** Write down the days on which a lane now has another value. */
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
  const sky = computed<Painted>(() => ({
    key: 'sky',
    name: 'Sky',
    label: 'Sky of each day',
    cells: days.value,
    values: skies.value,
    choices: SKY_CHOICES,
    named: dayNamed,
    fixed: fromYear.value,
    set: (values) => setDays(values, skies.value, (value) => ({ sky: SKIES[value] ?? 'clear' })),
  }))
  /** Air and wind by hand; those of a weather year are its own. */
  const levels = computed<Levels[]>(() => {
    if (!document.value || fromYear.value) return []
    const air: Levels = {
      key: 'air',
      name: 'Air',
      label: 'Air temperature of each day',
      values: airs.value,
      unit: temperature(document.value),
      least: -60,
      most: 70,
      set: (values) => setDays(values, airs.value, (air_temp_c) => ({ air_temp_c })),
    }
    const wind: Levels = {
      key: 'wind',
      name: 'Wind',
      label: 'Mean wind of each day',
      values: winds.value,
      unit: windSpeed(document.value),
      least: 0,
      most: 40,
      set: (values) => setDays(values, winds.value, (wind_m_s) => ({ wind_m_s })),
    }
    return document.value.charging.wind ? [air, wind] : [air]
  })
  /** Who and what is there; asked only where something depends on it. */
  const there = computed<Painted[]>(() => {
    const ofDays = { cells: days.value, named: dayNamed }
    const { generator = null, alternator = null } = document.value?.charging ?? {}
    return [
      {
        ...ofDays,
        key: 'home',
        name: 'Home',
        label: 'Who is at home on each day',
        values: homes.value,
        choices: HOME_CHOICES,
        set: (values: number[]) => setDays(values, homes.value, (value) => ({ away: value === 1 })),
      },
      ...(generator
        ? [
            {
              ...ofDays,
              key: 'fuel',
              name: 'Fuel',
              label: 'Whether fuel can be fetched on each day',
              hint: 'The generator’s stock is full again from noon on, while somebody is at home',
              values: fuels.value,
              choices: FUEL_CHOICES,
              set: (values: number[]) => setDays(values, fuels.value, (value) => ({ fuel: value === 1 })),
            },
          ]
        : []),
      ...(alternator
        ? [
            {
              ...ofDays,
              key: 'car',
              name: 'Car',
              label: 'Whether the vehicle can be reached on each day',
              hint: 'Its alternator charges on days on which the vehicle can be reached',
              values: cars.value,
              choices: CAR_CHOICES,
              set: (values: number[]) => setDays(values, cars.value, (value) => ({ car: value === 0 })),
            },
          ]
        : []),
      ...(isOffGrid.value
        ? []
        : [
            {
              key: 'grid',
              name: 'Grid',
              label: 'Hours in which the grid is back',
              cells: hourly.value,
              named: hourNamed,
              values: grid.value,
              choices: GRID_CHOICES,
              set: setGrid,
            },
          ]),
    ]
  })

  return { outage, days, dayNamed, sky, levels, there }
}
