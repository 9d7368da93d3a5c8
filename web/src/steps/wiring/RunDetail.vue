<script setup lang="ts">
/** The picked run: where its figures come from, and what is really there. */
import { computed } from 'vue'

import type { RunRow, RunSet } from '@/api/client'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import ChoiceField from '@/fields/ChoiceField.vue'
import OptionalWords from '@/fields/OptionalWords.vue'
import WireSizeField from '@/fields/WireSizeField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { cableLength, temperature } from '@/fields/units'
import { amount, count, worked } from '@/shared/format'

import type { Wiring } from './useWiring'
import {
  CONDUIT_KINDS,
  CONDUITS,
  DEGREES,
  DEVICES,
  DISCONNECTS,
  FACTS,
  FED_FROM,
  LENGTHS,
  LOCKS,
  LISTED,
  METHODS,
  OPENED_BY,
  WAYS_OF_LYING,
  type FactKey,
} from './words'

const props = defineProps<{ run: RunRow; wiring: Wiring }>()
const emit = defineEmits<{ close: [] }>()
const design = computed(() => props.wiring.document.value)
const isMetric = computed(() => design.value?.practice === 'metric_230')
const entry = computed<Partial<RunSet>>(() => props.wiring.entryOf(props.run.key) ?? {})
const faults = computed(() => props.wiring.faults.value.filter((fault) => fault.run === props.run.key))
const isGround = computed(() => props.run.kind === 'ground')
const mayMove = computed(() => ['inverter', 'branch'].includes(props.run.kind))
const degrees = computed(() =>
  DEGREES.filter(
    (choice) => choice.value === null || (isMetric.value ? [70, 90] : [60, 75, 90]).includes(choice.value),
  ),
)
const set = (fields: Partial<RunSet>) => props.wiring.change(props.run.key, fields)
const fault = (field: string) => faults.value.some((entry) => entry.field === field)

const load = computed(() => props.run.key.replace(/^branch-/, ''))
const isBranch = computed(() => props.run.kind === 'branch')
const fedBy = computed(() => {
  const block = isBranch.value ? props.wiring.blockOf(load.value) : ''
  return block ? `block:${block}` : (entry.value.fed_from ?? 'bus')
})
const feeders = computed(() => [
  ...FED_FROM,
  ...(isBranch.value
    ? props.wiring.blocks.value.map((block) => ({ value: `block:${block.id}`, title: block.name }))
    : []),
])

/** Feed the run from the bus, from load terminals, or from a way of a distribution block. */
function feed(from: string): void {
  const block = from.startsWith('block:') ? from.slice(6) : ''
  if (block || props.wiring.blockOf(load.value)) props.wiring.putOn(load.value, block)
  const fed_from = from === 'load_terminals' ? from : 'bus'
  if (fed_from !== (entry.value.fed_from ?? 'bus')) set({ fed_from })
}

function toggle(fact: FactKey): void {
  const unknown = entry.value.unknown ?? []
  set({ unknown: unknown.includes(fact) ? unknown.filter((each) => each !== fact) : [...unknown, fact] })
}
</script>

