<script setup lang="ts">
/** The daily curve: each array and all together under a clear sky, under an overcast one, and with all panels one way. */
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { calendarDay, count, hours, kilowattHours, percent } from '@/shared/format'

const { assessment } = storeToRefs(useDesign())
const curve = computed(() => assessment.value?.charging.curve ?? null)
const WIDTH = 660
const HEIGHT = 186
/** Lines of single arrays are told apart by their dashes, not by colour alone. */
const DASHES = ['', '7 3', '2 3', '9 3 2 3', '4 4', '1 4']

const shape = computed(() => {
  const day = curve.value
  if (!day) return null
  const most = Math.max(50, ...day.together_w, ...day.one_way_w, day.mean_draw_w)
  const x = scaleLinear([0, 24], [0, WIDTH])
  const y = scaleLinear([0, most * 1.06], [HEIGHT, 0])
  const points = (values: readonly number[]) =>
    values.map((value, index) => [day.hour_h[index] ?? 0, value] as const)
  const path = line<readonly [number, number]>(
    (point) => x(point[0]),
    (point) => y(point[1]),
  )
  const fill = area<readonly [number, number]>(
    (point) => x(point[0]),
    HEIGHT,
    (point) => y(point[1]),
  )
  return {
    fill: fill(points(day.together_w)) ?? '',
    together: path(points(day.together_w)) ?? '',
    overcast: path(points(day.overcast_w)) ?? '',
    oneWay: path(points(day.one_way_w)) ?? '',
    arrays: day.arrays.map((array, index) => ({
      ...array,
      path: path(points(array.power_w)) ?? '',
      dash: DASHES[index % DASHES.length],
    })),
    draw: y(day.mean_draw_w),
    ticks: [0, 3, 6, 9, 12, 15, 18, 21, 24].map((hour) => ({ hour, x: x(hour) })),
    levels: y.ticks(4).map((value) => ({ value, y: y(value) })),
  }
})
const severalWays = computed(() => {
  const day = curve.value
  return !!day && Math.abs(day.one_way_wh - day.together_wh) > 1
})
</script>

<template>
  <div v-if="curve && shape" class="day" data-test="day-curve">
    <p v-if="!curve.arrays.length" class="lesser">No array feeds the bank yet.</p>
    <template v-else>
      <svg
        :viewBox="`-46 -6 ${WIDTH + 60} ${HEIGHT + 28}`"
        role="img"
        :aria-label="`Sun through a clear day: ${kilowattHours(curve.together_wh)} together`"
      >
        <g v-for="level in shape.levels" :key="level.value" class="grid">
          <line x1="0" :x2="WIDTH" :y1="level.y" :y2="level.y" />
          <text x="-6" :y="level.y + 4" text-anchor="end">{{ count(level.value) }}</text>
        </g>
        <path class="fill" :d="shape.fill" />
        <path v-if="severalWays" class="one-way" :d="shape.oneWay" />
        <path class="overcast" :d="shape.overcast" />
        <path
          v-for="array in shape.arrays"
          :key="array.array_id"
          class="array"
          :d="array.path"
          :stroke-dasharray="array.dash"
        />
        <path class="together" :d="shape.together" />
        <line
          v-if="curve.mean_draw_w > 0"
          class="draw"
          x1="0"
          :x2="WIDTH"
          :y1="shape.draw"
          :y2="shape.draw"
        />
        <text v-if="curve.mean_draw_w > 0" class="draw-text" x="4" :y="shape.draw - 4">
          house, on the mean {{ count(curve.mean_draw_w) }} W
        </text>
        <line class="axis" x1="0" :x2="WIDTH" :y1="HEIGHT" :y2="HEIGHT" />
        <g v-for="tick in shape.ticks" :key="tick.hour" class="grid">
          <text :x="tick.x" :y="HEIGHT + 16" text-anchor="middle">{{ tick.hour }}</text>
        </g>
      </svg>
      <p class="lesser">
        {{ calendarDay(`${curve.date}T00:00:00`, 0) }} under a clear sky, watts at the bank by hour of
        standard time, snow left out.
      </p>
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
          <tr v-for="array in shape.arrays" :key="array.array_id">
            <td>
              <svg class="dash" width="26" height="8" aria-hidden="true">
                <path class="array" d="M0 4H26" :stroke-dasharray="array.dash" />
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
    </template>
  </div>
</template>

<style scoped>
.day > svg {
  width: 100%;
  max-height: 226px;
}

p {
  margin: 2px 0 8px;
  font-size: 13px;
}

text {
  font-size: 11.5px;
  fill: var(--slate);
}

.grid line {
  stroke: var(--rule);
}

.axis {
  stroke: var(--ink);
}

.fill {
  fill: var(--sun);
  opacity: 0.22;
}

path {
  fill: none;
}

path.fill {
  fill: var(--sun);
}

.together {
  stroke: var(--sun);
  stroke-width: 2.4;
}

.array {
  stroke: var(--ink);
  stroke-width: 1.1;
}

.overcast {
  stroke: var(--slate);
  stroke-width: 1.4;
}

.one-way {
  stroke: var(--pine);
  stroke-width: 1.4;
  stroke-dasharray: 10 4;
}

.draw {
  stroke: var(--ember);
  stroke-dasharray: 3 2;
}

.draw-text {
  fill: var(--ember-ink);
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
