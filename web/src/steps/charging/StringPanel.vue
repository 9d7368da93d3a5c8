<script setup lang="ts">
/** The panels of an array, how they are strung, and what the string does in the cold and in the heat. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome, type LibraryModule, type PanelArray, refusal, SILENT } from '@/api/client'
import { useDesign } from '@/design/store'
import UnitLibrary from '@/library/UnitLibrary.vue'
import { amount } from '@/shared/format'
import { idFromName } from '@/shared/ids'
import QuantityField from '@/fields/QuantityField.vue'
import OptionalPart from '@/fields/OptionalPart.vue'
import { asPercent, temperature } from '@/fields/units'
import WordsField from '@/fields/WordsField.vue'

const props = defineProps<{ path: string; array: PanelArray }>()
const store = useDesign()
const { document, assessment } = storeToRefs(store)
const isOpen = ref(false)
const kept = ref('')
const MOST_DRAWN = 10
const report = computed(() =>
  assessment.value?.charging.strings.find((entry) => entry.array_id === props.array.id),
)
const degrees = (celsius: number) => {
  const unit = document.value ? temperature(document.value) : null
  return unit ? `${unit.show(celsius)} ${unit.label}` : ''
}
/** Usual panels for this array, for the data sheet to correct. */
const guess = computed(() => assessment.value?.usual.panels[props.array.id])
const start = computed(() => guess.value?.module ?? {})
const also = computed(() => [
  { path: `${props.path}.series`, value: guess.value?.series ?? 1 },
  { path: `${props.path}.strings`, value: guess.value?.strings ?? 1 },
])
const panels = computed(() =>
  Array.from(
    { length: Math.min(props.array.strings, MOST_DRAWN) * Math.min(props.array.series, MOST_DRAWN) },
    (_, index) => {
      const inRow = Math.min(props.array.series, MOST_DRAWN)
      return { key: index, x: 4 + (index % inRow) * 15, y: 4 + Math.floor(index / inRow) * 13 }
    },
  ),
)
const drawn = computed(() => ({
  width: 14 + Math.min(props.array.series, MOST_DRAWN) * 15,
  height: 6 + Math.min(props.array.strings, MOST_DRAWN) * 13,
}))

const columns = [
  { title: 'W', value: (unit: LibraryModule) => amount(unit.stc_w) },
  { title: 'Voc', value: (unit: LibraryModule) => amount(unit.voc_v) },
  { title: 'Vmp', value: (unit: LibraryModule) => amount(unit.vmp_v) },
  { title: 'Isc', value: (unit: LibraryModule) => amount(unit.isc_a) },
  { title: 'Size, mm', value: (unit: LibraryModule) => size(unit) },
  { title: 'kg', value: (unit: LibraryModule) => (unit.mass_kg == null ? '–' : amount(unit.mass_kg)) },
  { title: 'Price', value: (unit: LibraryModule) => (unit.price == null ? '–' : amount(unit.price)) },
]
const find = (words: string) => outcome(api.GET('/api/library/module', { params: { query: { words } } }))

function size(unit: LibraryModule): string {
  return unit.length_mm == null || unit.width_mm == null ? '–' : `${unit.length_mm} × ${unit.width_mm}`
}

/** The panel's whole sheet as one edit, with the watts that so many of them make; series and strings stay. */
function take(module: LibraryModule): void {
  store.setAll([
    { path: `${props.path}.module`, value: module },
    { path: `${props.path}.stc_w`, value: module.stc_w * props.array.series * props.array.strings },
    ...(module.power_temp_coeff_per_c == null
      ? []
      : [{ path: `${props.path}.power_temp_coeff_per_c`, value: module.power_temp_coeff_per_c }]),
  ])
  isOpen.value = false
}

