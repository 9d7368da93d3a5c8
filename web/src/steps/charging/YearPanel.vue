<script setup lang="ts">
/** A weather year on the arrays: sun hours by month, the house living on the sun alone, the quick sum beside the model. */
import { useDebounceFn } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, shallowRef, watch } from 'vue'

import { api, outcome, type SunYear } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count, hours, kilowatts, percent } from '@/shared/format'
import NumberField from '@/shared/NumberField.vue'
import { asPercent } from '@/shared/units'

import WeatherChoice from './WeatherChoice.vue'

const { document } = storeToRefs(useDesign())
const year = shallowRef<SunYear | null>(null)
let asked = 0

async function ask(): Promise<void> {
  const ticket = ++asked
  if (!document.value) return
  const answer = await outcome(api.POST('/api/sun-year', { body: document.value }))
  if (ticket === asked && answer.kind === 'answer') year.value = answer.value
}
const askSoon = useDebounceFn(ask, 60)
watch(document, askSoon, { immediate: true })

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const HEIGHT = 64
const kilo = (wattHours: number) => (wattHours / 1000).toFixed(most.value < 2000 ? 2 : 1)
const most = computed(() =>
  Math.max(1, ...(year.value?.months ?? []).flatMap((month) => [month.given_wh, month.drawn_wh])),
)
const bars = computed(() =>
  (year.value?.months ?? []).map((month, index) => ({
    index,
    x: index * 20,
    given: (month.given_wh / most.value) * HEIGHT,
    spilled: (month.spilled_wh / most.value) * HEIGHT,
    drawn: HEIGHT - (month.drawn_wh / most.value) * HEIGHT,
  })),
)
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
      <div class="months" tabindex="0" role="region" aria-label="By month">
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
            <tr class="drawn-row">
              <td class="lesser">given, spilled, asked</td>
              <td colspan="12">
                <svg
                  viewBox="0 0 240 66"
                  preserveAspectRatio="none"
                  role="img"
                  aria-label="Given, spilled and asked by month"
                >
                  <g v-for="bar in bars" :key="bar.index">
                    <rect
                      class="given"
                      :x="bar.x + 4"
                      :y="HEIGHT - bar.given"
                      width="12"
                      :height="bar.given"
                    />
                    <rect
                      class="spilled"
                      :x="bar.x + 4"
                      :y="HEIGHT - bar.given"
                      width="12"
                      :height="bar.spilled"
                    />
                    <line class="asked" :x1="bar.x + 1" :x2="bar.x + 19" :y1="bar.drawn" :y2="bar.drawn" />
                  </g>
                  <line class="axis" x1="0" x2="240" :y1="HEIGHT + 0.5" :y2="HEIGHT + 0.5" />
                </svg>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <section>
        <div class="quick">
          <h2>How much panel: the quick sum and the model</h2>
          <NumberField path="charging.quick_safety_frac" label="Quick sum’s safety" :unit="asPercent" />
        </div>
        <table class="ledger" data-test="array-sums">
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
        </table>
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

.drawn-row td {
  height: 70px;
  padding: 0 0 0 6px;
}

.months svg {
  display: block;
  width: 100%;
  height: 66px;
}

.given {
  fill: var(--sun);
}

.spilled {
  fill: var(--slate);
}

.asked {
  stroke: var(--ember);
  stroke-width: 2;
  vector-effect: non-scaling-stroke;
}

.axis {
  stroke: var(--ink);
  vector-effect: non-scaling-stroke;
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
</style>
