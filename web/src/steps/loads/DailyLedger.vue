<script setup lang="ts">
/** From the loads to the bank, in watt-hours and in amp-hours, beside the day's profile by tier. */
import { computed } from 'vue'

import type { Assessment, Tier } from '@/api/client'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count } from '@/shared/format'

const props = defineProps<{ assessment: Assessment; pinnedHour: number | null }>()

const WIDTH = 330
const HEIGHT = 120
const HOURS = Array.from({ length: 24 }, (_, hour) => hour)
/** Lines whose working stands elsewhere as well. */
const WORKINGS: Record<string, string> = { drawn: 'bank.daily_drawn_wh', idle: 'inverter.idle_daily_wh' }
const TIERS: readonly Tier[] = ['life', 'keep', 'ease', 'spare']

const lines = computed(() => props.assessment.bank.daily_ledger)
const hourly = computed(() =>
  HOURS.map((hour) => TIERS.map((tier) => props.assessment.loads.profile_w[tier]?.[hour * 4] ?? 0)),
)
const highest_w = computed(() =>
  Math.max(1, ...hourly.value.map((tiers) => tiers.reduce((sum, watts) => sum + watts, 0))),
)
const bars = computed(() =>
  hourly.value.flatMap((tiers, hour) => {
    let below = 0
    return tiers.map((watts, index) => {
      const height = (watts / highest_w.value) * HEIGHT
      below += height
      return {
        key: `${hour}-${index}`,
        tier: TIERS[index],
        x: (hour * WIDTH) / 24,
        y: HEIGHT - below,
        height,
      }
    })
  }),
)
</script>

<template>
  <section class="daily" data-test="daily-ledger">
    <table class="ledger">
      <thead>
        <tr>
          <th scope="col">From the loads to the bank</th>
          <th scope="col" class="number">Wh a day</th>
          <th scope="col" class="number">Ah at {{ amount(assessment.bank.nominal_v) }} V</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in lines" :key="line.key" :class="{ sum: line.key === 'drawn' }">
          <td>{{ line.label }}</td>
          <td class="number">
            <ExplainedFigure :figure="WORKINGS[line.key] ?? `bank.ledger.${line.key}`">{{
              count(line.wh)
            }}</ExplainedFigure>
          </td>
          <td class="number">{{ line.ah.toFixed(1) }}</td>
        </tr>
      </tbody>
    </table>
    <figure>
      <figcaption>
        The day, all loads <span class="lesser">highest hour {{ count(highest_w) }} W on average</span>
      </figcaption>
      <svg :viewBox="`0 -4 ${WIDTH} ${HEIGHT + 20}`" role="img" aria-label="Average power by hour and tier">
        <rect
          v-for="bar in bars"
          :key="bar.key"
          :class="bar.tier"
          :x="bar.x + 0.5"
          :y="bar.y"
          :width="WIDTH / 24 - 1"
          :height="bar.height"
        />
        <line class="axis" x1="0" :x2="WIDTH" :y1="HEIGHT + 0.5" :y2="HEIGHT + 0.5" />
        <rect
          v-if="pinnedHour !== null"
          class="pinned"
          :x="(pinnedHour * WIDTH) / 24"
          y="-3"
          :width="WIDTH / 24"
          height="2"
        />
        <text
          v-for="hour in [0, 6, 12, 18, 24]"
          :key="hour"
          :x="(hour * WIDTH) / 24"
          :y="HEIGHT + 14"
          :text-anchor="hour === 0 ? 'start' : hour === 24 ? 'end' : 'middle'"
        >
          {{ hour }}
        </text>
      </svg>
    </figure>
  </section>
</template>

<style scoped>
.daily {
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 26px;
  margin-top: 22px;
}

.sum td {
  font-weight: 700;
  border-top: 1px solid var(--ink);
}

figcaption {
  font-weight: 600;
  font-size: 13px;
  padding: 5px 0 4px;
}

figcaption .lesser {
  font-weight: 400;
}

.life {
  fill: var(--wine);
}

.keep {
  fill: var(--ember);
}

.ease {
  fill: var(--umber);
}

.spare {
  fill: var(--slate);
}

.axis {
  stroke: var(--ink);
}

.pinned {
  fill: var(--ink);
}

text {
  font-size: 11px;
  fill: var(--slate);
}
</style>
