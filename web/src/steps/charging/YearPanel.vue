<script setup lang="ts">
/** A weather year on the arrays: sun hours by month, the house living on the sun alone, the quick sum beside the model. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { api, outcome, type SunYear } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count, hours, kilowatts, percent } from '@/shared/format'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent } from '@/fields/units'
import WideTable from '@/shared/WideTable.vue'

import WeatherChoice from './WeatherChoice.vue'

const { document } = storeToRefs(useDesign())
const { value: year } = useAnswer({
  ask: () => (document.value ? outcome(api.POST('/api/sun-year', { body: document.value })) : null),
  on: document,
  wait: 60,
})

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const kilo = (wattHours: number) => (wattHours / 1000).toFixed(most.value < 2000 ? 2 : 1)
const most = computed(() =>
  Math.max(1, ...(year.value?.months ?? []).flatMap((month) => [month.given_wh, month.drawn_wh])),
)
const series = computed<ChartSeries[]>(() => {
  const months = year.value?.months ?? []
  const kwh = (value: (month: SunYear['months'][number]) => number) =>
    months.map((month) => value(month) / 1000)
  return [
    { key: 'given', title: 'given', kind: 'bar', role: 'sun', values: kwh((month) => month.given_wh) },
    {
      key: 'used',
      title: 'of it used',
      kind: 'bar',
      role: 'pine',
      values: kwh((month) => month.given_wh - month.spilled_wh),
    },
    { key: 'asked', title: 'asked', kind: 'mark', role: 'ember', values: kwh((month) => month.drawn_wh) },
  ]
})
const ticks = MONTHS.map((label, at) => ({ at, label }))
const lines = computed(() => {
  const found = year.value
  if (!found) return []
  const row = (title: string, values: string[]) => ({ title, values })
  return [
    ...found.arrays.map((array) =>
      row(
        array.name,
        array.sun_hours_by_month.map((value) => value.toFixed(1)),
      ),
    ),
    ...(found.arrays.length === 1
      ? []
      : [
          row(
            found.arrays.length ? 'All, by watts' : 'At the latitude',
            found.months.map((month) => month.sun_hours.toFixed(1)),
          ),
        ]),
    row(
      'Given, kWh a day',
      found.months.map((month) => kilo(month.given_wh)),
    ),
    row(
      'Asked, kWh a day',
      found.months.map((month) => kilo(month.drawn_wh)),
    ),
    row(
      'Spilled, kWh a day',
      found.months.map((month) => kilo(month.spilled_wh)),
    ),
    row(
      'Dark, hours a day',
      found.months.map((month) => month.dark_h.toFixed(1)),
    ),
  ]
})
const isSunHours = (index: number) => index < lines.value.length - 4
</script>

<template>
  <div v-if="document" class="year">
    <WeatherChoice />
    <template v-if="year">
      <dl class="facts" data-test="year-facts">
        <div>
          <dt>Darkest month</dt>
          <dd>
            <ExplainedFigure v-if="year.figures.worst_month" :figure="year.figures.worst_month">{{
              MONTHS[year.worst_month - 1]
            }}</ExplainedFigure>
            <span class="lesser">{{ kilo(year.months[year.worst_month - 1]?.given_wh ?? 0) }} kWh a day</span>
          </dd>
        </div>
        <div>
          <dt>Given in the year</dt>
          <dd>
            <ExplainedFigure v-if="year.figures.given" :figure="year.figures.given"
              >{{ count(year.given_kwh) }} kWh</ExplainedFigure
            >
            <span class="lesser">
              <ExplainedFigure v-if="year.figures.spilled" :figure="year.figures.spilled"
                >{{ percent(year.spilled_frac) }} spilled</ExplainedFigure
              >, bank full
            </span>
          </dd>
        </div>
        <div>
          <dt>By sun alone, dark</dt>
          <dd>
            <ExplainedFigure v-if="year.figures.dark" :figure="year.figures.dark">{{
              hours(Math.round(year.dark_h))
            }}</ExplainedFigure>
            <span class="lesser">{{ percent(year.dark_h / 8760) }} of the year</span>
          </dd>
        </div>
        <div>
          <dt>Days</dt>
          <dd>
            {{ year.clear_days }} clear
            <span class="lesser">{{ year.overcast_days }} overcast, {{ year.covered_days }} covered</span>
          </dd>
        </div>
      </dl>
      <AxisChart
        label="Given, used and asked by month, a day on the mean"
        :series="series"
        :places="MONTHS"
        :ticks="ticks"
        unit="kWh a day"
        :digits="most < 2000 ? 2 : 1"
        :height="130"
        :far="3"
      />
      <WideTable class="months" label="By month">
        <table class="ledger" data-test="months">
          <thead>
            <tr>
              <th scope="col">Sun hours a day</th>
              <th v-for="month in MONTHS" :key="month" scope="col" class="number">{{ month }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(line, index) in lines" :key="line.title" :class="{ lead: isSunHours(index) }">
              <td :title="line.title">{{ line.title }}</td>
              <td
                v-for="(value, month) in line.values"
                :key="month"
                class="number"
                :class="{ worst: month === year.worst_month - 1 }"
              >
                {{ value }}
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <section>
        <div class="quick">
          <h2>How much panel: the quick sum and the model</h2>
          <QuantityField path="charging.quick_safety_frac" label="Quick sum’s safety" :unit="asPercent" />
        </div>
        <WideTable label="How much panel"
          ><table class="ledger" data-test="array-sums">
            <tbody>
              <tr v-for="row in year.sums" :key="row.key">
                <td>{{ row.label }}</td>
                <td class="number">
                  <ExplainedFigure v-if="row.figure && row.array_w != null" :figure="row.figure">{{
                    kilowatts(row.array_w)
                  }}</ExplainedFigure>
                  <template v-else>–</template>
                </td>
              </tr>
              <tr class="there">
                <td>Panels there</td>
                <td class="number">{{ kilowatts(year.stc_w) }}</td>
              </tr>
            </tbody>
          </table></WideTable
        >
        <p data-test="difference">{{ year.difference }}</p>
      </section>
    </template>
  </div>
</template>

<style scoped>
.facts {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  margin: 6px 0 10px;
}

.facts dd .lesser {
  white-space: normal;
}

.months {
  overflow-x: auto;
}

.months .ledger {
  table-layout: fixed;
  min-width: 612px;
}

.months th:first-child {
  width: 132px;
}

.months td:first-child {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.months .number {
  padding: 0 4px;
  font-size: 13px;
}

.lead .number {
  color: var(--sun-ink);
}

.worst {
  font-weight: 700;
  background: var(--idle);
}

section {
  margin-top: 14px;
}

.quick {
  display: grid;
  grid-template-columns: 1fr 150px;
  align-items: end;
  gap: 12px;
  margin-bottom: 4px;
}

.there td {
  font-weight: 700;
  border-bottom: 1px solid var(--ink);
}

p {
  margin: 8px 0 0;
}

@media (max-width: 640px) {
  .quick {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
