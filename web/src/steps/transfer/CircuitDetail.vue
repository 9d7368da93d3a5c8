<script setup lang="ts">
/** The picked circuit: its breaker and wire, whether it is backed up, and what hangs on it. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { api, outcome, type Load, type PriceInHours } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { YES_NO } from '@/fields/choices'
import ChoiceField from '@/fields/ChoiceField.vue'
import OptionalWords from '@/fields/OptionalWords.vue'
import WireSizeField from '@/fields/WireSizeField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import WordsField from '@/fields/WordsField.vue'
import { amount, count } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'

import { useDesign } from '@/design/store'
import type { Panel } from './usePanel'
import { fateWord } from './words'

const { isOffGrid } = storeToRefs(useDesign())
const props = defineProps<{ panel: Panel; id: string }>()
const emit = defineEmits<{ removed: [] }>()
const at = computed(() => props.panel.circuits.value.findIndex((circuit) => circuit.id === props.id))
const circuit = computed(() => props.panel.circuits.value[at.value] ?? null)
const state = computed(() => props.panel.stateOf(props.id))
const path = computed(() => `transfer.circuits.${at.value}`)
const here = computed(() => props.panel.loads.value.filter((load) => load.circuit === props.id))
/** Watts of each load's pieces together. */
const watts = computed(
  () => new Map(props.panel.assessment.value?.transfer.loads.map((load) => [load.id, load.running_w])),
)
const elsewhere = computed(() => [
  { value: '', title: 'hang a load on it' },
  ...props.panel.houseLoads.value
    .filter((load) => load.circuit !== props.id)
    .map((load) => ({ value: load.id, title: load.circuit ? `${load.name}, moved here` : load.name })),
])
const mates = computed(() => [
  { value: null, title: 'none' },
  ...props.panel.circuits.value
    .filter((entry) => entry.id !== props.id && (entry.poles ?? 1) === 1)
    .map((entry) => ({ value: entry.id, title: `${entry.slot} ${entry.name}` })),
])
const legs = computed(() => [
  { value: null, title: 'as there' },
  { value: 'A', title: 'A' },
  { value: 'B', title: 'B' },
])
const { value: price } = useAnswer<PriceInHours>({
  ask: () => {
    const design = props.panel.document.value
    if (!design || !here.value.length) return null
    return outcome(api.POST('/api/transfer/circuit-price', { body: { design, circuit_id: props.id } }))
  },
  on: [() => props.panel.document.value, () => props.id],
  wait: 150,
})
const POLES = [
  { value: 1, title: 'one' },
  { value: 2, title: 'two' },
]

function hangOn(id: string): void {
  const load = props.panel.loads.value.find((entry) => entry.id === id)
  if (load) props.panel.hang(load as Load, props.id)
}

/** A second pole where its slot is free; else nothing changes and the slots say why. */
function setPoles(poles: number): void {
  if (circuit.value && props.panel.fits({ ...circuit.value, poles }, circuit.value.slot))
    props.panel.change(props.id, { poles, ...(poles === 2 ? { leg: null } : {}) })
}

function remove(): void {
  props.panel.remove(props.id)
  emit('removed')
}
</script>

<template>
  <section v-if="circuit" class="circuit" :aria-label="`Circuit ${circuit.name}`" data-test="circuit">
    <h2>
      Slot {{ panel.slotsOf(circuit).join(' and ') }}
      <span v-if="state" class="fate" :class="state.fate">{{
        state.why || fateWord(state.fate, isOffGrid)
      }}</span>
    </h2>
    <WordsField :path="`${path}.name`" label="Name" />
    <div class="fields">
      <QuantityField :path="`${path}.breaker_a`" label="Breaker" unit="A" />
      <ChoiceField label="Poles" :value="circuit.poles ?? 1" :choices="POLES" @change="setPoles" />
      <WireSizeField :path="`${path}.wire`" label="Wire" />
      <QuantityField :path="`${path}.outlets_a`" label="Its outlets" unit="A" empty-means="not said" />
      <ChoiceField
        v-if="circuit.outlets_a != null"
        :path="`${path}.one_outlet`"
        label="One outlet alone"
        :choices="YES_NO"
      />
      <ChoiceField
        :path="`${path}.backed_up`"
        :label="isOffGrid ? 'Fed' : 'Backed up'"
        :choices="YES_NO"
        data-test="backed-up"
      />
      <ChoiceField
        v-if="panel.stacked.value && (circuit.poles ?? 1) === 1"
        :path="`${path}.backup_leg`"
        label="Backup leg"
        :choices="legs"
      />
      <ChoiceField
        v-if="panel.stacked.value && (circuit.poles ?? 1) === 1"
        :path="`${path}.shares_neutral_with`"
        label="Shares neutral with"
        :choices="mates"
      />
    </div>
    <OptionalWords
      :path="`${path}.why`"
      label="Why"
      :placeholder="isOffGrid ? 'why fed, or left off' : 'why backed up, or kept on the grid'"
    />
    <ul aria-label="What hangs on it">
      <li v-for="load in here" :key="load.id">
        {{ load.name }}
        <span class="figures lesser">{{ count(watts.get(load.id) ?? 0) }} W</span>
        <button type="button" :aria-label="`Take ${load.name} off`" @click="panel.hang(load, null)">
          take off
        </button>
      </li>
      <li v-if="!here.length" class="lesser">no load of the audit</li>
    </ul>
    <ChoiceField label="Loads" :value="''" :choices="elsewhere" data-test="hang" @change="hangOn" />
    <p v-if="state" class="lesser sum">
      Together {{ count(state.running_w) }} W, {{ amount(state.current_a) }} A of
      {{ amount(circuit.breaker_a) }} A.
    </p>
    <p v-if="here.length && state?.fate !== 'dead'" class="price" data-test="circuit-price">
      {{
        circuit.backed_up ? (isOffGrid ? 'Left off' : 'Kept on the grid') : isOffGrid ? 'Fed' : 'Backed up'
      }}: <PriceTag :price="price" />
    </p>
    <v-btn size="small" color="wine" @click="remove">Take the circuit out</v-btn>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 6px;
}

.fate {
  font-size: 13px;
  font-weight: 400;
  color: var(--slate);
}

.fate.dead {
  color: var(--wine);
  font-weight: 700;
}

.fate.carried {
  color: var(--ember-ink);
}

.fields {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px 10px;
  margin: 6px 0;
}

ul {
  list-style: none;
  padding: 0;
  margin: 8px 0;
  font-size: 13px;
}

li {
  display: flex;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
  padding: 2px 0;
}

li button {
  margin-left: auto;
  color: var(--slate);
  text-decoration: underline;
  white-space: nowrap;
}

.sum,
.price {
  font-size: 13px;
  margin: 6px 0;
}
</style>
