<script setup lang="ts">
/** How the units stand together: strings, links, leads, what is added, what is tapped, and which system voltage. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { amount, count } from '@/shared/format'
import QuantityField from '@/fields/QuantityField.vue'
import OptionalPart from '@/fields/OptionalPart.vue'

import BankDrawing from './BankDrawing.vue'
import { CHEMISTRIES } from './words'
import WideTable from '@/shared/WideTable.vue'

const { document, assessment } = storeToRefs(useDesign())
const arrangement = computed(() => assessment.value?.arrangement)
const takeoffs = [
  { value: 'one_end', title: 'Both leads at one end' },
  { value: 'opposite_ends', title: 'At opposite ends' },
  { value: 'equal_leads', title: 'Equal leads to bus bars' },
]
const VERDICTS: Record<string, string> = {
  easy: 'easy',
  possible: 'thick cable, short runs',
  unwise: 'unwise: a higher voltage',
}
</script>

<template>
  <div v-if="document && arrangement" class="arrangement">
    <div class="top">
      <BankDrawing
        :series="document.bank.series"
        :parallel="document.bank.parallel"
        :takeoff="document.bank.takeoff"
        :shares="arrangement.sharing.share_frac"
        :tap-units="document.bank.tap?.units ?? null"
      />
      <div class="fields">
        <QuantityField path="bank.series" label="In series" whole />
        <QuantityField path="bank.parallel" label="In parallel" whole />
        <ChoiceField class="both" path="bank.takeoff" label="Leads to the house" :choices="takeoffs" />
        <QuantityField path="bank.link_mohm" label="One link cable" unit="mΩ" />
        <QuantityField
          v-if="document.bank.unit"
          path="bank.unit.internal_resistance_mohm"
          label="One unit"
          unit="mΩ"
          empty-means="typical"
        />
        <p class="lesser both">
          One string {{ arrangement.sharing.string_mohm.toFixed(1) }} mΩ. The hardest worked carries
          {{ arrangement.sharing.worst_ratio.toFixed(2) }} times an even part<template
            v-if="arrangement.evening"
            >{{ ' ' }}in the first minute, {{ arrangement.evening.half_way_ratio.toFixed(2) }} half way down,
            and gives {{ arrangement.evening.of_all_ratio.toFixed(2) }} times its part of all
            ampere-hours</template
          >.
        </p>
      </div>
    </div>
    <OptionalPart
      path="bank.addition"
      label="Units to be added beside these"
      :start="assessment?.usual.addition ?? {}"
    >
      <ChoiceField class="wide" path="bank.addition.chemistry" label="Chemistry" :choices="CHEMISTRIES" />
      <QuantityField path="bank.addition.unit_v" label="Unit voltage" unit="V" />
      <QuantityField path="bank.addition.unit_ah" label="Unit capacity" unit="Ah" />
      <QuantityField path="bank.addition.parallel" label="In parallel" whole />
      <QuantityField path="bank.addition.years_newer" label="Newer by" unit="years" />
    </OptionalPart>
    <OptionalPart
      v-if="document.bank.series > 1 || document.bank.tap"
      path="bank.tap"
      label="A load tapped from part of a string"
      :start="assessment?.usual.tap ?? {}"
    >
      <QuantityField path="bank.tap.units" label="From the lowest" unit="units" whole />
      <QuantityField path="bank.tap.current_a" label="Current" unit="A" />
      <QuantityField path="bank.tap.hours_per_day" label="A day" unit="h" />
    </OptionalPart>
    <WideTable label="System voltages">
      <table class="ledger voltages" data-test="voltages">
        <thead>
          <tr>
            <th scope="col">System voltage</th>
            <th scope="col" class="number">At the peak</th>
            <th scope="col" class="number">Copper, one a pole</th>
            <th scope="col">What it means</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in arrangement.voltages" :key="row.nominal_v" :class="{ chosen: row.is_chosen }">
            <td>{{ amount(row.nominal_v) }} V<span v-if="row.is_chosen" class="lesser"> this bank</span></td>
            <td class="number">{{ count(row.peak_a) }} A</td>
            <td class="number">
              {{
                row.conductor
                  ? /^\d{3}$/.test(row.conductor)
                    ? `${row.conductor} kcmil`
                    : `${row.conductor} AWG`
                  : 'none'
              }}
            </td>
            <td>{{ VERDICTS[row.verdict] }}</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p class="lesser basis">
      At 86 % of the nominal voltage. Ampacity of NEC Table 310.16 at 75 °C for 125 % of the current, from
      memory; the wiring step and the adopted code decide.
    </p>
  </div>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: 440px minmax(0, 1fr);
  gap: 22px;
  margin-bottom: 8px;
}

.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 10px;
  align-content: start;
}

.both {
  grid-column: 1 / -1;
  margin: 0;
}

.wide {
  grid-column: span 2;
}

.voltages {
  margin-top: 12px;
}

.chosen td {
  font-weight: 700;
}

.basis {
  font-size: 12.5px;
  margin: 4px 0 0;
}

@media (max-width: 1150px) {
  .top {
    grid-template-columns: minmax(0, 1fr);
  }
}

@media (max-width: 640px) {
  .voltages {
    min-width: 340px;
  }
}
</style>
