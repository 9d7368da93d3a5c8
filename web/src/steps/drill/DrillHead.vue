<script setup lang="ts">
/** The clock of a drill, how the tiers stand, and the strip as it grows, decisions pinned on it. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { DrillStand } from '@/api/client'
import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { useDesign } from '@/design/store'
import { calendarDay, calendarMoment, percent } from '@/shared/format'

import { after, TIER_WORDS } from '../watch/words'
import { useDrill } from './drill'
import { decisionWords } from './words'

const props = defineProps<{ stand: DrillStand }>()
const { drill } = storeToRefs(useDrill())
const { document } = storeToRefs(useDesign())
const start = computed(() => props.stand.start)
const nameOf = (id: string) => props.stand.loads.find((load) => load.id === id)?.name ?? id
/** A tier as it stands: what was left off by decision is not dark. */
function told(tier: string, isServed: boolean): { name: string; state: string; isDark: boolean } {
  const loads = props.stand.loads.filter((load) => load.tier === tier)
  const on = loads.filter((load) => !load.is_off).length
  const state = on === 0 && loads.length ? 'off' : on < loads.length ? 'partly on' : 'on'
  return { name: TIER_WORDS[tier] ?? tier, state: isServed ? state : 'dark', isDark: !isServed }
}
const tiers = computed(() => [
  told('life', props.stand.is_life_served),
  told('keep', props.stand.is_keep_served),
  told('ease', props.stand.is_ease_served),
])
/** Full hours lived: what lies between the last of them and now stands in the number above. */
const lived = computed(() => props.stand.in_h.filter((hour) => Number.isInteger(hour)).length)
const full = (values: readonly number[]) => values.slice(0, lived.value)
const series = computed<ChartSeries[]>(() => [
  {
    key: 'charge',
    title: props.stand.is_cross_read ? 'charge' : 'charge by its gauge',
    kind: 'area',
    role: 'ember',
    values: full(props.stand.shown_frac).map((value) => Math.round(value * 1000) / 10),
  },
])
const places = computed(() => full(props.stand.in_h).map((hour) => calendarMoment(after(start.value, hour))))
const pins = computed(() =>
  (drill.value?.decisions ?? []).map((decision) => ({
    at: decision.at_h,
    label: decisionWords(decision, nameOf),
  })),
)
const ticks = computed(() => {
  const found: { at: number; label: string }[] = []
  for (let hour = 0; hour <= props.stand.end_h; hour++) {
    const moment = after(start.value, hour)
    if (moment.slice(11, 13) === '00') found.push({ at: hour, label: calendarDay(moment, 0) })
  }
  return found
})
</script>

<template>
  <div v-if="document" class="head">
    <div class="clock">
      <strong class="figures" data-test="drill-clock">{{ calendarMoment(stand.now) }}</strong>
      <span class="lesser">hour {{ Math.floor(stand.at_h) }} of {{ Math.round(stand.end_h) }}</span>
    </div>
    <div class="gauge">
      <strong class="figures" data-test="drill-gauge">{{ percent(stand.gauge_frac) }}</strong>
      <span class="lesser">{{ stand.is_cross_read ? 'charge, cross-read' : 'charge by its gauge' }}</span>
    </div>
    <ul class="tiers" data-test="drill-tiers">
      <li v-for="tier in tiers" :key="tier.name" :class="{ dark: tier.isDark }">
        {{ tier.name }} <b>{{ tier.state }}</b>
      </li>
    </ul>
    <AxisChart
      class="strip"
      label="Charge so far, decisions pinned on it"
      :series="series"
      :places="places"
      :ticks="ticks"
      :pins="pins"
      :room="Math.round(stand.end_h) + 1"
      unit="%"
      :height="130"
      :far="6"
      :every="3"
      :up-to="94"
    />
  </div>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: auto auto 1fr;
  gap: 0 34px;
  align-items: end;
}

.clock,
.gauge {
  display: grid;
}

strong {
  font-size: 30px;
  line-height: 1.1;
  word-spacing: -0.3em;
}

.tiers {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  list-style: none;
  padding: 0;
  margin: 0 0 6px;
}

.tiers li {
  border: 1px solid var(--pine);
  padding: 2px 10px;
}

.tiers .dark {
  background: var(--wine);
  border-color: var(--wine);
  color: var(--paper);
}

.strip {
  grid-column: 1 / -1;
  margin: 6px 0 0;
}

@media (max-width: 640px) {
  .head {
    grid-template-columns: 1fr 1fr;
    gap: 6px 14px;
  }

  .tiers {
    grid-column: 1 / -1;
  }
}
</style>
