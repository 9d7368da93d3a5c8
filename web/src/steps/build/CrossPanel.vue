<script setup lang="ts">
/** The same quantity on several instruments, and the watts between monitor and inverter. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { api, outcome, type CrossReading, type KeptEntry } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import SeverityMark from '@/checks/SeverityMark.vue'
import type { Severity } from '@/checks/severity'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import { LONGEST_NAME } from '@/fields/limits'
import QuantityField from '@/fields/QuantityField.vue'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { counted } from '@/shared/format'
import { withEntry } from '@/shared/records'
import WideTable from '@/shared/WideTable.vue'

import { useBuild } from './build'
import WattsPanel from './WattsPanel.vue'

type Quantity = CrossReading['shown']
type Verdict = CrossReading['instruments'][number]['verdict']

const MOST_INSTRUMENTS = 24
const QUANTITIES = [
  { value: 'volts', title: 'volts of the bank' },
  { value: 'amps', title: 'amps, out of the bank as minus' },
  { value: 'charge', title: 'charge of the bank' },
] as const
const UNITS: Record<Quantity, string> = { volts: 'V', amps: 'A', charge: '%' }
const VERDICTS: Record<Verdict, { words: string; mark: Severity }> = {
  agrees: { words: 'agrees', mark: 'good' },
  off: { words: 'is off', mark: 'mend' },
  drifts: { words: 'drifts', mark: 'mind' },
  undecided: { words: 'undecided', mark: 'mind' },
}

const { document } = storeToRefs(useDesign())
const build = useBuild()
const { current, kept } = storeToRefs(build)
const newId = useId()
const shown = ref<Quantity>('volts')
const values = ref<Record<string, number>>({})
const added = ref<string[]>([])
const newName = ref('')
const refused = ref('')
const past = ref<KeptEntry[]>([])
watch([current, kept], async () => (past.value = await build.entries(['cross'])), { immediate: true })
watch(shown, () => (values.value = {}))

/** Instruments that this design has, those of the rounds kept, and those added by hand. */
const instruments = computed(() => {
  const design = document.value
  if (!design) return []
  const own = [
    'Hand meter',
    ...(design.wiring?.has_shunt === false ? [] : ['Battery monitor']),
    ...(design.inverter.rated_w > 0 ? ['Inverter'] : []),
    ...(design.charging?.controllers ?? []).map((each) => each.name),
  ]
  const told = rounds.value.flatMap((each) => Object.keys(each.values))
  return [...new Set([...own, ...told, ...added.value])].slice(0, MOST_INSTRUMENTS)
})
const rounds = computed(() =>
  past.value
    .map((entry) => ({
      at: entry.at,
      body: entry.body as { shown?: Quantity; values?: Record<string, number> },
    }))
    .filter(({ body }) => body.shown === shown.value && body.values)
    .map(({ at, body }) => ({ at, values: body.values ?? {} })),
)
const asked = computed(() =>
  Object.keys(values.value).length > 1
    ? [...rounds.value, { at: new Date().toISOString(), values: values.value }]
    : rounds.value,
)
const { value: answer, trouble } = useAnswer<{ found: CrossReading | null }>({
  ask: () =>
    document.value && asked.value.length
      ? outcome(
          api.POST('/api/building/cross', {
            body: {
              shown: shown.value,
              nominal_v: document.value.bank.unit_v * document.value.bank.series,
              rounds: asked.value,
            },
          }),
        )
      : null,
  on: [asked, () => document.value?.bank],
})
const found = computed(() => answer.value?.found ?? null)
const byName = computed(() => new Map(found.value?.instruments.map((each) => [each.instrument, each])))

function put(instrument: string, value: number | null): void {
  values.value = withEntry(values.value, instrument, value)
}

function add(): void {
  const name = newName.value.trim()
  if (name) added.value = [...added.value, name]
  newName.value = ''
}

async function keep(): Promise<void> {
  refused.value = await build.keep({ kind: 'cross', shown: shown.value, values: values.value })
  if (!refused.value) values.value = {}
}

