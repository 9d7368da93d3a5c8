<script setup lang="ts">
/** Where the bank stands, what air it needs, how long it lasts, and what its rest voltage says. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { amount, count, hours, percent } from '@/shared/format'
import OptionalPart from '@/fields/OptionalPart.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent, temperature } from '@/fields/units'

import { PLACES } from './words'

const { document, assessment, isOffGrid } = storeToRefs(useDesign())
const arrangement = computed(() => assessment.value?.arrangement)
const degrees = computed(() => (document.value ? temperature(document.value) : '°C'))
const cells = computed(() => {
  const unit = document.value ? temperature(document.value) : null
  return unit && arrangement.value ? `${unit.show(arrangement.value.temp_c)} ${unit.label}` : ''
})
const yesNo = [
  { value: false, title: 'No' },
  { value: true, title: 'Yes' },
]
const rest_v = ref<number | null>(null)
const { value: lastState, trouble } = useAnswer({
  ask: () =>
    rest_v.value === null || !document.value
      ? null
      : outcome(
          api.POST('/api/library/rest-state', {
            params: { query: { rest_v: rest_v.value } },
            body: document.value,
          }),
        ),
  on: [rest_v, () => document.value?.bank],
})
/** A voltage that cannot be used says nothing; the last answer was for another. */
const state = computed(() => (trouble.value ? null : lastState.value))
</script>

<template>
  <div v-if="document && arrangement" class="place">
    <div class="fields">
      <ChoiceField class="wide" path="bank.place" label="Stands in" :choices="PLACES" />
      <QuantityField path="bank.temp_c" label="Temperature" :unit="degrees" />
      <ChoiceField path="bank.ventilated" label="Ventilated" :choices="yesNo" />
      <p class="lesser remark">
        Cells at {{ cells }}: {{ percent(assessment?.bank.temperature_frac ?? 1) }} of the rated capacity.
      </p>
    </div>
    <OptionalPart
      path="bank.heater"
      label="A heater in the bank’s box"
      :start="assessment?.usual.heater ?? {}"
    >
      <QuantityField path="bank.heater.power_w" label="Heater" unit="W" />
      <QuantityField path="bank.heater.loss_w_per_c" label="Box loses" unit="W/°C" />
      <QuantityField path="bank.heater.target_c" label="Keeps" :unit="degrees" />
      <p class="lesser remark">
        Draws {{ count(arrangement.heater_w) }} W on average, {{ count(arrangement.heater_wh) }} Wh a day.
      </p>
    </OptionalPart>
    <h2>Air</h2>
    <dl v-if="arrangement.ventilation" class="facts four" data-test="ventilation">
      <div>
        <dt>At float charge</dt>
        <dd>{{ arrangement.ventilation.float_m3_per_h.toFixed(2) }} m³/h</dd>
      </div>
      <div>
        <dt>At boost charge</dt>
        <dd>{{ arrangement.ventilation.boost_m3_per_h.toFixed(2) }} m³/h</dd>
      </div>
      <div>
        <dt>Inlet and outlet, each</dt>
        <dd>{{ count(arrangement.ventilation.boost_opening_cm2) }} cm²</dd>
      </div>
      <div>
        <dt>No sparks within</dt>
        <dd>{{ count(arrangement.ventilation.spark_distance_mm) }} mm</dd>
      </div>
    </dl>
    <p class="lesser basis">
      <template v-if="arrangement.ventilation">
        {{ arrangement.ventilation.cells }} cells, 0.05 × cells × gas current ×
        {{ count(arrangement.ventilation.capacity_ah) }} Ah ÷ 1,000; opening 28 cm² a m³/h. IEC 62485-2 clause
        7.2, from memory; local code decides.
      </template>
      <template v-else>
        This chemistry gives off no gas in normal use. Clearances, detectors and fire separation are for the
        listing and the local code.
      </template>
    </p>
    <h2>Life and rest</h2>
    <div class="fields">
      <QuantityField path="bank.need.cycles_per_year" label="Cycles a year" />
      <QuantityField path="bank.depth_frac" label="Depth taken" :unit="asPercent" />
      <dl class="facts three">
        <div>
          <dt>To 80 % of capacity</dt>
          <dd data-test="life-years">
            {{ arrangement.life.years.toFixed(1) }} years
            <span class="lesser">{{
              arrangement.life.by_calendar ? 'by the calendar' : `${count(arrangement.life.cycles)} cycles`
            }}</span>
          </dd>
        </div>
        <div>
          <dt>After 11 months of rest</dt>
          <dd>
            {{ percent(arrangement.life.left_after_storage_frac) }}<span class="lesser">of charge left</span>
          </dd>
        </div>
        <div v-if="!isOffGrid">
          <dt>Floor to full, grid charger</dt>
          <dd>{{ arrangement.life.recharge_h == null ? '–' : hours(arrangement.life.recharge_h) }}</dd>
        </div>
      </dl>
    </div>
    <h2>
      Charge from a rest voltage <span class="lesser light">after some hours without load or charge</span>
    </h2>
    <div class="fields">
      <QuantityField
        label="The meter shows"
        unit="V"
        may-be-empty
        :value="rest_v"
        data-test="rest-volts"
        @change="(value) => (rest_v = value)"
      />
      <p class="lesser remark" data-test="rest-answer">
        <template v-if="state">
          <b>{{ percent(state.soc_frac) }} full</b>, give or take {{ percent(state.doubt_frac) }}. Table:
          {{
            state.table
              .map(([soc, volts]) => `${amount(volts ?? 0)} V ${Math.round((soc ?? 0) * 100)} %`)
              .join(', ')
          }}. Common practice, no source.
        </template>
      </p>
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 8px 10px;
  margin-bottom: 8px;
}

.wide {
  grid-column: span 2;
}

.remark {
  grid-column: span 3;
  margin: 0;
  align-self: end;
  font-size: 13px;
}

.fields > .remark:last-child {
  grid-column: 3 / -1;
}

.fields > .remark:nth-child(4) {
  grid-column: span 2;
}

[data-test='rest-answer'] {
  grid-column: 2 / -1 !important;
  align-self: center;
}

.three {
  grid-column: span 4;
  grid-template-columns: repeat(3, minmax(0, 1fr));
}

.four {
  grid-template-columns: repeat(4, minmax(0, 1fr));
}

.basis {
  font-size: 12.5px;
  margin: 4px 0 0;
}

h2 {
  margin: 8px 0 4px;
}

.light {
  font-size: 13px;
  font-weight: 400;
}
</style>
