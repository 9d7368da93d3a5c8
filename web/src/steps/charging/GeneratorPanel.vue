<script setup lang="ts">
/** The generator: its rules, its fuel, what it did in this outage, and other sizes beside it. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { api, outcome, type GeneratorChoice } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import ChoiceField from '@/fields/ChoiceField.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import { amount, count, hours, percent } from '@/shared/format'
import HourCells from '@/fields/HourCells.vue'
import QuantityField from '@/fields/QuantityField.vue'
import OptionalPart from '@/fields/OptionalPart.vue'
import PriceTag from '@/shared/PriceTag.vue'
import TakeButton from '@/shared/TakeButton.vue'
import { asPercent, flow, flowOfEnergy, volume } from '@/fields/units'
import WideTable from '@/shared/WideTable.vue'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const generator = computed(() => document.value?.charging.generator ?? null)
const litres = computed(() => (document.value ? volume(document.value) : 'L'))
const anHour = computed(() => (document.value ? flow(document.value) : 'L/h'))
const aKilowattHour = computed(() => (document.value ? flowOfEnergy(document.value) : 'L'))
const fuelAsked = computed(() => assessment.value?.charging.fuel_asked_l ?? 0)
const runsOut = computed(() => assessment.value?.outage.out_of_fuel_h != null)

const FUELS = [
  { value: 'gasoline', title: 'Gasoline' },
  { value: 'diesel', title: 'Diesel' },
  { value: 'propane', title: 'Propane, liquid' },
]
const OUTPUTS = [
  { value: null, title: 'not set' },
  { value: '120', title: '120 V' },
  { value: '120/240', title: '120/240 V' },
  { value: '230', title: '230 V' },
]
const FEEDS = [
  { value: false, title: 'on it, through the relay' },
  { value: true, title: 'on the inverter still' },
]
function fuel(value_l: number): string {
  const unit = document.value ? volume(document.value) : null
  return unit ? `${amount(Math.round(unit.show(value_l) * 10) / 10)} ${unit.label}` : ''
}

const { value: choices } = useAnswer({
  ask: () =>
    document.value && generator.value
      ? outcome(api.POST('/api/generator-choices', { body: document.value }))
      : null,
  on: document,
  wait: 120,
})
const rows = computed(() => choices.value ?? [])

function take(row: GeneratorChoice): void {
  store.setAll([
    { path: 'charging.generator.rated_w', value: row.rated_w },
    { path: 'charging.generator.charger_w', value: Math.round(row.charger_w) },
    { path: 'charging.generator.surge_w', value: null },
    { path: 'charging.generator.charges_only', value: row.charges_only },
    { path: 'charging.generator.fuel_idle_l_per_h', value: null },
    { path: 'charging.generator.fuel_l_per_kwh', value: null },
  ])
}
</script>

<template>
  <div v-if="document && assessment" class="generator">
    <p class="caution">
      Outdoors only, at least 6 m (20 ft) from doors, windows and vents, exhaust pointing away, never in a
      garage or on a porch; carbon monoxide alarms indoors. Cool before refuelling. To the house only through
      transfer equipment.
    </p>
    <dl v-if="generator" class="facts" data-test="generator-facts">
      <div>
        <dt>Ran in this outage</dt>
        <dd>
          <ExplainedFigure figure="charging.generator_h">{{
            hours(assessment.outage.generator_h)
          }}</ExplainedFigure>
          <span class="lesser"
            >{{ count(assessment.outage.generator_starts) }}
            {{ assessment.outage.generator_starts === 1 ? 'start' : 'starts' }}</span
          >
        </dd>
      </div>
      <div>
        <dt>Fuel burnt</dt>
        <dd>
          <ExplainedFigure figure="charging.fuel">{{ fuel(assessment.outage.fuel_l) }}</ExplainedFigure>
          <span class="lesser">of {{ fuel(generator.stock_l) }}</span>
          <span v-if="runsOut" class="lesser"
            >asks for
            <ExplainedFigure figure="charging.fuel_asked">{{ fuel(fuelAsked) }}</ExplainedFigure></span
          >
        </dd>
      </div>
      <div>
        <dt>Left by height and heat</dt>
        <dd>
          <ExplainedFigure figure="charging.generator_rating"
            >{{ count(assessment.figures['charging.generator_rating']?.value ?? 0) }} W</ExplainedFigure
          >
        </dd>
      </div>
      <div>
        <dt>Without it</dt>
        <dd><PriceTag :price="assessment.prices.without_generator" /></dd>
      </div>
    </dl>
    <OptionalPart path="charging.generator" label="There is a generator" :start="assessment.usual.generator">
      <QuantityField path="charging.generator.rated_w" label="Rated" unit="W" />
      <QuantityField path="charging.generator.surge_w" label="Surge" unit="W" empty-means="× 1.25" />
      <ChoiceField path="charging.generator.output" label="Gives" :choices="OUTPUTS" />
      <ChoiceField path="charging.generator.fuel" label="Fuel" :choices="FUELS" />
      <QuantityField path="charging.generator.stock_l" label="Fuel on hand" :unit="litres" />
      <QuantityField path="charging.generator.tank_l" label="Its tank" :unit="litres" />
      <QuantityField path="charging.generator.min_run_h" label="Runs at least" unit="h" />
      <QuantityField path="charging.generator.start_soc_frac" label="Starts at charge" :unit="asPercent" />
      <QuantityField path="charging.generator.stop_soc_frac" label="Stops at charge" :unit="asPercent" />
      <QuantityField path="charging.generator.charger_w" label="Its charger gives" unit="W" />
      <QuantityField
        path="charging.generator.charger_efficiency_frac"
        label="Charger efficiency"
        :unit="asPercent"
      />
      <QuantityField
        path="charging.generator.fuel_idle_l_per_h"
        label="Fuel at no load"
        :unit="anHour"
        empty-means="typical"
      />
      <QuantityField
        path="charging.generator.fuel_l_per_kwh"
        label="Fuel a kWh"
        :unit="aKilowattHour"
        empty-means="typical"
      />
      <FieldFrame class="wide" label="Quiet hours" for="quiet-hours">
        <HourCells
          id="quiet-hours"
          :hours="generator?.quiet_hours ?? []"
          tier="spare"
          label="Quiet hours of the generator"
          :pinned-hour="null"
          @change="(spans) => store.set('charging.generator.quiet_hours', spans)"
        />
      </FieldFrame>
      <ChoiceField
        class="wide"
        path="charging.generator.charges_only"
        label="While it runs, the house is"
        :choices="FEEDS"
      />
      <QuantityField path="charging.generator.start_failure_frac" label="Fails to start" :unit="asPercent" />
    </OptionalPart>
    <WideTable v-if="rows.length" label="Sizes of generator">
      <table class="ledger" data-test="generator-choices">
        <thead>
          <tr>
            <th scope="col">Side by side</th>
            <th scope="col" class="number">Rated</th>
            <th scope="col" class="number">Charger</th>
            <th scope="col" class="number">Carried</th>
            <th scope="col" class="number">Fuel</th>
            <th scope="col" class="number">Runs</th>
            <th scope="col" class="number">Mean load</th>
            <th scope="col"><span class="visually-hidden">Take</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.key">
            <td>{{ row.label }}</td>
            <td class="number">{{ count(row.rated_w) }} W</td>
            <td class="number">{{ count(row.charger_w) }} W</td>
            <td class="number">{{ hours(row.hours_carried_h) }}</td>
            <td class="number">{{ fuel(row.fuel_l) }}</td>
            <td class="number">{{ hours(row.running_h) }}</td>
            <td class="number">{{ row.mean_load_frac == null ? '–' : percent(row.mean_load_frac) }}</td>
            <td>
              <TakeButton
                v-if="row.key !== 'as_is'"
                label="Take"
                brief
                :carried_h="row.hours_carried_h"
                :aria-label="`Take the one ${row.label}`"
                @take="take(row)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
  </div>
</template>

<style scoped>
.caution {
  margin: 0 0 10px;
  padding-left: 9px;
  border-left: 3px solid var(--wine);
}

.facts {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  margin-bottom: 10px;
}

.wide {
  grid-column: span 2;
}
</style>
