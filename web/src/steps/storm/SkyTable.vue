<script setup lang="ts">
/** The sky and air of each calendar day the outage touches. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Sky } from '@/api/client'
import { useDesign } from '@/design/store'
import QuantityCell from '@/fields/QuantityCell.vue'
import { calendarDay, kilowattHours } from '@/shared/format'
import { temperature, windSpeed } from '@/fields/units'
import WideTable from '@/shared/WideTable.vue'

import { dayAt, withDays, type Day } from './days'
import { dayCells } from './lane'

const SKIES: readonly { value: Sky; title: string; meaning: string }[] = [
  { value: 'clear', title: 'Clear', meaning: 'full clear-sky sun' },
  { value: 'broken', title: 'Broken', meaning: '60 % of the clear-sky sun' },
  { value: 'overcast', title: 'Overcast', meaning: 'about a quarter of the clear-sky sun' },
  { value: 'covered', title: 'Covered', meaning: 'snow or ice on the panels: none' },
]

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const unit = computed(() => (document.value ? temperature(document.value) : null))
const speed = computed(() => (document.value ? windSpeed(document.value) : null))

/** Whether the skies are those of the weather year, which the model names day by day. */
const fromYear = computed(() => document.value?.outage.sky_from === 'year')
const hasWind = computed(() => document.value?.charging.wind != null)

const rows = computed(() => {
  const outage = document.value?.outage
  if (!outage) return []
  return dayCells(outage.start, outage.duration_h).map((_, index) => {
    const day = dayAt(outage.days, index)
    return {
      index,
      title: calendarDay(outage.start, index),
      day,
      sky: fromYear.value ? assessment.value?.charging.skies[index] : day?.sky,
      sun_wh: assessment.value?.charging.daily_wh[index] ?? 0,
      isRepeated: index >= outage.days.length,
    }
  })
})

/** Set one field of a day. */
function setDay(index: number, change: Partial<Day>): void {
  store.set('outage.days', withDays(document.value?.outage.days ?? [], new Map([[index, change]])))
}
</script>

<template>
  <WideTable v-if="unit" label="Days of the outage">
    <table class="ledger sky">
      <thead>
        <tr>
          <th scope="col">Day</th>
          <th v-for="sky in SKIES" :key="sky.value" scope="col" class="choice" :title="sky.meaning">
            {{ sky.title }}
          </th>
          <th scope="col" class="number">Air, {{ unit.label }}</th>
          <th scope="col" class="choice" title="Nobody is at home: loads marked so stand still">
            Nobody home
          </th>
          <th
            v-if="hasWind && !fromYear"
            scope="col"
            class="number"
            title="Empty takes the turbine’s mean wind"
          >
            Wind, {{ speed?.label }}
          </th>
          <th scope="col" class="number">Sun offered</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.index" :data-test="`day-${row.index}`">
          <td class="day">
            {{ row.title }}<span v-if="row.isRepeated" class="lesser"> as the day before</span>
          </td>
          <td v-for="sky in SKIES" :key="sky.value" class="choice">
            <input
              type="radio"
              :name="`sky-${row.index}`"
              :checked="row.sky === sky.value"
              :disabled="fromYear"
              :aria-label="`${row.title}: ${sky.title}`"
              @change="setDay(row.index, { sky: sky.value })"
            />
          </td>
          <td class="number">
            <span v-if="fromYear" class="lesser">of the year</span>
            <QuantityCell
              v-else
              :value="row.day?.air_temp_c ?? 0"
              :unit="unit"
              :label="`${row.title}: air temperature`"
              @change="(air_temp_c) => air_temp_c !== null && setDay(row.index, { air_temp_c })"
            />
          </td>
          <td class="choice">
            <input
              type="checkbox"
              :checked="row.day?.away"
              :aria-label="`${row.title}: nobody home`"
              :data-test="`away-${row.index}`"
              @change="setDay(row.index, { away: ($event.target as HTMLInputElement).checked })"
            />
          </td>
          <td v-if="hasWind && !fromYear" class="number">
            <QuantityCell
              :value="row.day?.wind_m_s ?? document?.charging.wind?.mean_m_s ?? 0"
              :unit="speed ?? 'm/s'"
              :label="`${row.title}: mean wind`"
              @change="(wind_m_s) => wind_m_s !== null && setDay(row.index, { wind_m_s })"
            />
          </td>
          <td class="number">{{ kilowattHours(row.sun_wh) }}</td>
        </tr>
      </tbody>
    </table>
  </WideTable>
  <p v-if="fromYear" class="lesser from" data-test="skies-from-year">
    Skies, air and wind are those of the weather year, chosen on the Charging page.
    <button type="button" class="by-hand" @click="store.set('outage.sky_from', 'by_hand')">
      Set them by hand
    </button>
  </p>
</template>

<style scoped>
.from {
  margin: 6px 0 0;
}

.by-hand {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.choice {
  text-align: center;
  width: 80px;
}

.day {
  white-space: nowrap;
}

input[type='radio'],
input[type='checkbox'] {
  accent-color: var(--pine);
  width: 16px;
  height: 16px;
  vertical-align: middle;
}

@media (max-width: 1150px) {
  .sky th,
  .sky td {
    padding-left: 3px;
    padding-right: 3px;
  }
}
</style>
