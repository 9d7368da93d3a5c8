<script setup lang="ts">
import { computed } from 'vue'

import type { Endurance } from '@/api/client'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count, dayAndTime, hours, kilowattHours, percent } from '@/shared/format'

const props = defineProps<{ endurance: Endurance; at_h: number | null; pinned: boolean }>()

const totals = computed(() => {
  const {
    ledger_wh: ledger,
    hours_back_to_full_h: back_h,
    refill_followed_h,
    grid_back_h,
  } = props.endurance.outage
  return [
    { key: 'sun', text: 'sun offered', value: kilowattHours(ledger.sun) },
    ...(ledger.generator > 0
      ? [{ key: 'generator', text: 'generator', value: kilowattHours(ledger.generator) }]
      : []),
    ...(ledger.other > 0
      ? [{ key: 'other', text: 'other sources', value: kilowattHours(ledger.other) }]
      : []),
    ...(grid_back_h > 0
      ? [{ key: 'grid', text: `grid back, ${hours(grid_back_h)}`, value: kilowattHours(ledger.grid) }]
      : []),
    { key: 'energy', text: 'net from the bank', value: kilowattHours(ledger.bank_drawn) },
    { key: 'served', text: 'served to the house', value: kilowattHours(ledger.served) },
    {
      key: '',
      text: 'lost on the way',
      value: kilowattHours(ledger.inverter_loss + ledger.charge_loss + ledger.wiring_loss),
    },
    { key: '', text: 'spilled', value: kilowattHours(ledger.spilled) },
    {
      key: '',
      text: 'back to full after',
      value: back_h === null ? `over ${hours(refill_followed_h)}` : hours(back_h),
    },
  ]
})

const reading = computed(() => {
  if (props.at_h === null) return null
  const { series, start } = props.endurance.outage
  const at_h = props.at_h
  const next = series.time_h.findIndex((time_h) => time_h > at_h)
  const index = next < 0 ? series.sun_w.length - 1 : Math.max(next - 1, 0)
  const from_h = series.time_h[index] ?? 0
  const until_h = series.time_h[index + 1] ?? from_h
  const part = until_h > from_h ? (at_h - from_h) / (until_h - from_h) : 0
  const stored_wh = (series.stored_wh[index] ?? 0) * (1 - part) + (series.stored_wh[index + 1] ?? 0) * part
  const capacity_wh = props.endurance.capacity_wh
  return {
    when: `${dayAndTime(start, at_h)}, hour ${Math.floor(at_h)}`,
    rows: [
      {
        key: 'energy',
        text: 'in the bank',
        value: `${kilowattHours(stored_wh)}, ${percent(stored_wh / capacity_wh)}`,
      },
      { key: 'sun', text: 'sun', value: `${count(series.sun_w[index] ?? 0)} W` },
      ...((series.generator_w[index] ?? 0) > 0
        ? [{ key: 'generator', text: 'generator', value: `${count(series.generator_w[index] ?? 0)} W` }]
        : []),
      ...((series.other_w[index] ?? 0) > 0
        ? [{ key: 'other', text: 'other sources', value: `${count(series.other_w[index] ?? 0)} W` }]
        : []),
      ...(series.grid_h.some(([from_h = 0, to_h = 0]) => at_h >= from_h && at_h < to_h)
        ? [{ key: 'grid', text: 'grid', value: 'back' }]
        : []),
      { key: 'served', text: 'house', value: `${count(series.served_w[index] ?? 0)} W` },
      { key: 'unserved', text: 'asked, not served', value: `${count(series.unserved_w[index] ?? 0)} W` },
      { key: '', text: 'spilled', value: `${count(series.spilled_w[index] ?? 0)} W` },
    ],
  }
})
/** What the strip cannot show: moments beyond the list, and time the model found no steady state for. */
const unlisted = computed(() => {
  const { events_left_out: left, unsettled_h: open_h } = props.endurance.outage
  if (open_h > 0) return `${hours(open_h)} unsettled`
  return left > 0 ? `${count(left)} moments not drawn` : ''
})
const rows = computed(() => reading.value?.rows ?? totals.value)
</script>

<template>
  <div class="legend" data-test="legend">
    <p class="when">
      <template v-if="reading">{{ reading.when }}{{ pinned ? ', pinned' : '' }}</template>
      <ExplainedFigure v-else :figure="endurance.books">Whole outage</ExplainedFigure>
      <span v-if="!reading && unlisted" class="unlisted" data-test="unlisted">{{ unlisted }}</span>
    </p>
    <dl>
      <div v-for="row in rows" :key="row.text">
        <dt><i class="key" :class="row.key" />{{ row.text }}</dt>
        <dd class="figures">{{ row.value }}</dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.legend {
  padding: 9px 14px 0 16px;
  font-size: 13px;
}

.when {
  margin: 0 0 3px;
  font-weight: 700;
}

.unlisted {
  float: right;
  font-weight: 400;
  color: var(--wine);
}

dl {
  margin: 0;
}

dl div {
  display: flex;
  justify-content: space-between;
  line-height: 20.5px;
}

/* Nine rows at most stand in the strip's height. */
dl > div {
  line-height: 18px;
}

dt {
  white-space: nowrap;
}

dd {
  margin: 0;
  font-size: 12.5px;
  white-space: nowrap;
}

.key {
  display: inline-block;
  width: 13px;
  height: 4px;
  margin: 0 7px 3px 0;
  vertical-align: middle;
}

.energy {
  background: var(--ember);
}

.sun {
  background: var(--sun);
}

.grid {
  background: var(--pine);
}

.other {
  background: none;
  border-top: 2px dotted var(--pine);
}

.generator {
  background: var(--slate);
}

.served {
  background: repeating-linear-gradient(90deg, var(--ink) 0 3px, transparent 3px 5px);
}

.unserved {
  background: var(--wine);
}
</style>
