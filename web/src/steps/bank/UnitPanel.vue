<script setup lang="ts">
/** The unit and its data sheet: typed, or taken whole from the library. */
import { storeToRefs } from 'pinia'
import { computed, onMounted, ref } from 'vue'

import { api, outcome, type ChemistryTypical, type LibraryBattery, refusal, SILENT } from '@/api/client'
import { useDesign } from '@/design/store'
import UnitLibrary from '@/library/UnitLibrary.vue'
import ChoiceField from '@/fields/ChoiceField.vue'
import { amount } from '@/shared/format'
import { idFromName } from '@/shared/ids'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent, temperature } from '@/fields/units'
import WordsField from '@/fields/WordsField.vue'

import CyclePoints from './CyclePoints.vue'
import { depthFields } from './depth'
import { CHEMISTRIES } from './words'

const store = useDesign()
const { document } = storeToRefs(store)
const typical = ref<Record<string, ChemistryTypical>>({})
const isOpen = ref(false)
const kept = ref('')

onMounted(async () => {
  const answer = await outcome(api.GET('/api/typical/chemistries', {}))
  if (answer.kind === 'answer') typical.value = answer.value
})

const usual = computed(() => (document.value ? typical.value[document.value.bank.chemistry] : undefined))
const usualAmps = (perHour: number | undefined) =>
  perHour === undefined || !document.value
    ? 'typical'
    : `${amount(perHour * document.value.bank.unit_ah)} typical`
const usualPart = (part: number | undefined) =>
  part === undefined ? 'typical' : `${amount(part * 100)} typical`

const degrees = computed(() => (document.value ? temperature(document.value) : '°C'))

function usualDegrees(value: number | undefined): string {
  const unit = document.value ? temperature(document.value) : null
  return value === undefined || !unit ? 'typical' : `${unit.show(value)} typical`
}

const columns = [
  { title: 'Chemistry', value: (unit: LibraryBattery) => unit.chemistry.toUpperCase(), words: true },
  { title: 'V', value: (unit: LibraryBattery) => amount(unit.unit_v) },
  { title: 'Ah', value: (unit: LibraryBattery) => amount(unit.unit_ah) },
  { title: 'Gives, A', value: (unit: LibraryBattery) => amount(unit.unit_max_discharge_a ?? 0) },
  { title: 'Takes, A', value: (unit: LibraryBattery) => amount(unit.unit_max_charge_a ?? 0) },
  { title: 'kg', value: (unit: LibraryBattery) => amount(unit.mass_kg ?? 0) },
  { title: 'Price', value: (unit: LibraryBattery) => (unit.price == null ? '–' : amount(unit.price)) },
]
const find = (words: string) => outcome(api.GET('/api/library/battery', { params: { query: { words } } }))

/** The unit's whole sheet as one edit; arrangement, place and need stay. */
function take(found: LibraryBattery): void {
  const { chemistry, unit_v, unit_ah, unit_max_charge_a, unit_max_discharge_a, ...unit } = found
  const bank = document.value?.bank
  if (!bank) return
  const typicalDepth = typical.value[chemistry]?.usual_depth_frac ?? bank.depth_frac
  store.set('bank', {
    ...bank,
    chemistry,
    unit_v,
    unit_ah,
    unit_max_charge_a: unit_max_charge_a ?? null,
    unit_max_discharge_a: unit_max_discharge_a ?? null,
    ...depthFields(chemistry === bank.chemistry ? bank.depth_frac : typicalDepth, bank.cutoff_soc_frac),
    unit,
  })
  isOpen.value = false
}

/** This bank's unit into the library, for other designs. */
async function keep(): Promise<void> {
  const bank = document.value?.bank
  if (!bank) return
  const name = bank.unit?.name ?? `${bank.chemistry.toUpperCase()} ${bank.unit_v} V ${bank.unit_ah} Ah`
  const library_id = bank.unit?.library_id ?? idFromName(name, [])
  const sheet = bank.unit ?? { cycle_points: [] }
  const answer = await outcome(
    api.PUT('/api/library/battery', {
      body: {
        ...sheet,
        name,
        library_id,
        chemistry: bank.chemistry,
        unit_v: bank.unit_v,
        unit_ah: bank.unit_ah,
        unit_max_charge_a: bank.unit_max_charge_a ?? null,
        unit_max_discharge_a: bank.unit_max_discharge_a ?? null,
      },
    }),
  )
  if (answer.kind === 'answer') {
    kept.value = `${name} stands in the library.`
    store.set('bank.unit', { ...sheet, name, library_id })
  } else kept.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
}
</script>

