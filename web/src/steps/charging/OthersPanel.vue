<script setup lang="ts">
/** The steady sources (alternator, wind, bench charger and the like), what each is worth beside one more battery, and how sources share the bank. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count, hours, kilowattHours, percent } from '@/shared/format'

import SteadySource from './SteadySource.vue'
import WideTable from '@/shared/WideTable.vue'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const charging = computed(() => document.value?.charging ?? null)
const sums = computed(() => assessment.value?.charging ?? null)
const HABITS = [
  { value: false, title: 'Several regulated sources together, up to the bank’s limit' },
  { value: true, title: 'One source at a time, the strongest' },
]
</script>

<template>
  <div v-if="document && charging && sums" class="others">
    <SteadySource v-for="source in sums.steady" :key="source.key" :source="source" />
    <section>
      <h2>What a kilowatt-hour costs on the dark days</h2>
      <WideTable label="What a kilowatt-hour costs">
        <table class="ledger" data-test="values">
          <thead>
            <tr>
              <th scope="col">Source</th>
              <th scope="col" class="number">
                Brings on {{ ['all days', 'the dark day'][sums.dark_days] ?? `${sums.dark_days} dark days` }}
              </th>
              <th scope="col" class="number">Price</th>
              <th scope="col" class="number">a kWh</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="value in sums.values" :key="value.key">
              <td>{{ value.label }}</td>
              <td class="number">{{ (value.dark_wh / 1000).toFixed(2) }} kWh</td>
              <td class="number">
                <template v-if="value.price != null">{{ count(value.price) }}</template>
                <span v-else class="lesser">{{
                  value.key === 'battery' ? 'not said on the Bank page' : 'not said'
                }}</span>
              </td>
              <td class="number">
                <ExplainedFigure
                  v-if="value.price_per_dark_kwh != null"
                  :figure="`charging.value.${value.key}`"
                  >{{ count(value.price_per_dark_kwh) }}</ExplainedFigure
                >
                <template v-else>–</template>
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
    </section>
    <section>
      <h2>How sources share the bank</h2>
      <div role="radiogroup" aria-label="How sources share the bank">
        <label v-for="habit in HABITS" :key="String(habit.value)" class="habit">
          <input
            type="radio"
            name="habit"
            :checked="charging.one_source === habit.value"
            :data-test="habit.value ? 'one-source' : 'together'"
            @change="store.set('charging.one_source', habit.value)"
          />
          {{ habit.title }}
        </label>
      </div>
      <WideTable v-if="sums.habits" label="Both habits">
        <table class="ledger" data-test="habits">
          <thead>
            <tr>
              <th scope="col">This outage</th>
              <th scope="col" class="number">Carried</th>
              <th scope="col" class="number">Spilled</th>
              <th scope="col" class="number">Charge at its end</th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>Together</td>
              <td class="number">{{ hours(sums.habits.together_h) }}</td>
              <td class="number">{{ kilowattHours(sums.habits.together_spilled_wh) }}</td>
              <td class="number">{{ percent(sums.habits.together_end_frac) }}</td>
            </tr>
            <tr>
              <td>One at a time</td>
              <td class="number">{{ hours(sums.habits.one_source_h) }}</td>
              <td class="number">{{ kilowattHours(sums.habits.one_source_spilled_wh) }}</td>
              <td class="number">{{ percent(sums.habits.one_source_end_frac) }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p v-else class="lesser">With one source there is nothing to share.</p>
    </section>
  </div>
</template>

<style scoped>
section {
  margin-top: 16px;
}

h2 {
  margin-bottom: 6px;
}

.habit {
  display: flex;
  gap: 7px;
  align-items: center;
  margin-bottom: 4px;
}

input[type='radio'] {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}
</style>
