<script setup lang="ts">
/** What the chargers are set to: each stage as entered, as usual, and at the bank's temperature. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import { amount } from '@/shared/format'
import QuantityField from '@/fields/QuantityField.vue'
import { temperature } from '@/fields/units'
import WideTable from '@/shared/WideTable.vue'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
/** Of the chemistries that are equalised at all. */
const mayEqualise = computed(() => ['flooded', 'starter'].includes(document.value?.bank.chemistry ?? ''))
const points = computed(() => assessment.value?.charging.stages ?? null)
const degrees = computed(() => {
  const unit = document.value ? temperature(document.value) : null
  return (celsius: number) => (unit ? `${amount(unit.show(celsius))} ${unit.label}` : '')
})
const volts = (value: number) => `${value.toFixed(2)} V`
</script>

<template>
  <div v-if="document && points" class="stages">
    <WideTable label="Set points of the chargers">
      <table class="ledger" data-test="stages">
        <thead>
          <tr>
            <th scope="col">Stage of {{ points.cells }} cells</th>
            <th scope="col" class="set">Set to, at {{ degrees(25) }}</th>
            <th scope="col" class="number">Usual</th>
            <th scope="col" class="number">At {{ degrees(points.temp_c) }}</th>
            <th scope="col">What it does</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>Absorb</td>
            <td>
              <QuantityField
                path="charging.stages.absorb_v"
                label="Absorb"
                quiet
                unit="V"
                :empty-means="amount(points.absorb_v)"
              />
            </td>
            <td class="number">
              {{ amount(points.usual_absorb_low_v)
              }}<template v-if="points.usual_absorb_high_v > points.usual_absorb_low_v"
                >–{{ amount(points.usual_absorb_high_v) }}</template
              >
              V
            </td>
            <td class="number">{{ volts(points.absorb_at_temp_v) }}</td>
            <td>fills the bank, then holds for its hours</td>
          </tr>
          <tr>
            <td>Absorb for</td>
            <td>
              <QuantityField
                path="charging.stages.absorb_h"
                label="Absorb for"
                quiet
                unit="h"
                :empty-means="amount(points.absorb_h)"
              />
            </td>
            <td class="number" />
            <td class="number" />
            <td>or until the current has fallen away</td>
          </tr>
          <tr>
            <td>Float</td>
            <td>
              <QuantityField
                path="charging.stages.float_v"
                label="Float"
                quiet
                unit="V"
                :empty-means="amount(points.float_v)"
              />
            </td>
            <td class="number">{{ amount(points.usual_float_v) }} V</td>
            <td class="number">{{ volts(points.float_at_temp_v) }}</td>
            <td>keeps a full bank full</td>
          </tr>
          <tr>
            <td>Equalise</td>
            <td>
              <QuantityField
                path="charging.stages.equalise_v"
                label="Equalise"
                quiet
                unit="V"
                :empty-means="points.equalise_v == null ? 'never' : amount(points.equalise_v)"
              />
            </td>
            <td class="number">{{ points.equalise_v == null ? 'never' : volts(points.equalise_v) }}</td>
            <td class="number" />
            <td>
              <label v-if="mayEqualise">
                <input
                  type="checkbox"
                  data-test="never-equalised"
                  :checked="document.charging?.stages?.never_equalised ?? false"
                  @change="
                    store.set(
                      'charging.stages.never_equalised',
                      !(document.charging?.stages?.never_equalised ?? false),
                    )
                  "
                />
                never, on purpose
              </label>
              <template v-else>flooded lead-acid only, by calendar, somebody present</template>
            </td>
          </tr>
          <tr>
            <td>Equalise every</td>
            <td>
              <QuantityField
                path="charging.stages.equalise_every_days"
                label="Equalise every"
                quiet
                unit="days"
                whole
                :empty-means="points.equalise_every_days == null ? '–' : String(points.equalise_every_days)"
              />
            </td>
            <td class="number" />
            <td class="number" />
            <td>water topped up before, hydrogen led outdoors</td>
          </tr>
          <tr>
            <td>Over-voltage limit</td>
            <td>
              <QuantityField
                path="charging.stages.over_voltage_v"
                label="Over-voltage limit"
                quiet
                unit="V"
                empty-means="none"
              />
            </td>
            <td class="number">{{ amount(points.usual_over_voltage_v) }} V</td>
            <td class="number" />
            <td>cuts the chargers off when one has failed</td>
          </tr>
          <tr>
            <td>Correction for temperature</td>
            <td>
              <QuantityField
                path="charging.stages.compensation_mv_per_c"
                label="Correction for temperature"
                quiet
                unit="mV"
                :empty-means="amount(points.compensation_mv_per_c)"
              />
            </td>
            <td class="number" />
            <td class="number" />
            <td>a cell and degree Celsius away from 25 °C</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p class="lesser">
      Common practice; the battery maker’s figures decide. Set every charger alike, and measure at the bank’s
      terminals once with a meter.
    </p>
  </div>
</template>

<style scoped>
.ledger td {
  height: 38px;
}

.set {
  width: 150px;
}

p {
  margin-top: 10px;
  font-size: 13px;
}
</style>