<template>
  <div v-if="document">
    <div class="tools">
      <v-btn variant="outlined" color="pine" size="small" data-test="open-library" @click="isOpen = true"
        >Choose from the library</v-btn
      >
      <v-btn color="pine" size="small" @click="keep">Keep this unit in the library</v-btn>
      <span class="lesser" role="status">{{ kept }}</span>
    </div>
    <UnitLibrary
      v-if="isOpen"
      kind="battery"
      title="Batteries of the library"
      :columns="columns"
      :find="find"
      :chosen="document.bank.unit?.library_id ?? null"
      @take="take"
      @close="isOpen = false"
    />
    <div class="fields">
      <ChoiceField class="wide" path="bank.chemistry" label="Chemistry" :choices="CHEMISTRIES" />
      <QuantityField path="bank.unit_v" label="Unit voltage" unit="V" />
      <QuantityField path="bank.unit_ah" label="Unit capacity" unit="Ah" />
      <QuantityField path="bank.series" label="In series" whole />
      <QuantityField path="bank.parallel" label="In parallel" whole />
      <QuantityField path="bank.ageing_frac" label="Capacity left by age" :unit="asPercent" />
      <QuantityField path="bank.start_soc_frac" label="Charge at the start" :unit="asPercent" />
      <QuantityField path="bank.depth_frac" label="Depth of discharge" :unit="asPercent" />
      <QuantityField path="bank.cutoff_soc_frac" label="Hard cut-off at" :unit="asPercent" />
    </div>
    <h2>
      From the data sheet
      <span class="lesser light"
        >left empty, typical values of the chemistry are used{{ usual ? `: ${usual.reason}` : '' }}</span
      >
    </h2>
    <div class="fields">
      <QuantityField
        path="bank.unit_max_charge_a"
        label="Charge, one unit"
        unit="A"
        :empty-means="usualAmps(usual?.charge_limit_per_h)"
      />
      <QuantityField
        path="bank.unit_max_discharge_a"
        label="Discharge, one unit"
        unit="A"
        :empty-means="usualAmps(usual?.discharge_limit_per_h)"
      />
      <QuantityField path="bank.unit_breaker_a" label="Built-in breaker" unit="A" empty-means="none" />
      <QuantityField
        v-if="document.bank.unit_breaker_a != null"
        path="bank.unit_breaker_interrupt_a"
        label="It breaks"
        unit="A"
        empty-means="not said"
      />
      <QuantityField
        path="bank.charge_efficiency_frac"
        label="Charge efficiency"
        :unit="asPercent"
        :empty-means="usualPart(usual?.charge_efficiency_frac)"
      />
      <QuantityField
        path="bank.discharge_efficiency_frac"
        label="Discharge efficiency"
        :unit="asPercent"
        :empty-means="usualPart(usual?.discharge_efficiency_frac)"
      />
      <template v-if="usual?.is_lead_acid">
        <QuantityField
          path="bank.peukert_exponent"
          label="Peukert exponent"
          :empty-means="`${amount(usual.peukert_exponent)} typical`"
        />
        <QuantityField path="bank.rated_hours_h" label="Rated over" unit="h" />
      </template>
    </div>
    <template v-if="document.bank.unit">
      <h2>The unit</h2>
      <div class="fields">
        <WordsField class="wide" path="bank.unit.name" label="Name" />
        <QuantityField
          path="bank.unit.short_discharge_a"
          label="For seconds"
          unit="A"
          empty-means="not said"
        />
        <QuantityField path="bank.unit.max_series" label="Series at most" whole empty-means="not said" />
        <QuantityField path="bank.unit.max_parallel" label="Parallel at most" whole empty-means="not said" />
        <QuantityField path="bank.unit.mass_kg" label="Mass" unit="kg" empty-means="not said" />
        <QuantityField path="bank.unit.price" label="Price" empty-means="not said" />
        <QuantityField
          path="bank.unit.internal_resistance_mohm"
          label="Resistance"
          unit="mΩ"
          empty-means="typical"
        />
        <QuantityField
          path="bank.unit.calendar_years"
          label="Calendar life"
          unit="years"
          :empty-means="usual ? amount(usual.calendar_years) : 'typical'"
        />
        <QuantityField
          path="bank.unit.self_discharge_month_frac"
          label="Lost a month"
          :unit="asPercent"
          :empty-means="usualPart(usual?.self_discharge_month_frac)"
        />
        <QuantityField
          path="bank.unit.charge_min_c"
          label="Charge from"
          :unit="degrees"
          :empty-means="usualDegrees(usual?.charge_min_c)"
        />
        <QuantityField
          path="bank.unit.discharge_min_c"
          label="Discharge from"
          :unit="degrees"
          :empty-means="usualDegrees(usual?.discharge_min_c)"
        />
      </div>
      <CyclePoints />
    </template>
    <v-btn
      v-else
      color="pine"
      size="small"
      @click="store.set('bank.unit', { name: 'Own unit', cycle_points: [] })"
      >Say more of the unit</v-btn
    >
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 10px;
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

h2 {
  margin: 6px 0 3px;
}

.light {
  font-size: 13px;
  font-weight: 400;
}

@media (max-width: 1150px) {
  .fields {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}

@media (max-width: 640px) {
  .tools {
    flex-wrap: wrap;
  }
}
</style>
