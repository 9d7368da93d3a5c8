<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, onMounted, ref } from 'vue'

import { api, outcome, type ChemistryTypical } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import ChoiceField from '@/shared/ChoiceField.vue'
import { amount, count, hours, kilowattHours, percent } from '@/shared/format'
import NumberField from '@/shared/NumberField.vue'
import PriceTag from '@/shared/PriceTag.vue'
import { asPercent, temperature } from '@/shared/units'

import BankPicture from './BankPicture.vue'

const { document, assessment } = storeToRefs(useDesign())
const bank = computed(() => assessment.value?.bank)
const degrees = computed(() => (document.value ? temperature(document.value) : '°C'))
const typical = ref<Record<string, ChemistryTypical>>({})

onMounted(async () => {
  const answer = await outcome(api.GET('/api/typical/chemistries', {}))
  if (answer.kind === 'answer') typical.value = answer.value
})

const chemistries = [
  { value: 'lfp', title: 'Lithium iron phosphate' },
  { value: 'agm', title: 'AGM lead-acid' },
  { value: 'gel', title: 'Gel lead-acid' },
  { value: 'flooded', title: 'Flooded lead-acid' },
]
const places = [
  { value: 'living_space', title: 'Living space' },
  { value: 'utility_room', title: 'Utility room' },
  { value: 'garage', title: 'Garage' },
  { value: 'shed', title: 'Shed' },
  { value: 'outdoor_box', title: 'Outdoor box' },
]
const yesNo = [
  { value: false, title: 'No' },
  { value: true, title: 'Yes' },
]
const usual = computed(() => (document.value ? typical.value[document.value.bank.chemistry] : undefined))

/** What an empty field stands for, with this chemistry's figure. */
function usualAmps(perHour: number | undefined): string {
  return perHour === undefined || !document.value
    ? 'typical'
    : `${amount(perHour * document.value.bank.unit_ah)} typical`
}

function usualPart(part: number | undefined): string {
  return part === undefined ? 'typical' : `${amount(part * 100)} typical`
}
</script>

<template>
  <div v-if="document && bank && assessment" class="bank">
    <section class="figures-row">
      <BankPicture :series="document.bank.series" :parallel="document.bank.parallel" />
      <dl class="facts">
        <div>
          <dt>Rated</dt>
          <dd>
            <ExplainedFigure figure="bank.rated_wh">{{ kilowattHours(bank.rated_wh) }}</ExplainedFigure>
            <span class="lesser"> {{ amount(bank.nominal_v) }} V × {{ amount(bank.rated_ah) }} Ah</span>
          </dd>
        </div>
        <div>
          <dt>Usable, full to floor</dt>
          <dd>
            <ExplainedFigure figure="bank.usable_wh">{{ kilowattHours(bank.usable_wh) }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>Drawn a day, without sun</dt>
          <dd>
            <ExplainedFigure figure="bank.daily_drawn_wh">{{
              kilowattHours(bank.daily_drawn_wh)
            }}</ExplainedFigure>
            <span class="lesser"> {{ count(bank.daily_drawn_ah) }} Ah</span>
          </dd>
        </div>
        <div>
          <dt>Autonomy without sun</dt>
          <dd>
            <ExplainedFigure figure="bank.autonomy_h">{{
              bank.autonomy_h == null ? '–' : hours(bank.autonomy_h)
            }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>May give, may take</dt>
          <dd>{{ count(bank.discharge_limit_a) }} A, {{ count(bank.charge_limit_a) }} A</dd>
        </div>
        <div>
          <dt>One unit more, one less</dt>
          <dd>
            <PriceTag :price="assessment.prices.one_unit_more" />,
            <PriceTag :price="assessment.prices.one_unit_less" />
          </dd>
        </div>
      </dl>
    </section>
    <section>
      <h2>Units and arrangement</h2>
      <div class="fields">
        <ChoiceField class="wide" path="bank.chemistry" label="Chemistry" :choices="chemistries" />
        <NumberField path="bank.unit_v" label="Unit voltage" unit="V" />
        <NumberField path="bank.unit_ah" label="Unit capacity" unit="Ah" />
        <NumberField path="bank.series" label="In series" whole />
        <NumberField path="bank.parallel" label="In parallel" whole />
      </div>
      <h2>Use</h2>
      <div class="fields">
        <NumberField path="bank.depth_frac" label="Depth of discharge" :unit="asPercent" />
        <NumberField path="bank.cutoff_soc_frac" label="Hard cut-off at" :unit="asPercent" />
        <NumberField path="rules.ease_level_frac" label="Ease dropped below" :unit="asPercent" />
        <NumberField path="bank.start_soc_frac" label="Charge at the start" :unit="asPercent" />
        <NumberField path="bank.ageing_frac" label="Capacity left by age" :unit="asPercent" />
      </div>
      <h2>Place</h2>
      <div class="fields">
        <ChoiceField class="wide" path="bank.place" label="Stands in" :choices="places" />
        <NumberField path="bank.temp_c" label="Temperature there" :unit="degrees" />
        <ChoiceField path="bank.ventilated" label="Ventilated" :choices="yesNo" />
        <p class="lesser remark">
          At this temperature {{ percent(bank.temperature_frac) }} of the rated capacity is there to be used.
        </p>
      </div>
      <h2>
        From the data sheet
        <span class="lesser light"
          >left empty, typical values of the chemistry are used{{ usual ? `: ${usual.reason}` : '' }}</span
        >
      </h2>
      <div class="fields">
        <NumberField
          path="bank.unit_max_charge_a"
          label="Charge, one unit"
          unit="A"
          :empty-means="usualAmps(usual?.charge_limit_per_h)"
        />
        <NumberField
          path="bank.unit_max_discharge_a"
          label="Discharge, one unit"
          unit="A"
          :empty-means="usualAmps(usual?.discharge_limit_per_h)"
        />
        <NumberField
          path="bank.charge_efficiency_frac"
          label="Charge efficiency"
          :unit="asPercent"
          :empty-means="usualPart(usual?.charge_efficiency_frac)"
        />
        <NumberField
          path="bank.discharge_efficiency_frac"
          label="Discharge efficiency"
          :unit="asPercent"
          :empty-means="usualPart(usual?.discharge_efficiency_frac)"
        />
        <template v-if="usual?.is_lead_acid">
          <NumberField
            path="bank.peukert_exponent"
            label="Peukert exponent"
            :empty-means="`${amount(usual.peukert_exponent)} typical`"
          />
          <NumberField path="bank.rated_hours_h" label="Rated over" unit="h" />
        </template>
      </div>
    </section>
  </div>
</template>

<style scoped>
.figures-row {
  display: flex;
  gap: 26px;
  align-items: flex-start;
  margin-bottom: 16px;
}

.facts {
  flex: 1;
  grid-template-columns: repeat(3, minmax(0, 1fr));
}

h2 {
  margin: 2px 0 3px;
}

.light {
  font-size: 13px;
  font-weight: 400;
}

.fields {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 8px 10px;
  margin-bottom: 9px;
}

.wide {
  grid-column: span 2;
}

.remark {
  grid-column: span 2;
  margin: 0;
  align-self: end;
  font-size: 13px;
}

@media (max-width: 1150px) {
  .fields {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }

  .facts {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