/** This panel into the library, for other arrays and designs. */
async function keep(): Promise<void> {
  const module = props.array.module
  if (!module) return
  const library_id = module.library_id ?? idFromName(module.name, [])
  const answer = await outcome(api.PUT('/api/library/module', { body: { ...module, library_id } }))
  if (answer.kind === 'answer') {
    kept.value = `${module.name} stands in the library.`
    store.set(`${props.path}.module.library_id`, library_id)
  } else kept.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
}
</script>

<template>
  <div class="panel">
    <OptionalPart
      :path="`${path}.module`"
      :label="`Panels of ${array.name} are known`"
      :start="start"
      :also="also"
    >
      <WordsField class="wide" :path="`${path}.module.name`" label="Panel" />
      <QuantityField :path="`${path}.series`" label="In series" whole />
      <QuantityField :path="`${path}.strings`" label="Strings" whole />
      <QuantityField :path="`${path}.module.stc_w`" label="One panel" unit="W" />
      <QuantityField :path="`${path}.module.voc_v`" label="Voc" unit="V" />
      <QuantityField :path="`${path}.module.vmp_v`" label="Vmp" unit="V" />
      <QuantityField :path="`${path}.module.isc_a`" label="Isc" unit="A" />
      <QuantityField :path="`${path}.module.imp_a`" label="Imp" unit="A" />
      <QuantityField
        :path="`${path}.module.voc_temp_coeff_per_c`"
        label="Voc, each °C"
        :unit="asPercent"
        empty-means="table"
      />
      <QuantityField
        :path="`${path}.module.series_fuse_a`"
        label="Fuse, most"
        unit="A"
        empty-means="not said"
      />
      <div v-if="report" class="report" data-test="string-report">
        <svg
          :width="drawn.width"
          :height="drawn.height"
          role="img"
          :aria-label="`${array.strings} strings of ${array.series}`"
        >
          <path
            v-for="row in Math.min(array.strings, MOST_DRAWN)"
            :key="row"
            class="wire"
            :d="`M0 ${row * 13 - 4}H${drawn.width}`"
          />
          <rect v-for="panel in panels" :key="panel.key" :x="panel.x" :y="panel.y" width="12" height="10" />
        </svg>
        <p>
          Cold, {{ degrees(report.cold_c) }}{{ report.cold_from === 'estimate' ? ' (estimate)' : '' }}:
          <b class="figures">{{ report.cold_voc_v.toFixed(1) }} V</b> open (×
          {{ report.cold_factor.toFixed(3) }}, {{ report.by_table ? 'table' : 'coefficient' }}). Hot,
          {{ degrees(report.hot_c) }} cells:
          <b class="figures">{{ report.hot_vmp_v.toFixed(1) }} V</b> working. Input
          <b class="figures">{{ amount(report.input_a) }} A</b>, conductor for
          <b class="figures">{{ amount(report.conductor_a) }} A</b>,
          {{ report.needs_fuses ? `string fuses ${report.fuse_a ?? 'beyond usual'} A` : 'no string fuses' }}.
        </p>
      </div>
    </OptionalPart>
    <div class="tools">
      <v-btn size="small" color="pine" :data-test="`choose-${array.id}`" @click="isOpen = true"
        >Choose a panel from the library</v-btn
      >
      <v-btn v-if="array.module" size="small" color="pine" @click="keep">Keep in the library</v-btn>
      <span v-if="kept" role="status" class="lesser">{{ kept }}</span>
    </div>
    <UnitLibrary
      v-if="isOpen"
      kind="module"
      title="Panels"
      hint="name, 400w, 31.2v"
      :columns="columns"
      :find="find"
      :chosen="array.module?.library_id ?? null"
      @take="take"
      @close="isOpen = false"
    />
  </div>
</template>

<style scoped>
.wide {
  grid-column: span 2;
}

.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
}

.report {
  grid-column: 1 / -1;
  display: flex;
  gap: 12px;
  align-items: center;
  font-size: 13px;
}

.report p {
  margin: 0;
}

svg {
  flex: none;
}

rect {
  fill: var(--sun);
  stroke: var(--ink);
}

.wire {
  stroke: var(--ink);
}
</style>
