<script setup lang="ts">
/** The transfer device, where neutral and ground are joined, the main panel's bus, and a grid-tied array. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { PanelArray } from '@/api/client'
import { useDesign } from '@/design/store'
import { YES_NO } from '@/fields/choices'
import ChoiceField from '@/fields/ChoiceField.vue'
import OptionalPart from '@/fields/OptionalPart.vue'
import QuantityField from '@/fields/QuantityField.vue'
import WireSizeField from '@/fields/WireSizeField.vue'
import { asPercent } from '@/fields/units'
import WordsField from '@/fields/WordsField.vue'
import { amount } from '@/shared/format'
import { freshId } from '@/shared/ids'
import WideTable from '@/shared/WideTable.vue'

import { BONDS, BYPASSES, FEEDS, GENERATOR_PLACES, INTERLOCKS, THROTTLES } from './words'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const report = computed(() => assessment.value?.transfer)
const isSplit = computed(() => document.value?.site.service === '120/240')
const tied = computed(() => document.value?.charging.grid_tied ?? null)
const usualGap = computed(() => {
  const gap_s = report.value?.gap_s
  return gap_s == null ? '–' : amount(gap_s)
})
const startTied = computed(() => ({
  rated_w: Math.min(document.value?.inverter.rated_w ?? 2000, 3000) || 2000,
  arrays: [newArray('Roof')],
}))

function newArray(name: string): PanelArray {
  const charging = document.value?.charging
  const used = [...(charging?.controllers ?? []), ...(tied.value ? [tied.value] : [])].flatMap((entry) =>
    (entry.arrays ?? []).map((array) => array.id),
  )
  const base = assessment.value?.usual.array ?? { stc_w: 2000, tilt_deg: 35, azimuth_deg: 180 }
  return { ...base, id: freshId('tied', used), name } as unknown as PanelArray
}

function addArray(): void {
  const arrays = tied.value?.arrays ?? []
  store.set('charging.grid_tied.arrays', [...arrays, newArray(`Roof ${arrays.length + 1}`)])
}

function removeArray(at: number): void {
  store.set(
    'charging.grid_tied.arrays',
    (tied.value?.arrays ?? []).filter((_, index) => index !== at),
  )
}
</script>

<template>
  <div v-if="document">
    <h2>Transfer device</h2>
    <div class="fields">
      <QuantityField path="transfer.device.positions" label="Positions" whole empty-means="not limited" />
      <QuantityField
        path="transfer.device.position_a"
        label="Each position"
        unit="A"
        empty-means="not known"
      />
      <QuantityField
        path="transfer.device.rated_a"
        label="Device, relay or bus"
        unit="A"
        empty-means="not known"
      />
      <QuantityField
        path="transfer.device.feeder_a"
        label="Feeder breaker"
        unit="A"
        empty-means="not known"
      />
      <WireSizeField path="transfer.device.feeder_wire" label="Feeder wire" />
      <ChoiceField v-if="isSplit" path="transfer.device.feed" label="On its legs" :choices="FEEDS" />
      <ChoiceField path="transfer.device.by_inlet" label="Fed through an inlet" :choices="YES_NO" />
      <QuantityField
        v-if="document.transfer?.device?.by_inlet"
        path="transfer.device.inlet_a"
        label="Inlet"
        unit="A"
        empty-means="not known"
      />
      <ChoiceField path="transfer.device.interlock" label="Kept apart by" :choices="INTERLOCKS" />
      <ChoiceField path="transfer.device.bypass" label="Bypass" :choices="BYPASSES" />
      <QuantityField
        path="transfer.device.transfer_s"
        label="Gap without supply"
        unit="s"
        :empty-means="usualGap"
      />
      <ChoiceField
        v-if="document.charging.generator"
        path="transfer.device.generator_at"
        label="Generator at"
        :choices="GENERATOR_PLACES"
      />
      <ChoiceField path="transfer.device.into_outlet" label="Cord into an outlet" :choices="YES_NO" />
      <QuantityField path="transfer.device.price" label="Quoted, work included" empty-means="–" />
    </div>
    <h2>Neutral and ground</h2>
    <div class="fields">
      <ChoiceField path="transfer.grounding.service_bond" label="Bond at the service" :choices="YES_NO" />
      <ChoiceField path="transfer.grounding.source_bond" label="Neutral of the unit" :choices="BONDS" />
      <ChoiceField path="transfer.grounding.panel_bond" label="Bond in backed-up panel" :choices="YES_NO" />
      <ChoiceField path="transfer.grounding.switches_neutral" label="Neutral switched" :choices="YES_NO" />
      <ChoiceField
        path="transfer.grounding.ground_fault_outlets"
        label="Ground-fault outlets"
        :choices="YES_NO"
      />
      <ChoiceField path="transfer.grounding.residual_current" label="30 mA protection" :choices="YES_NO" />
    </div>
    <WideTable v-if="report?.bonds.length" label="Neutral-ground bonds"
      ><table class="ledger bonds" data-test="bonds">
        <thead>
          <tr>
            <th scope="col">Position</th>
            <th scope="col">Neutral and ground joined at</th>
            <th scope="col" class="number">Bonds</th>
            <th scope="col">Wanted</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="count in report.bonds" :key="count.position">
            <td>{{ count.position }}</td>
            <td>{{ count.at.join(' and ') || 'no place' }}</td>
            <td class="number">{{ count.at.length }}</td>
            <td :class="{ wrong: !count.wanted.includes(count.at.length) }">
              {{ count.wanted.join(' or ') }}{{ count.wanted.includes(count.at.length) ? '' : ', not so' }}
            </td>
          </tr>
        </tbody>
      </table></WideTable
    >
    <h2>Main panel</h2>
    <div class="fields">
      <QuantityField path="transfer.main.slots" label="Slots" whole />
      <QuantityField path="transfer.main.bus_a" label="Bus" unit="A" empty-means="not known" />
      <QuantityField path="transfer.main.main_a" label="Main breaker" unit="A" empty-means="not known" />
      <QuantityField
        path="transfer.main.utility_a"
        label="Utility’s breaker"
        unit="A"
        empty-means="not known"
      />
      <QuantityField
        path="transfer.main.supply_breaker_a"
        label="Supply breaker on it"
        unit="A"
        empty-means="none"
      />
      <ChoiceField path="transfer.main.supply_at_far_end" label="At the far end" :choices="YES_NO" />
      <ChoiceField path="transfer.labels_in_place" label="Labels in place" :choices="YES_NO" />
    </div>
    <ul v-if="report?.labels.length" class="labels" aria-label="Labels and placards">
      <li v-for="label in report.labels" :key="label">{{ label }}</li>
    </ul>
    <h2>Grid-tied array</h2>
    <OptionalPart
      path="charging.grid_tied"
      label="There is an array on a grid-tied inverter"
      :start="startTied"
    >
      <QuantityField path="charging.grid_tied.rated_w" label="Its inverter" unit="W" />
      <QuantityField path="charging.grid_tied.efficiency_frac" label="Efficiency" :unit="asPercent" />
      <ChoiceField path="charging.grid_tied.on_backup_panel" label="On backed-up side" :choices="YES_NO" />
      <ChoiceField path="charging.grid_tied.throttle" label="Held back" :choices="THROTTLES" />
      <QuantityField
        v-if="tied?.throttle === 'blocks'"
        path="charging.grid_tied.blocks"
        label="In parts"
        whole
      />
      <QuantityField
        v-if="tied?.throttle !== 'frequency'"
        path="charging.grid_tied.back_soc_frac"
        label="Comes back at"
        :unit="asPercent"
      />
      <QuantityField
        path="charging.grid_tied.charge_w"
        label="Most into the bank"
        unit="W"
        :empty-means="amount(document.inverter.rated_w * (document.inverter.units ?? 1))"
      />
    </OptionalPart>
    <div v-for="(array, at) in tied?.arrays ?? []" :key="array.id" class="fields array">
      <WordsField :path="`charging.grid_tied.arrays.${at}.name`" label="Array" />
      <QuantityField :path="`charging.grid_tied.arrays.${at}.stc_w`" label="Panels" unit="W" />
      <QuantityField :path="`charging.grid_tied.arrays.${at}.tilt_deg`" label="Tilt" unit="°" />
      <QuantityField :path="`charging.grid_tied.arrays.${at}.azimuth_deg`" label="Faces, N 0" unit="°" />
      <QuantityField :path="`charging.grid_tied.arrays.${at}.losses_frac`" label="Losses" :unit="asPercent" />
      <v-btn
        class="remove"
        size="small"
        color="wine"
        :aria-label="`Remove ${array.name}`"
        @click="removeArray(at)"
        >Remove</v-btn
      >
    </div>
    <v-btn v-if="tied && (tied.arrays ?? []).length < 12" size="small" color="pine" @click="addArray"
      >Add an array</v-btn
    >
  </div>
</template>

<style scoped>
h2 {
  margin: 12px 0 8px;
}

.fields {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 8px 10px;
}

.fields.array {
  grid-template-columns: minmax(0, 1.6fr) repeat(4, minmax(0, 1fr)) auto;
}

:deep(.optional > .fields) {
  grid-template-columns: repeat(4, minmax(0, 1fr));
}

.array {
  margin: 4px 0 6px 22px;
}

.remove {
  align-self: end;
}

.bonds {
  max-width: 640px;
  margin-top: 8px;
}

.wrong {
  color: var(--wine);
  font-weight: 700;
}

.labels {
  margin: 8px 0 0;
  padding-left: 18px;
  font-size: 13px;
}

@media (max-width: 1300px) {
  .fields {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}
</style>
