<script setup lang="ts">
/** A year off the grid, day after day: the charge and the dark hours drawn, the months, and the longest dark spells. */
import { useWindowSize } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { WholeYear } from '@/api/client'
import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { useDesign } from '@/design/store'
import { plain, volume } from '@/fields/units'
import { calendarDay, count, hours, percent } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import { useLooking } from '@/strip/looking'

import LookAndPlan from './LookAndPlan.vue'

const props = defineProps<{ year: WholeYear; weather: string }>()
type Spell = WholeYear['spells'][number]
const store = useDesign()
const { document } = storeToRefs(store)

const { shown, isLooking, trouble } = storeToRefs(useLooking())
const unit = computed(() => (document.value ? volume(document.value) : plain('L')))

/** The picture grows with the window. */
const { height: windowHeight } = useWindowSize()
const height = computed(() => Math.min(Math.max(Math.round(windowHeight.value * 0.2), 150), 320))
const series = computed<ChartSeries[]>(() => [
  {
    key: 'highest',
    title: 'highest charge',
    kind: 'line',
    role: 'sun',
    values: props.year.days.map((day) => 100 * day.highest_frac),
  },
  {
    key: 'lowest',
    title: 'lowest charge',
    kind: 'area',
    role: 'ember',
    values: props.year.days.map((day) => 100 * day.lowest_frac),
  },
  {
    key: 'dark',
    title: 'dark, part of the day',
    kind: 'bar',
    role: 'wine',
    values: props.year.days.map((day) => (100 * day.dark_h) / 24),
  },
  ...(props.year.has_generator
    ? [
        {
          key: 'generator',
          title: 'generator, part of the day',
          kind: 'line' as const,
          role: 'slate' as const,
          dash: '3 2',
          values: props.year.days.map((day) => (100 * day.generator_h) / 24),
        },
      ]
    : []),
])
const places = computed(() => props.year.days.map((_, day) => calendarDay(props.year.start, day)))
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const ticks = computed(() => {
  let first = 0
  return props.year.months.map((month) => {
    const at = first + (month.days - 1) / 2
    first += month.days
    return { at, label: MONTHS[month.month - 1] ?? '' }
  })
})
const fuel = (volume_l: number) => (volume_l ? unit.value.show(volume_l).toFixed(1) : '–')
const some = (value: number, text: string) => (value ? text : '–')
const isShown = (spell: Spell) => isLooking.value && shown.value?.outage.start === spell.start

function plan(spell: Spell): void {
  store.setAll([
    { path: 'outage.start', value: spell.start },
    { path: 'outage.duration_h', value: spell.planned_h },
    { path: 'outage.sky_from', value: 'year' },
    { path: 'bank.start_soc_frac', value: Math.round(1000 * spell.begins_frac) / 1000 },
  ])
}
</script>

<template>
  <div data-test="off-grid-year">
    <AxisChart
      label="Charge, dark hours and generator, day by day through the year"
      :series="series"
      :places="places"
      :ticks="ticks"
      unit="%"
      :height="height"
      :far="30"
      :every="7"
      :up-to="100"
    />
    <WideTable label="The months off the grid">
      <table class="ledger" data-test="year-months">
        <thead>
          <tr>
            <th scope="col">Month</th>
            <th scope="col" class="number">Dark days</th>
            <th scope="col" class="number">Dark, h</th>
            <th scope="col" class="number">Life dark, h</th>
            <th scope="col" class="number" title="The bank stands full at 12:00">Full by noon</th>
            <th scope="col" class="number">Lowest</th>
            <template v-if="year.has_generator">
              <th scope="col" class="number">Generator, h</th>
              <th scope="col" class="number">Fuel, {{ unit.label }}</th>
            </template>
            <th scope="col" class="number" title="Sun and other sources that nothing takes">Spilled, kWh</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="month in year.months" :key="month.month" :class="{ dark: month.dark_days }">
            <th scope="row">{{ MONTHS[month.month - 1] }}</th>
            <td class="number days">{{ some(month.dark_days, count(month.dark_days)) }}</td>
            <td class="number">{{ some(month.dark_h, month.dark_h.toFixed(1)) }}</td>
            <td class="number">{{ some(month.life_dark_h, month.life_dark_h.toFixed(1)) }}</td>
            <td class="number">{{ some(month.full_by_noon_days, count(month.full_by_noon_days)) }}</td>
            <td class="number">{{ percent(month.lowest_frac) }}</td>
            <template v-if="year.has_generator">
              <td class="number">{{ some(month.generator_h, month.generator_h.toFixed(1)) }}</td>
              <td class="number">{{ fuel(month.fuel_l) }}</td>
            </template>
            <td class="number">{{ count(month.spilled_wh / 1000) }}</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <template v-if="year.spells.length">
      <h2>Longest dark spells</h2>
      <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
      <WideTable label="Longest dark spells">
        <table class="ledger" data-test="spells">
          <thead>
            <tr>
              <th scope="col">From</th>
              <th scope="col" class="number">Days in a row</th>
              <th scope="col" class="number">Dark for</th>
              <th scope="col" class="number" title="Charge at the midnight before">Begins at</th>
              <th scope="col"><span class="visually-hidden">What to do with it</span></th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="spell in year.spells"
              :key="spell.start"
              :class="{ shown: isShown(spell) }"
              :data-test="`spell-${spell.start}`"
            >
              <td>{{ calendarDay(spell.start, 0) }}</td>
              <td class="number">{{ count(spell.days) }}</td>
              <td class="number">{{ hours(spell.dark_h) }}</td>
              <td class="number">{{ percent(spell.begins_frac) }}</td>
              <td>
                <LookAndPlan
                  :start="spell.start"
                  :duration_h="spell.planned_h"
                  :begins_frac="spell.begins_frac"
                  @plan="plan(spell)"
                />
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
    </template>
    <p class="lesser">
      {{ weather }}. Normal life off the grid, from 1 January with the charge of 31 December: everybody at
      home, fuel always to be had. The other tabs take a spell of the planned length from every hour, begun
      with the charge of the Bank page and the fuel on hand.
    </p>
  </div>
</template>

<style scoped>
h2 {
  margin: 12px 0 4px;
}

p {
  margin: 8px 0 0;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

.shown td {
  background: var(--sheet);
}

.dark .days {
  color: var(--wine);
  font-weight: 700;
}
</style>
