<script setup lang="ts">
/** Where things stand: what was read, how old each reading is, and what the model reckons where none is fresh. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { NowShown, WatchView } from '@/api/client'
import { useDesign } from '@/design/store'
import { volume } from '@/fields/units'
import { amount, hours, kilowattHours, kilowatts, percent } from '@/shared/format'

import { after, ago, at, EVENT_WORDS, TIER_WORDS } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
const { document } = storeToRefs(useDesign())
const source = (shown: NowShown) => {
  if (shown.is_fresh && shown.read_at) return `read ${ago(shown.read_at, props.now)}`
  return shown.read_at ? `reckoned; read ${ago(shown.read_at, props.now)}` : 'reckoned, never read'
}
const rows = computed(() => {
  const { view } = props
  const found = [
    {
      what: 'Charge',
      value: `${percent(view.charge.value)}, ${kilowattHours(view.usable_wh)} to the cut-off`,
      from: source(view.charge),
      old: !view.charge.is_fresh,
    },
    {
      what: 'House',
      value: kilowatts(view.house.value),
      from: source(view.house),
      old: !view.house.is_fresh,
    },
    { what: 'Plan now', value: kilowatts(view.plan_w), from: 'by the design', old: false },
    { what: 'Sun', value: kilowatts(view.sun.value), from: source(view.sun), old: !view.sun.is_fresh },
    {
      what: 'Sun to come today',
      value: kilowattHours(view.sun_today_wh),
      from: 'by the forecast',
      old: false,
    },
  ]
  const event = view.ahead.events[0]
  if (event) {
    const words = EVENT_WORDS[event.kind] ?? event.kind
    found.push({
      what: 'Next by the plan',
      value: event.tier ? `${TIER_WORDS[event.tier]} ${words}` : words,
      from: at(after(view.phase === 'before' ? view.begun : view.now, event.in_h), props.now),
      old: false,
    })
  }
  if (view.fuel_l !== null && view.fuel_l !== undefined)
    found.push(
      {
        what: 'Generator',
        value: view.generator_runs ? 'runs' : 'still',
        from: view.generator_until ? `until ${at(view.generator_until, props.now)}` : '',
        old: false,
      },
      {
        what: 'Fuel',
        value: document.value
          ? `${amount(Math.round(volume(document.value).show(view.fuel_l) * 10) / 10)} ${volume(document.value).label}`
          : '',
        from: props.view.fuel_until
          ? `lasts to ${at(props.view.fuel_until, props.now)} by the plan`
          : 'reckoned since it was counted',
        old: false,
      },
    )
  for (const group of view.groups)
    found.push({
      what: group.name || 'Rest of the house',
      value: `${kilowatts(group.read_w)}, plan ${kilowatts(group.plan_w)}`,
      from: `mean of the last ${hours(view.use_over_h)}`,
      old: group.is_above,
    })
  return found
})
</script>

<template>
  <section class="now">
    <h2>Now</h2>
    <table class="ledger" data-test="watch-now">
      <tbody>
        <tr v-for="row in rows" :key="row.what">
          <th scope="row">{{ row.what }}</th>
          <td class="value">{{ row.value }}</td>
          <td class="lesser" :class="{ old: row.old }">{{ row.from }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="!view.charge_is_read" class="old" data-test="watch-unread">
      The charge was not read since it began: the plan stands in. Read it on the display and tell it below.
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin: 12px 0 2px;
}

.ledger th,
.ledger td {
  white-space: normal;
  overflow-wrap: anywhere;
}

.ledger th {
  border-bottom-color: var(--rule);
}

.value {
  font-weight: 600;
}

.old {
  color: var(--sun-ink);
}
</style>
