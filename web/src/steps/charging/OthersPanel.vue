<script setup lang="ts">
/** Alternator, wind and bench charger, what each is worth beside one more battery, and how sources share the bank. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import FieldFrame from '@/shared/FieldFrame.vue'
import { count, hours, kilowattHours, percent } from '@/shared/format'
import HourCells from '@/shared/HourCells.vue'
import NumberField from '@/shared/NumberField.vue'
import OptionalPart from '@/shared/OptionalPart.vue'
import PriceTag from '@/shared/PriceTag.vue'
import { asPercent, windSpeed } from '@/shared/units'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const charging = computed(() => document.value?.charging ?? null)
const sums = computed(() => assessment.value?.charging ?? null)
const speed = computed(() => (document.value ? windSpeed(document.value) : 'm/s'))
const bankVolts = computed(() => assessment.value?.bank.nominal_v ?? 12)

const alternator = computed(() => ({
  current_a: Math.min(30, Math.round((assessment.value?.bank.charge_limit_a ?? 20) * 0.8)),
  driven_hours: [[17, 18]],
  price: null,
}))
const wind = {
  rated_w: 400,
  rated_m_s: 11,
  cut_in_m_s: 3,
  cut_out_m_s: 25,
  mean_m_s: 3.5,
  efficiency_frac: 0.85,
  price: null,
}
const bench = computed(() => ({
  output_w: Math.round(10 * bankVolts.value),
  plugged_hours: [[9, 12]],
  price: null,
}))
const HABITS = [
  { value: false, title: 'Several regulated sources together, up to the bank’s limit' },
  { value: true, title: 'One source at a time, the strongest' },
]
</script>

<template>
  <div v-if="document && charging && sums" class="others">
    <OptionalPart path="charging.alternator" label="A vehicle’s alternator charges it" :start="alternator">
      <NumberField path="charging.alternator.current_a" label="Into the bank" unit="A" />
      <FieldFrame class="wide" label="Driven" for="driven-hours">
        <HourCells
          id="driven-hours"
          :hours="charging.alternator?.driven_hours ?? []"
          tier="keep"
          label="Hours in which the vehicle is driven"
          :pinned-hour="null"
          @change="(spans) => store.set('charging.alternator.driven_hours', spans)"
        />
      </FieldFrame>
      <NumberField path="charging.alternator.price" label="Price" empty-means="not said" />
      <p class="gave">
        gave
        <ExplainedFigure figure="charging.alternator_wh">{{
          kilowattHours(sums.alternator_wh)
        }}</ExplainedFigure>; without it
        <PriceTag :price="assessment?.prices.without_source['alternator']" />
      </p>
    </OptionalPart>
    <OptionalPart
      path="charging.wind"
      label="There is a wind turbine (winds about the mean by Rayleigh, cubic curve)"
      :start="wind"
    >
      <NumberField path="charging.wind.rated_w" label="Rated" unit="W" />
      <NumberField path="charging.wind.rated_m_s" label="in a wind of" :unit="speed" />
      <NumberField path="charging.wind.cut_in_m_s" label="Turns from" :unit="speed" />
      <NumberField path="charging.wind.cut_out_m_s" label="Stops at" :unit="speed" />
      <NumberField path="charging.wind.mean_m_s" label="Mean wind there" :unit="speed" />
      <NumberField path="charging.wind.efficiency_frac" label="Regulator" :unit="asPercent" />
      <NumberField path="charging.wind.price" label="Price" empty-means="not said" />
      <p class="gave">
        gave <ExplainedFigure figure="charging.wind_wh">{{ kilowattHours(sums.wind_wh) }}</ExplainedFigure>;
        without it
        <PriceTag :price="assessment?.prices.without_source['wind']" />
      </p>
    </OptionalPart>
    <OptionalPart
      path="charging.bench_charger"
      label="A plug-in charger, where a live socket is at hand"
      :start="bench"
    >
      <NumberField path="charging.bench_charger.output_w" label="Into the bank" unit="W" />
      <FieldFrame class="wide" label="Plugged in" for="plugged-hours">
        <HourCells
          id="plugged-hours"
          :hours="charging.bench_charger?.plugged_hours ?? []"
          tier="keep"
          label="Hours in which it is plugged in"
          :pinned-hour="null"
          @change="(spans) => store.set('charging.bench_charger.plugged_hours', spans)"
        />
      </FieldFrame>
      <NumberField path="charging.bench_charger.price" label="Price" empty-means="not said" />
      <p class="gave">
        gave
        <ExplainedFigure figure="charging.bench_wh">{{ kilowattHours(sums.bench_wh) }}</ExplainedFigure>;
        without it
        <PriceTag :price="assessment?.prices.without_source['bench_charger']" />
      </p>
    </OptionalPart>
    <section>
      <h2>What a kilowatt-hour costs on the dark days</h2>
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
      <table v-if="sums.habits" class="ledger" data-test="habits">
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

.wide {
  grid-column: span 2;
}

.gave {
  grid-column: span 2;
  align-self: end;
  margin: 0 0 7px;
  font-size: 13px;
  color: var(--slate);
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
