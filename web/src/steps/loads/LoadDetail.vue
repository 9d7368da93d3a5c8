<script setup lang="ts">
/** The panel below an opened row: the row's lesser fields, its readings, its time, its price. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import type { Load, Tier } from '@/api/client'
import { useDesign } from '@/design/store'
import FieldFrame from '@/fields/FieldFrame.vue'
import { LONGEST_NAME } from '@/fields/limits'
import { amount } from '@/shared/format'

import LoadPrice from './LoadPrice.vue'
import LoadTime from './LoadTime.vue'
import ReadingEditor from './ReadingEditor.vue'
import { YES_NO } from '@/fields/choices'
import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'

const props = defineProps<{
  load: Load
  liftedTo: Tier | null
  faults: string
}>()
const emit = defineEmits<{ change: [part: Partial<Load>]; remove: []; duplicate: [] }>()

const id = useId()
const tiers = [
  { value: 'life', title: 'Life' },
  { value: 'keep', title: 'Keep' },
  { value: 'ease', title: 'Ease' },
  { value: 'spare', title: 'Spare' },
]
const { document, assessment } = storeToRefs(useDesign())
const links = computed(() => [
  ...new Set(document.value?.loads.map((load) => load.link).filter((found): found is string => !!found)),
])
const has = (field: string) => props.faults.split(' ').includes(field)
const isMetric = document.value?.practice === 'metric_230'
const mains_v = isMetric ? 230 : 120
const bank_v = computed(() => assessment.value?.bank.nominal_v ?? 12)
const supplies = [
  { value: 'ac', title: `AC ${mains_v} V` },
  ...(isMetric ? [] : [{ value: 'ac240', title: 'AC 240 V' }]),
  { value: 'dc', title: 'DC, bank' },
  { value: 'dc_converted', title: 'DC, converter' },
  { value: 'panel', title: 'Panel alone' },
]
const circuits = computed(() => [
  { value: null, title: 'no circuit' },
  ...(document.value?.transfer?.circuits ?? []).map((entry) => ({
    value: entry.id,
    title: `${entry.slot} ${entry.name}`,
  })),
  ...(document.value?.transfer?.further ?? []).flatMap((panel) =>
    (panel.circuits ?? []).map((entry) => ({ value: entry.id, title: `${entry.name}, ${panel.name}` })),
  ),
])
const ride = computed(() => assessment.value?.transfer.rides.find((entry) => entry.id === props.load.id))
const left = computed(() =>
  assessment.value?.transfer.loads.find((entry) => entry.id === props.load.id && entry.fate !== 'carried'),
)
const link = ref('')
watch(
  () => props.load.link,
  (found) => (link.value = found ?? ''),
  { immediate: true },
)
</script>

<template>
  <div class="detail words">
    <h3>Row</h3>
    <div class="line">
      <ChoiceField
        label="Tier"
        :value="load.tier"
        :choices="tiers"
        @change="(tier: Tier) => emit('change', { tier })"
      />
      <ChoiceField
        label="Fed by"
        :value="load.supply"
        :choices="supplies"
        data-test="supply"
        @change="(supply: Load['supply']) => emit('change', { supply })"
      />
      <QuantityField
        v-if="load.supply === 'dc_converted'"
        label="Converter"
        unit="%"
        may-be-empty
        empty-means="90"
        :value="
          load.converter_efficiency_frac == null
            ? null
            : Math.round(load.converter_efficiency_frac * 1e4) / 100
        "
        :fault="has('converter_efficiency_frac')"
        @change="
          (value) =>
            emit('change', {
              converter_efficiency_frac: value === null ? null : Math.round(value * 1e4) / 1e6,
            })
        "
      />
      <QuantityField
        label="Standby, each"
        unit="W"
        :value="load.standby_w"
        :fault="has('standby_w')"
        @change="(value) => emit('change', { standby_w: value ?? 0 })"
      />
      <FieldFrame class="link" label="Linked as" :for="`${id}-link`">
        <v-text-field
          :id="`${id}-link`"
          v-model="link"
          placeholder="none"
          :maxlength="LONGEST_NAME"
          :list="`links-${load.id}`"
          @change="emit('change', { link: link.trim() || null })"
        />
      </FieldFrame>
      <datalist :id="`links-${load.id}`">
        <option v-for="entry in links" :key="entry" :value="entry" />
      </datalist>
      <div class="actions">
        <v-btn size="small" color="pine" @click="emit('duplicate')">Duplicate</v-btn>
        <v-btn size="small" color="wine" :aria-label="`Delete ${load.name}`" @click="emit('remove')"
          >Delete</v-btn
        >
      </div>
      <p v-if="liftedTo" class="lesser lifted">
        Linked loads live and drop together: this one lives in {{ liftedTo[0]?.toUpperCase()
        }}{{ liftedTo.slice(1) }} with the others linked as {{ load.link }}.
      </p>
    </div>
    <template v-if="load.supply === 'ac' || load.supply === 'ac240'">
      <h3>Circuit</h3>
      <div class="line">
        <ChoiceField
          class="hangs"
          label="Hangs on"
          :value="circuits.some((entry) => entry.value === load.circuit) ? (load.circuit ?? null) : null"
          :choices="circuits"
          data-test="hangs-on"
          @change="(circuit: string | null) => emit('change', { circuit })"
        />
        <ChoiceField
          label="Wired in"
          :value="load.hard_wired ?? false"
          :choices="YES_NO"
          @change="(hard_wired: boolean) => emit('change', { hard_wired })"
        />
        <QuantityField
          label="Rides through"
          unit="s"
          may-be-empty
          :empty-means="ride ? amount(ride.rides_s) : 'usual'"
          :value="load.rides_s ?? null"
          :fault="has('rides_s')"
          @change="(rides_s) => emit('change', { rides_s })"
        />
        <p v-if="left" class="lesser lifted">
          Not carried: {{ left.why }}. It counts in no peak and no size.
        </p>
      </div>
    </template>
    <h3>Reading</h3>
    <ReadingEditor
      :load="load"
      :mains_v="mains_v"
      :bank_v="bank_v"
      @change="(part) => emit('change', part)"
    />
    <h3>Time</h3>
    <LoadTime :load="load" :fault="has('flexible_h')" @change="(part) => emit('change', part)" />
    <h3>Price</h3>
    <LoadPrice v-if="document" :load="load" :design="document" @change="(part) => emit('change', part)" />
    <p v-if="load.tier === 'life'" class="caution">
      Someone depends on this. Ask its supplier for a backup plan, register with the utility where it keeps
      such a list, and agree where to go if the power stays off. Hearth Keep is not a medical device.
    </p>
  </div>
</template>

<style scoped>
.detail {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr);
  gap: 10px 8px;
}

h3 {
  font-size: 13px;
  font-weight: 700;
  padding-top: 22px;
}

.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: end;
}

.line > * {
  width: 96px;
}

.line > :nth-child(2) {
  width: 132px;
}

.line > .hangs {
  width: 236px;
}

.line > .link {
  flex: 1;
  min-width: 90px;
}

.line > .actions {
  width: auto;
  display: flex;
}

.line > .lifted {
  width: 100%;
  margin: 0;
  font-size: 13px;
}

.caution {
  grid-column: 2;
  margin: 0;
  padding-left: 9px;
  border-left: 3px solid var(--wine);
  font-size: 13px;
}
</style>
