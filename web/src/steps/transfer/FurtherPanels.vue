<script setup lang="ts">
/** Panels behind a circuit of the main panel, or of one another: what feeds each, its bus, and its circuits. */
import { computed } from 'vue'

import type { FurtherCircuit, FurtherPanel } from '@/api/client'
import ChoiceField from '@/fields/ChoiceField.vue'
import LedgerCell from '@/fields/LedgerCell.vue'
import QuantityField from '@/fields/QuantityField.vue'
import WireSizeField from '@/fields/WireSizeField.vue'
import WordsField from '@/fields/WordsField.vue'
import { amount } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import type { Panel } from './usePanel'

const MOST_PANELS = 8
const MOST_CIRCUITS = 42
const POLES = [
  { value: 1, title: 'one' },
  { value: 2, title: 'two' },
]

const props = defineProps<{ panel: Panel }>()
const { circuits, further, loads, stacked } = props.panel

/** Every circuit that could feed a panel: not the ones behind the panel itself. */
function feeders(own: FurtherPanel | null) {
  const behind = own ? behindOf(own) : new Set<string>()
  const taken = new Set(further.value.filter((each) => each.id !== own?.id).map((each) => each.fed_by))
  const all = [
    ...circuits.value.map((each) => ({ id: each.id, name: each.name, of: '' })),
    ...further.value.flatMap((each) =>
      (each.circuits ?? []).map((circuit) => ({ id: circuit.id, name: circuit.name, of: `, ${each.name}` })),
    ),
  ]
  return all
    .filter((each) => !behind.has(each.id) && !taken.has(each.id))
    .map((each) => ({ value: each.id, title: each.name + each.of }))
}

function behindOf(own: FurtherPanel): Set<string> {
  const found = new Set((own.circuits ?? []).map((circuit) => circuit.id))
  for (const each of further.value)
    if (each.id !== own.id && found.has(each.fed_by)) for (const id of behindOf(each)) found.add(id)
  return found
}

const free = computed(() => feeders(null))
const onIt = (id: string) => loads.value.filter((load) => load.circuit === id).map((load) => load.name)
const isMetric = computed(() => props.panel.document.value?.practice === 'metric_230')

function change(own: FurtherPanel, id: string, part: Partial<FurtherCircuit>): void {
  const next = (own.circuits ?? []).map((each) => (each.id === id ? { ...each, ...part } : each))
  props.panel.changeFurther(own.id, { circuits: next })
}

function add(own: FurtherPanel): void {
  const there = own.circuits ?? []
  const id = props.panel.freeId('behind')
  const breaker_a = isMetric.value ? 16 : 15
  const fresh = { id, name: `Circuit ${there.length + 1}`, breaker_a, poles: 1, one_outlet: false }
  props.panel.changeFurther(own.id, { circuits: [...there, fresh] })
}
</script>

<template>
  <section v-if="circuits.length" class="further" aria-label="Panels further on" data-test="further">
    <h2>Panels further on</h2>
    <p v-if="!further.length" class="lesser">
      A panel behind one of these circuits, in a garage or on another floor: what is connected to it has the
      fate of the circuit that feeds it.
    </p>
    <article
      v-for="(own, number) in further"
      :key="own.id"
      :aria-label="own.name"
      :data-test="`further-${own.id}`"
    >
      <div class="fields">
        <WordsField label="Panel" :path="`transfer.further.${number}.name`" />
        <ChoiceField
          label="Fed by"
          :value="own.fed_by"
          :choices="feeders(own)"
          data-test="fed-by"
          @change="(fed_by: string) => panel.changeFurther(own.id, { fed_by })"
        />
        <QuantityField
          label="Its bus"
          unit="A"
          :path="`transfer.further.${number}.bus_a`"
          empty-means="not known"
        />
        <QuantityField
          label="Its own main"
          unit="A"
          :path="`transfer.further.${number}.main_a`"
          empty-means="none"
        />
      </div>
      <WideTable :label="`Circuits of ${own.name}`">
        <table class="ledger">
          <thead>
            <tr>
              <th scope="col">Circuit</th>
              <th scope="col" class="number">Breaker, A</th>
              <th v-if="stacked" scope="col">Poles</th>
              <th scope="col">Wire</th>
              <th scope="col">Connected to it</th>
              <th scope="col"><span class="visually-hidden">Take out</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="circuit in own.circuits ?? []" :key="circuit.id">
              <td>
                <LedgerCell
                  words
                  :text="circuit.name"
                  column="further-name"
                  label="Circuit"
                  @commit="(name) => change(own, circuit.id, { name })"
                />
              </td>
              <td class="number">
                <LedgerCell
                  :text="amount(circuit.breaker_a)"
                  :value="circuit.breaker_a"
                  column="further-breaker"
                  :label="`Breaker of ${circuit.name}`"
                  @number="(a) => a !== null && change(own, circuit.id, { breaker_a: a })"
                />
              </td>
              <td v-if="stacked">
                <select
                  class="choice"
                  :aria-label="`Poles of ${circuit.name}`"
                  :value="circuit.poles ?? 1"
                  @change="
                    change(own, circuit.id, { poles: Number(($event.target as HTMLSelectElement).value) })
                  "
                >
                  <option v-for="choice in POLES" :key="choice.value" :value="choice.value">
                    {{ choice.title }}
                  </option>
                </select>
              </td>
              <td class="wire">
                <WireSizeField
                  label="Wire"
                  quiet
                  :value="circuit.wire ?? null"
                  placeholder="not known"
                  @change="change(own, circuit.id, { wire: $event })"
                />
              </td>
              <td class="lesser">{{ onIt(circuit.id).join(', ') || '–' }}</td>
              <td>
                <button
                  type="button"
                  class="tool"
                  :aria-label="`Take ${circuit.name} out`"
                  @click="panel.removeBehind(own.id, circuit.id)"
                >
                  Take out
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p class="line">
        <button
          v-if="(own.circuits ?? []).length < MOST_CIRCUITS"
          type="button"
          class="tool"
          data-test="add-behind"
          @click="add(own)"
        >
          Add a circuit
        </button>
        <button type="button" class="tool" @click="panel.removeFurther(own.id)">
          Take {{ own.name }} out
        </button>
      </p>
    </article>
    <button
      v-if="free.length && further.length < MOST_PANELS"
      type="button"
      class="tool"
      data-test="add-further"
      @click="panel.addFurther(free[0]?.value ?? '')"
    >
      Add a panel behind a circuit
    </button>
  </section>
</template>

<style scoped>
.further {
  margin-top: 18px;
}

.fields {
  display: grid;
  grid-template-columns: 2fr 2fr 1fr 1fr;
  gap: 8px 10px;
  margin: 8px 0;
}

.choice {
  font: inherit;
  background: var(--sheet);
  border: 1px solid var(--slate);
  padding: 3px 4px;
}

.wire {
  width: 130px;
}

.tool {
  white-space: nowrap;
  color: var(--pine);
  font-weight: 600;
}

.line {
  display: flex;
  gap: 18px;
  margin: 6px 0 14px;
}

@media (max-width: 800px) {
  .fields {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
