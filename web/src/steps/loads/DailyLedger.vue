<script setup lang="ts">
/** From the loads to the bank, in watt-hours and in amp-hours, beside the day's profile by tier. */
import { computed } from 'vue'

import type { Assessment, Tier } from '@/api/client'
import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { TIERS as TIER_INFO } from './tiers'

const props = defineProps<{ assessment: Assessment; pinnedHour: number | null }>()

const HOURS = Array.from({ length: 24 }, (_, hour) => hour)
/** Lines whose working stands elsewhere as well. */
const WORKINGS: Record<string, string> = { drawn: 'bank.daily_drawn_wh', idle: 'inverter.idle_daily_wh' }
const TIERS: readonly Tier[] = TIER_INFO.map((entry) => entry.tier)
const TITLES = Object.fromEntries(TIER_INFO.map((entry) => [entry.tier, entry.title])) as Record<Tier, string>

const lines = computed(() => props.assessment.bank.daily_ledger)
const hourly = computed(() =>
  HOURS.map((hour) => TIERS.map((tier) => props.assessment.loads.profile_w[tier]?.[hour] ?? 0)),
)
const highest_w = computed(() =>
  Math.max(1, ...hourly.value.map((tiers) => tiers.reduce((sum, watts) => sum + watts, 0))),
)
const ROLES = { life: 'wine', keep: 'ember', ease: 'umber', spare: 'slate' } as const
/** Life at the foot, each tier on those before it. */
const series = computed<ChartSeries[]>(() => {
  const foot = HOURS.map(() => 0)
  return TIERS.map((tier, index) => {
    const own = hourly.value.map((tiers) => tiers[index] ?? 0)
    const base = [...foot]
    own.forEach((watts, hour) => (foot[hour] = (foot[hour] ?? 0) + watts))
    return { key: tier, title: TITLES[tier], kind: 'bar', role: ROLES[tier], values: [...foot], base, own }
  })
})
const places = HOURS.map((hour) => `${hour} to ${hour + 1}`)
const ticks = [0, 6, 12, 18, 24].map((hour) => ({ at: hour - 0.5, label: String(hour) }))
</script>

<template>
  <section class="daily" data-test="daily-ledger">
    <WideTable label="From the loads to the bank"
      ><table class="ledger">
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
      </table></WideTable
    >
    <figure>
      <figcaption>
        The day, all loads <span class="lesser">highest hour {{ count(highest_w) }} W on average</span>
      </figcaption>
      <AxisChart
        label="Average power by hour and tier"
        :series="series"
        :places="places"
        :ticks="ticks"
        unit="W"
        :height="120"
        :far="6"
        :pinned="pinnedHour"
      />
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

@media (max-width: 640px) {
  .daily {
    grid-template-columns: minmax(0, 1fr);
    gap: 14px;
  }
}
</style>