const signed = (value: number, digits = 2) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(digits)}`
</script>

<template>
  <div v-if="document">
    <p class="lesser">
      Read the same quantity on each instrument within a minute. Rounds that are kept show which one drifts.
    </p>
    <div class="choice">
      <ChoiceField
        label="Quantity"
        :value="shown"
        :choices="QUANTITIES"
        data-test="cross-quantity"
        @change="shown = $event"
      />
      <FieldFrame label="Another instrument" :for="newId">
        <v-text-field
          :id="newId"
          v-model="newName"
          class="words"
          :maxlength="LONGEST_NAME"
          data-test="new-instrument"
          @keydown.enter="add"
        />
      </FieldFrame>
      <v-btn size="small" :disabled="!newName.trim()" data-test="add-instrument" @click="add">Add</v-btn>
    </div>
    <p v-if="found" class="said" role="status" data-test="cross-said">{{ found.sentence }}</p>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <WideTable label="Instruments">
      <table class="ledger">
        <thead>
          <tr>
            <th scope="col">Instrument</th>
            <th scope="col">Reading</th>
            <th scope="col" class="number">Latest</th>
            <th scope="col" class="number">From the others</th>
            <th scope="col" class="number">Over the rounds</th>
            <th scope="col" class="number">Moves a month</th>
            <th scope="col">Verdict</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="name in instruments" :key="name" :data-test="`instrument-${name}`">
            <th scope="row">{{ name }}</th>
            <td class="read">
              <QuantityField
                :label="`${name}, reading`"
                quiet
                may-be-empty
                :value="values[name] ?? null"
                :unit="UNITS[shown]"
                @change="put(name, $event)"
              />
            </td>
            <template v-if="byName.get(name)">
              <td class="number">{{ byName.get(name)?.value.toFixed(2) }} {{ UNITS[shown] }}</td>
              <td class="number">{{ signed(byName.get(name)?.apart_now ?? 0) }}</td>
              <td class="number">
                {{ signed(byName.get(name)?.offset ?? 0) }} ±
                {{ (byName.get(name)?.scatter ?? 0).toFixed(2) }}
              </td>
              <td class="number">
                {{
                  byName.get(name)?.drift_per_month == null
                    ? '–'
                    : signed(byName.get(name)?.drift_per_month ?? 0)
                }}
              </td>
              <td>
                <SeverityMark :severity="VERDICTS[byName.get(name)!.verdict].mark" />
                {{ VERDICTS[byName.get(name)!.verdict].words }}
              </td>
            </template>
            <td v-else colspan="5" class="lesser">not read in the newest round</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p v-if="found" class="lesser">
      {{ found.apart.toFixed(2) }} {{ found.unit }} apart;
      <ExplainedFigure :figure="found.figure"
        >{{ found.band.toFixed(2) }} {{ found.unit }} allowed</ExplainedFigure
      >; {{ counted(rounds.length, 'round') }} kept.
    </p>
    <v-btn
      color="pine"
      :disabled="Object.keys(values).length < 2 || !current"
      data-test="keep-round"
      @click="keep"
      >Keep this round</v-btn
    >
    <span v-if="!current" class="lesser"> Begin the record of an installation to keep it.</span>
    <p v-if="refused" class="bad" role="alert">{{ refused }}</p>
    <WattsPanel />
  </div>
</template>

<style scoped>
.choice {
  display: grid;
  grid-template-columns: minmax(0, 260px) minmax(0, 220px) auto;
  gap: 12px;
  align-items: end;
  margin-bottom: 8px;
}

tbody th {
  white-space: normal;
  min-width: 110px;
}

.said {
  font-weight: 600;
  border-left: 3px solid var(--ember);
  padding-left: 10px;
}

.read {
  width: 150px;
  padding: 3px 6px;
}

.bad {
  color: var(--wine);
}

@media (max-width: 640px) {
  .choice {
    grid-template-columns: minmax(0, 1fr) auto;
  }
}
</style>
