<script setup lang="ts">
/** What waits day and night, below the rows: the inverter's idle, the bank's heater, the loads' own standby. */
import { storeToRefs } from 'pinia'
import { RouterLink } from 'vue-router'

import { useDesign } from '@/design/store'
import { amount } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'

defineProps<{
  /** Watt-hours or amp-hours, as the column shows them. */
  energy: (wattHours: number, ampHours: number | undefined) => string
}>()
const { document, assessment } = storeToRefs(useDesign())
const ledgerLine = (key: string) => assessment.value?.bank.daily_ledger.find((line) => line.key === key)
</script>

<template>
  <tbody v-if="assessment && document" role="rowgroup" class="standing" data-test="standing">
    <tr role="row" class="tier">
      <th class="wide" aria-colspan="7" role="rowheader">
        <b>Standing draw</b> <span class="lesser">what waits, day and night</span>
      </th>
      <td role="cell" aria-colspan="3"></td>
    </tr>
    <tr role="row">
      <td role="cell"></td>
      <td role="cell" class="wide-six" aria-colspan="6">
        Inverter standing ready,
        <RouterLink :to="{ name: 'inverter' }">{{ amount(document.inverter.idle_w) }} W</RouterLink>
      </td>
      <td role="cell" class="number">
        {{ energy(ledgerLine('idle')?.wh ?? 0, ledgerLine('idle')?.ah) }}
      </td>
      <td role="cell" class="number"><PriceTag :price="assessment.prices.without_idle" /></td>
      <td role="cell"></td>
    </tr>
    <tr v-if="assessment.arrangement.heater_w > 0" role="row" data-test="heater-row">
      <td role="cell"></td>
      <td role="cell" class="wide-six" aria-colspan="6">
        Heater of the bank,
        <RouterLink :to="{ name: 'bank', query: { part: 'place' } }"
          >{{ amount(assessment.arrangement.heater_w) }} W</RouterLink
        >
        <span class="lesser">counted in Life</span>
      </td>
      <td role="cell" class="number">
        {{ energy(assessment.arrangement.heater_wh, assessment.arrangement.heater_ah) }}
      </td>
      <td role="cell" aria-colspan="2"></td>
    </tr>
    <tr role="row">
      <td role="cell"></td>
      <td role="cell" class="wide-six" aria-colspan="6">
        Standby of the loads <span class="lesser">in the rows above</span>
      </td>
      <td role="cell" class="number">
        {{ energy(assessment.loads.standby_wh, assessment.bank.standby_ah) }}
      </td>
      <td role="cell" aria-colspan="2"></td>
    </tr>
  </tbody>
</template>

<style scoped>
.wide-six {
  grid-column: span 6;
}

tr:not(.tier) {
  min-height: 25px;
}

a {
  color: var(--pine);
  font-weight: 600;
}
</style>
