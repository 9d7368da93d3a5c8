<script setup lang="ts">
/** Outages of the past, from a sheet or from what the utility publishes, without this design and with it. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, useTemplateRef } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type Indices,
  type OutagePreview,
  type SheetSource,
} from '@/api/client'
import { useDesign } from '@/design/store'
import QuantityField from '@/fields/QuantityField.vue'
import { calendarDay, count, hours } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import { sourceOf } from '@/sheets/files'

import AskedAnew from './AskedAnew.vue'
import { useReliability } from './trials'

/** Outages shown; the others are counted. */
const MOST_SHOWN = 12
const id = useId()
const store = useDesign()
const { document, assessment } = storeToRefs(store)
const answer = useReliability()
const { value: found } = storeToRefs(answer)
const picker = useTemplateRef('picker')
const text = ref('')
const preview = ref<OutagePreview | null>(null)
const trouble = ref('')
const record = computed(() => document.value?.record)
const hasUtility = computed(() => record.value?.utility != null)

async function read(source: SheetSource): Promise<void> {
  const got = await outcome(api.POST('/api/outage-record/preview', { body: source }))
  preview.value = got.kind === 'answer' ? got.value : null
  trouble.value = got.kind === 'answer' ? '' : got.kind === 'refused' ? refusal(got.problem) : SILENT
}

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const got = await sourceOf(file)
  if ('trouble' in got) trouble.value = got.trouble
  else await read(got.source)
}

function take(): void {
  if (!preview.value) return
  store.setAll([
    { path: 'record.outages', value: preview.value.outages },
    { path: 'record.years', value: preview.value.years },
  ])
  preview.value = null
  text.value = ''
}

const setUtility = (isOn: boolean) =>
  store.set('record.utility', isOn ? (assessment.value?.usual.utility ?? null) : null)

const TABLE: readonly { title: string; meaning: string; text: (found: Indices) => string }[] = [
  {
    title: 'SAIFI, a year',
    meaning: 'interruptions longer than five minutes',
    text: ({ saifi_per_year }) =>
      saifi_per_year > 0 && saifi_per_year < 0.01 ? 'under 0.01' : saifi_per_year.toFixed(2),
  },
  {
    title: 'SAIDI, a year',
    meaning: 'all of them together',
    text: (found) => hours(found.saidi_min_per_year / 60),
  },
  { title: 'CAIDI', meaning: 'each on the mean', text: (found) => hours(found.caidi_min / 60) },
  {
    title: 'ASAI',
    meaning: 'part of the year with supply',
    text: (found) => `${(100 * found.asai_frac).toFixed(3)} %`,
  },
]
const columns = computed(() =>
  [
    { title: 'Record, without', found: found.value?.without },
    { title: 'with this design', found: found.value?.with_design },
    { title: 'Utility, without', found: found.value?.utility_without },
    { title: 'with this design', found: found.value?.utility_with_design },
  ].flatMap(({ title, found }) => (found ? [{ title, found }] : [])),
)
const moment = (start: string) => `${calendarDay(start, 0)} ${start.slice(0, 4)} ${start.slice(11, 16)}`
</script>