<template>
  <section v-if="design" class="detail" :aria-label="run.label" data-test="run-detail">
    <header>
      <h2>{{ run.label }}</h2>
      <button
        v-if="run.is_set"
        type="button"
        class="tool"
        data-test="forget-run"
        @click="wiring.forget(run.key)"
      >
        As worked out
      </button>
      <button type="button" class="tool" @click="emit('close')">Close</button>
    </header>
    <dl class="facts">
      <div v-for="figure in run.figures" :key="figure.label">
        <dt>{{ figure.label }}</dt>
        <dd>
          <ExplainedFigure :figure="figure">{{ worked(figure.value) }} {{ figure.unit }}</ExplainedFigure>
        </dd>
      </div>
      <div v-if="!isGround">
        <dt>By heat, by drop</dt>
        <dd class="words">{{ run.by_heat }}, {{ run.by_drop }}</dd>
      </div>
      <div v-if="run.fill_frac != null">
        <dt>Conduit filled</dt>
        <dd>
          {{ Math.round(100 * run.fill_frac) }} % of {{ Math.round(100 * (run.fill_limit_frac ?? 0)) }} %
        </dd>
      </div>
    </dl>
    <p class="lesser">
      Carries {{ run.basis }}. Length {{ LENGTHS[run.length_from] }}. Up to
      {{ amount(Math.round(run.most_v * 10) / 10) }} V stand on it. Colours: {{ run.colours }}.
      <template v-if="run.asks_disconnects !== 'none'">
        Opened by hand {{ run.asks_disconnects
        }}{{ run.asks_disconnects === 'at both ends' ? ', with locks' : '' }}.
      </template>
      <template v-if="run.ground_size"> Its ground: {{ run.ground_size }}.</template>
    </p>
    <p v-if="run.guarded_by || run.unguarded_from.length" class="lesser" data-test="guarded">
      <template v-if="run.guarded_by">Guarded: {{ run.guarded_by }}.</template>
      <b v-if="run.unguarded_from.length" class="bad">
        Nothing guards it from {{ run.unguarded_from.join(', nor from ') }}.</b
      >
    </p>
    <p v-for="wrong in faults" :key="wrong.field" class="bad" role="alert">
      {{ wrong.field.replace(/_/g, ' ') }}: {{ wrong.text }}
    </p>
    <h3>What is really there</h3>
    <div class="fields">
      <QuantityField
        label="Length, one way"
        :value="entry.length_m ?? null"
        :unit="cableLength(design)"
        :empty-means="amount(Math.round(cableLength(design).show(run.length_m) * 10) / 10)"
        :fault="fault('length_m')"
        @change="set({ length_m: $event })"
      />
      <WireSizeField
        label="Conductor"
        :value="entry.size ?? null"
        :placeholder="run.size ?? 'not known'"
        @change="set({ size: $event })"
      />
      <QuantityField
        v-if="!isGround"
        label="Known only as good for"
        unit="A"
        :value="entry.good_for_a ?? null"
        empty-means="by its size"
        :fault="fault('good_for_a')"
        @change="set({ good_for_a: $event })"
      />
      <QuantityField
        label="In each pole"
        whole
        :value="entry.per_pole ?? null"
        :empty-means="String(run.per_pole)"
        :fault="fault('per_pole')"
        @change="set({ per_pole: $event })"
      />
      <template v-if="!isGround">
        <ChoiceField
          label="Insulation"
          :value="entry.insulation_c ?? null"
          :choices="degrees"
          @change="set({ insulation_c: $event })"
        />
        <ChoiceField
          v-if="!isMetric"
          label="Terminals"
          :value="entry.terminal_c ?? null"
          :choices="degrees"
          @change="set({ terminal_c: $event })"
        />
        <ChoiceField
          label="How it lies"
          :value="entry.method ?? null"
          :choices="isMetric ? METHODS : WAYS_OF_LYING"
          @change="set({ method: $event })"
        />
        <QuantityField
          label="Around it"
          :value="entry.ambient_c ?? null"
          :unit="temperature(design)"
          :empty-means="amount(temperature(design).show(run.ambient_c))"
          :fault="fault('ambient_c')"
          @change="set({ ambient_c: $event })"
        />
        <QuantityField
          :label="isMetric ? 'Circuits together' : 'Wires together'"
          whole
          :value="entry.bundled ?? null"
          :empty-means="isMetric ? '1' : 'up to 3'"
          :fault="fault('bundled')"
          @change="set({ bundled: $event })"
        />
        <ChoiceField
          v-if="!isMetric"
          label="Conduit"
          :value="entry.conduit ?? null"
          :choices="CONDUITS"
          @change="set({ conduit: $event })"
        />
        <ChoiceField
          v-if="!isMetric && entry.conduit"
          label="of"
          :value="entry.conduit_kind ?? 'emt'"
          :choices="CONDUIT_KINDS"
          @change="set({ conduit_kind: $event })"
        />
        <ChoiceField
          label="Device"
          :value="entry.device ?? null"
          :choices="DEVICES"
          data-test="device-kind"
          @change="set({ device: $event })"
        />
        <QuantityField
          label="Its rating"
          unit="A"
          :value="entry.device_a ?? null"
          :empty-means="run.device_a == null ? '–' : count(run.device_a)"
          :fault="fault('device_a')"
          @change="set({ device_a: $event })"
        />
        <QuantityField
          label="It breaks"
          unit="A"
          :value="entry.interrupt_a ?? null"
          :empty-means="run.interrupt_a == null ? '–' : count(run.interrupt_a)"
          :fault="fault('interrupt_a')"
          @change="set({ interrupt_a: $event })"
        />
        <ChoiceField
          label="Listed for"
          :value="entry.full_rated ?? false"
          :choices="LISTED"
          @change="set({ full_rated: $event })"
        />
        <QuantityField
          label="It sits after"
          :value="entry.device_at_m ?? null"
          :unit="cableLength(design)"
          :empty-means="amount(cableLength(design).show(run.device_at_m))"
          :fault="fault('device_at_m')"
          @change="set({ device_at_m: $event })"
        />
        <ChoiceField
          label="Opened by hand"
          :value="entry.disconnects ?? null"
          :choices="DISCONNECTS"
          @change="set({ disconnects: $event })"
        />
        <ChoiceField
          label="By a"
          :value="entry.opened_by ?? 'switch'"
          :choices="OPENED_BY"
          data-test="opened-by"
          @change="set({ opened_by: $event })"
        />
        <QuantityField
          label="Its contacts are for"
          unit="A"
          :value="entry.contact_a ?? null"
          empty-means="not said"
          :fault="fault('contact_a')"
          @change="set({ contact_a: $event })"
        />
        <ChoiceField
          v-if="entry.opened_by !== 'plug'"
          label="Locks"
          :value="entry.lock_off ?? null"
          :choices="LOCKS"
          @change="set({ lock_off: $event })"
        />
        <ChoiceField
          v-if="mayMove"
          label="Fed from"
          :value="fedBy"
          :choices="feeders"
          data-test="fed-from"
          @change="feed($event)"
        />
      </template>
      <QuantityField
        label="Lug hole"
        unit="mm"
        :value="entry.lug_mm ?? null"
        :empty-means="amount(run.lug_mm)"
        :fault="fault('lug_mm')"
        @change="set({ lug_mm: $event })"
      />
      <QuantityField
        label="Stud"
        unit="mm"
        :value="entry.stud_mm ?? null"
        :empty-means="amount(run.stud_mm)"
        :fault="fault('stud_mm')"
        @change="set({ stud_mm: $event })"
      />
      <QuantityField
        label="Torque"
        unit="N·m"
        :value="entry.torque_nm ?? null"
        empty-means="see label"
        :fault="fault('torque_nm')"
        @change="set({ torque_nm: $event })"
      />
      <OptionalWords
        label="Colours"
        :value="entry.colours ?? null"
        :placeholder="run.colours"
        :most="60"
        @change="set({ colours: $event })"
      />
    </div>
    <fieldset v-if="!isGround" class="unknown">
      <legend>Not known, looked for:</legend>
      <label v-for="fact in FACTS" :key="fact.value">
        <input
          type="checkbox"
          :checked="(entry.unknown ?? []).includes(fact.value)"
          @change="toggle(fact.value)"
        />
        {{ fact.title }}
      </label>
    </fieldset>
  </section>
</template>

<style scoped>
.detail {
  border-left: 3px solid var(--ember);
  padding: 8px 0 4px 12px;
}

header {
  display: flex;
  gap: 16px;
  align-items: baseline;
}

header h2 {
  flex: 1;
  overflow-wrap: anywhere;
}

h3 {
  font-size: 14px;
  margin: 10px 0 6px;
}

.tool {
  color: var(--pine);
  font-weight: 600;
  white-space: nowrap;
}

.facts {
  grid-template-columns: repeat(5, minmax(0, 1fr));
  margin: 8px 0;
}

.facts .words {
  font-family: var(--hk-text);
}

.fields {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 8px 10px;
}

.unknown {
  border: 0;
  padding: 0;
  margin: 10px 0 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  font-size: 13.5px;
}

.unknown legend {
  float: left;
  margin-right: 14px;
  color: var(--slate);
}

p {
  font-size: 13px;
}

.bad {
  color: var(--wine);
}

@media (max-width: 1150px) {
  .facts,
  .fields {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}
</style>
