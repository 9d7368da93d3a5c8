<script setup lang="ts">
/** One more of each part: what it brings in hours and starts, and for its price. */
import { storeToRefs } from 'pinia'

import { count, hours, hoursChange, sharePercent } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import AskedAnew from './AskedAnew.vue'
import { useOneMore } from './trials'

const store = useOneMore()
const { value: found } = storeToRefs(store)
/** +3.1 points, or ±0. */
function points(frac: number): string {
  const tenths = Math.round(frac * 1000) / 10
  return tenths === 0 ? '±0' : `${tenths > 0 ? '+' : '−'}${Math.abs(tenths)}`
}
</script>

<template>
  <div>
    <AskedAnew :answer="store" :has="found !== null" doing="Living through each" />
    <template v-if="found">
      <p class="lesser">
        Now {{ hours(found.now.carried_h) }} of the planned outage, and
        {{ sharePercent(found.now.keep_frac) }} of the year’s starts. Starts are in points of a hundred.
      </p>
      <WideTable label="One more of each">
        <table class="ledger" data-test="one-more">
          <thead>
            <tr>
              <th scope="col">One more</th>
              <th scope="col" class="number">Hours</th>
              <th scope="col" class="number">Starts</th>
              <th scope="col" class="number">Hours each</th>
              <th scope="col" class="number">Starts each</th>
              <th scope="col" class="number">Price</th>
              <th scope="col" class="number">Starts per 100</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="part in found.parts" :key="part.key" :data-test="`more-${part.key}`">
              <td class="title">{{ part.title }}</td>
              <td class="number">{{ hoursChange(part.gained_h) }}</td>
              <td class="number">{{ points(part.gained_frac) }}</td>
              <td class="number">
                {{ hoursChange(part.gained_h_each) }}
              </td>
              <td class="number">
                {{ points(part.gained_frac_each) }}
                <span class="lesser"
                  >/ {{ part.each_amount > 1 ? `${part.each_amount} ` : '' }}{{ part.unit }}</span
                >
              </td>
              <td class="number">{{ part.price == null ? '–' : count(part.price) }}</td>
              <td class="number">
                {{ part.gained_frac_per_100 == null ? '–' : points(part.gained_frac_per_100) }}
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p v-if="found.parts.some((part) => part.price == null)" class="lesser">
        A price that is not known is entered with the unit, on its own page.
      </p>
    </template>
  </div>
</template>

<style scoped>
p {
  margin: 6px 0;
}

td {
  white-space: nowrap;
}

.title {
  min-width: 150px;
  white-space: normal;
  overflow-wrap: anywhere;
}
</style>
