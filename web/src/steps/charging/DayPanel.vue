<script setup lang="ts">
/** The daily curve: each array and all together under a clear sky, under an overcast one, and with all panels one way. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { calendarDay, hours, kilowattHours, percent } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

const { assessment } = storeToRefs(useDesign())
const curve = computed(() => assessment.value?.charging.curve ?? null)
/** Lines of single arrays are told apart by their dashes, not by colour alone. */
const DASHES = ['', '7 3', '2 3', '9 3 2 3', '4 4', '1 4']
const dashOf = (index: number) => DASHES[index % DASHES.length] ?? ''

const severalWays = computed(() => {
  const day = curve.value
  return !!day && Math.abs(day.one_way_wh - day.together_wh) > 1
})

const series = computed<ChartSeries[]>(() => {
  const day = curve.value
  if (!day) return []
  const flat = day.hour_h.map(() => day.mean_draw_w)
  return [
    { key: 'together', title: 'all together', kind: 'area', role: 'sun', values: day.together_w },
    ...(severalWays.value
      ? [
          {
            key: 'one-way',
            title: 'all one way',
            kind: 'line' as const,
            role: 'pine' as const,
            dash: '10 4',
            values: day.one_way_w,
          },
        ]
      : []),
    { key: 'overcast', title: 'overcast', kind: 'line', role: 'slate', values: day.overcast_w },
    ...day.arrays.map((array, index) => ({
      key: `array ${array.array_id}`,
      title: array.name,
      kind: 'line' as const,
      role: 'ink' as const,
      dash: dashOf(index),
      values: array.power_w,
    })),
    { key: 'draw', title: 'house, on the mean', kind: 'line', role: 'ember', dash: '3 2', values: flat },
  ]
})
/** The middle of each quarter of an hour, as its beginning. */
const places = computed(() =>
  (curve.value?.hour_h ?? []).map((hour_h) => {
    const minutes = Math.round(hour_h * 60 - 7.5)
    return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
  }),
)
const ticks = [0, 3, 6, 9, 12, 15, 18, 21, 24].map((hour) => ({ at: hour * 4 - 0.5, label: String(hour) }))
</script>

<template>
  <div v-if="curve" class="day" data-test="day-curve">
    <p v-if="!curve.arrays.length" class="lesser">No array feeds the bank yet.</p>
    <template v-else>
      <AxisChart
        :label="`Sun through a clear day: ${kilowattHours(curve.together_wh)} together`"
        :series="series"
        :places="places"
        :ticks="ticks"
        unit="W"
        :every="4"
        :height="220"
      />
      <p class="lesser">
        {{ calendarDay(`${curve.date}T00:00:00`, 0) }} under a clear sky, watts at the bank by hour of
        standard time, snow left out.
      </p>
      <WideTable label="Curves of the day">
        <table class="ledger" data-test="curve-table">
          <thead>
            <tr>
              <th scope="col">Curve</th>
              <th scope="col" class="number">A clear day</th>
              <th scope="col" class="number">Shade takes</th>
              <th scope="col" class="number">Carries the house for</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td><i class="key together" />All together</td>
              <td class="number">{{ kilowattHours(curve.together_wh) }}</td>
              <td class="number" />
              <td class="number">
                <ExplainedFigure figure="charging.carries_h">{{ hours(curve.carries_h) }}</ExplainedFigure>
              </td>
            </tr>
            <tr v-for="(array, index) in curve.arrays" :key="array.array_id">
              <td>
                <svg class="dash" width="26" height="8" aria-hidden="true">
                  <path class="array" d="M0 4H26" :stroke-dasharray="dashOf(index)" />
                </svg>
                {{ array.name }}
              </td>
              <td class="number">{{ kilowattHours(array.energy_wh) }}</td>
              <td class="number">{{ percent(array.shade_loss_frac) }}</td>
              <td class="number" />
            </tr>
            <tr v-if="severalWays">
              <td><i class="key one-way" />All panels as the largest array stands</td>
              <td class="number">{{ kilowattHours(curve.one_way_wh) }}</td>
              <td class="number" />
              <td class="number">{{ hours(curve.one_way_carries_h) }}</td>
            </tr>
            <tr>
              <td><i class="key overcast" />All together, overcast</td>
              <td class="number">{{ kilowattHours(curve.overcast_wh) }}</td>
              <td class="number" />
              <td class="number" />
            </tr>
          </tbody>
        </table>
      </WideTable>
    </template>
  </div>
</template>

<style scoped>
p {
  margin: 2px 0 8px;
  font-size: 13px;
}

.dash path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.1;
}

.key {
  display: inline-block;
  width: 26px;
  height: 0;
  margin-right: 7px;
  vertical-align: middle;
  border-top: 3px solid var(--sun);
}

.key.one-way {
  border-top: 2px dashed var(--pine);
}

.key.overcast {
  border-top: 2px solid var(--slate);
}

.dash {
  vertical-align: middle;
  margin-right: 4px;
}
</style>