<template>
  <div v-if="record" class="record">
    <div class="sources">
      <section>
        <h2>Outages the home has had</h2>
        <label :for="id" class="lesser"
          >One a row: start, and end or hours. Copied from a sheet, or CSV.</label
        >
        <textarea
          :id="id"
          v-model="text"
          rows="4"
          placeholder="2025-12-14 18:30, 26.5"
          data-test="record-text"
        />
        <p class="acts">
          <button type="button" :disabled="!text.trim()" data-test="record-read" @click="read({ text })">
            Read them
          </button>
          <button type="button" @click="picker?.click()">Open a sheet</button>
          <input
            ref="picker"
            class="visually-hidden"
            type="file"
            accept=".csv,.tsv,.txt,.xlsx"
            tabindex="-1"
            aria-label="A sheet of past outages"
            @change="open"
          />
          <button v-if="record.outages?.length" type="button" @click="store.set('record.outages', [])">
            Empty the record
          </button>
        </p>
        <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
        <div v-if="preview" data-test="record-preview">
          <p>
            {{ preview.outages.length }} {{ preview.outages.length === 1 ? 'outage' : 'outages' }} in
            {{ preview.years }} years.
            <button
              v-if="preview.outages.length"
              type="button"
              class="take"
              data-test="record-take"
              @click="take"
            >
              Take {{ preview.outages.length === 1 ? 'it' : 'them'
              }}{{ record.outages?.length ? ', in place of those there' : '' }}
            </button>
          </p>
          <ul v-if="preview.problems.length" class="bad">
            <li v-for="problem in preview.problems.slice(0, 8)" :key="`${problem.row}${problem.column}`">
              Row {{ problem.row }}, {{ problem.column }}: “{{ problem.read }}” has to be
              {{ problem.expected }}.
            </li>
            <li v-if="preview.problems.length > 8">and {{ preview.problems.length - 8 }} more</li>
          </ul>
        </div>
        <div v-if="record.outages?.length" class="fields">
          <QuantityField path="record.years" label="Years it covers" unit="" />
        </div>
      </section>
      <section>
        <h2>What the utility publishes</h2>
        <label class="check"
          ><input
            type="checkbox"
            :checked="hasUtility"
            data-test="has-utility"
            @change="setUtility(($event.target as HTMLInputElement).checked)"
          />
          Its indices by IEEE Std 1366 are known</label
        >
        <div v-if="hasUtility" class="fields">
          <QuantityField path="record.utility.saifi_per_year" label="SAIFI, a year" unit="" />
          <QuantityField path="record.utility.saidi_min_per_year" label="SAIDI, a year" unit="min" />
        </div>
        <p v-if="hasUtility" class="lesser">
          CAIDI is SAIDI ÷ SAIFI. Many utilities leave out their major event days, which are the storms that
          matter here.
        </p>
        <p v-if="found?.utility_followed_h" class="lesser" data-test="followed">
          With this design the house is followed for {{ count(found.utility_followed_h) }} h from each start
          of the year; what would last longer counts as dark from there.
        </p>
      </section>
    </div>
    <template v-if="columns.length || record.outages?.length || hasUtility">
      <AskedAnew :answer="answer" :has="found !== null" doing="Living through them" />
      <WideTable v-if="columns.length" label="Reliability without this design and with it">
        <table class="ledger" data-test="indices">
          <thead>
            <tr>
              <th scope="col">Of this home</th>
              <th v-for="(column, at) in columns" :key="at" scope="col" class="number">{{ column.title }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in TABLE" :key="row.title">
              <td>
                {{ row.title }} <span class="lesser">{{ row.meaning }}</span>
              </td>
              <td v-for="(column, at) in columns" :key="at" class="number">{{ row.text(column.found) }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p v-if="columns.length" class="lesser">
        With this design the home counts as interrupted while Life or Keep goes unserved; each past outage is
        lived on its date under the weather year, from its full hour and in whole hours. The utility’s are
        spread exponentially about their mean (our assumption) and over all hours of the year.
      </p>
      <WideTable v-if="found?.outages.length" label="Past outages, the darkest first">
        <table class="ledger" data-test="past-outages">
          <thead>
            <tr>
              <th scope="col">Past outage, the darkest first</th>
              <th scope="col" class="number">Lasted</th>
              <th scope="col" class="number">Carried</th>
              <th scope="col" class="number">Dark</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="outage in found.outages.slice(0, MOST_SHOWN)" :key="outage.start">
              <td>{{ moment(outage.start) }}</td>
              <td class="number">{{ hours(outage.length_h) }}</td>
              <td class="number">{{ hours(outage.carried_h) }}</td>
              <td class="number">{{ outage.dark_h ? hours(outage.dark_h) : '–' }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p v-if="found && found.outages.length > MOST_SHOWN" class="lesser">
        and {{ count(found.outages.length - MOST_SHOWN) }} more
      </p>
    </template>
  </div>
</template>

<style scoped>
.sources {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 24px;
  margin-bottom: 10px;
}

textarea {
  display: block;
  width: 100%;
  margin: 4px 0;
  padding: 6px 8px;
  font-family: var(--hk-figures);
  font-size: 13px;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--slate);
  resize: vertical;
}

.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: 0 0 6px;
}

.acts button,
.take {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.acts button:disabled {
  color: var(--slate);
}

.bad {
  color: var(--wine);
}

ul {
  margin: 4px 0;
  padding-left: 18px;
}

.fields {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 150px));
  gap: 12px;
  margin: 6px 0;
}

.check input {
  accent-color: var(--pine);
}

p {
  margin: 4px 0 8px;
}

@media (max-width: 640px) {
  .sources {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
