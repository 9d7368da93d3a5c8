<script setup lang="ts">
/** Entry first, then the plot of any quantity with what was done marked, then the list. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import { api, outcome, type KeptEntry, type PlotSeries } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { count, savedAt } from '@/shared/format'
import PageBar from '@/shared/PageBar.vue'
import WideTable from '@/shared/WideTable.vue'

import { useBuild } from '../build/build'
import EntryPad from './EntryPad.vue'
import { useLogbook } from './logbook'
import LogPlot from './LogPlot.vue'
import { useOutbox } from './outbox'
import { entryText, isEntry, unitOf } from './words'

const PER_PAGE = 25
/** How far back a plot goes; 0 takes all. */
const SPANS = [
  { value: 7, title: '7 days' },
  { value: 30, title: '30 days' },
  { value: 365, title: 'a year' },
  { value: 0, title: 'all' },
] as const
const DAY_MS = 86_400_000

const { document } = storeToRefs(useDesign())
const build = useBuild()
const outbox = useOutbox()
const { current } = storeToRefs(build)
const { entries, series, byQuantity } = storeToRefs(useLogbook())
const { waiting } = storeToRefs(outbox)
const shown = ref('')
const days = ref<number>(30)
const page = ref(1)

const choices = computed(() =>
  series.value.map((each) => ({
    value: `${each.quantity}|${each.part}`,
    title: `${byQuantity.value.get(each.quantity)?.label ?? each.quantity}${each.part ? `, ${each.part}` : ''}`,
  })),
)
watch(
  choices,
  (found) => {
    if (!found.some(({ value }) => value === shown.value))
      shown.value = (found.find(({ value }) => value === 'bank_v|') ?? found[0])?.value ?? ''
  },
  { immediate: true },
)
const asked = computed(
  () => series.value.find((each) => `${each.quantity}|${each.part}` === shown.value) ?? null,
)
const { value: plot } = useAnswer<PlotSeries>({
  ask: () =>
    current.value && asked.value
      ? outcome(
          api.GET('/api/installations/{installation_id}/plot', {
            params: {
              path: { installation_id: current.value.id },
              query: {
                quantity: asked.value.quantity as PlotSeries['quantity'],
                part: asked.value.part,
                ...(days.value
                  ? { since: new Date(Date.parse(asked.value.last_at) - days.value * DAY_MS).toISOString() }
                  : {}),
              },
            },
          }),
        )
      : null,
  on: [asked, days],
})
const unit = computed(() => {
  const kept = byQuantity.value.get(asked.value?.quantity ?? '')?.unit ?? ''
  return document.value ? unitOf(kept, document.value) : null
})
const inUnit = (values: readonly number[]) => values.map((value) => unit.value?.show(value) ?? value)
const text = (entry: Pick<KeptEntry, 'body' | 'kind'> & { trouble?: string }) =>
  entry.trouble
    ? `Cannot be used: ${entry.trouble}`
    : document.value
      ? entryText(entry.body, entry.kind, byQuantity.value, document.value)
      : ''
/** What was done, on the plot; readings are the plot itself. */
const marks = computed(() =>
  entries.value
    .filter((entry) => entry.kind !== 'reading' && !entry.is_struck && !entry.trouble && isEntry(entry))
    .map((entry) => ({ at: Date.parse(entry.at), text: text(entry) })),
)
const listed = computed(() => [...entries.value].filter(isEntry).reverse())
const pages = computed(() => Math.max(1, Math.ceil(listed.value.length / PER_PAGE)))
const rows = computed(() => listed.value.slice((page.value - 1) * PER_PAGE, page.value * PER_PAGE))
const here = computed(() => waiting.value.filter((entry) => entry.installation_id === current.value?.id))

function strike(entry: KeptEntry): void {
  if (!current.value) return
  outbox.put({
    installation_id: current.value.id,
    who: build.who,
    body: { kind: 'event', what: 'note', note: 'struck out' },
    strikes: entry.id,
  })
}
</script>

<template>
  <div v-if="document">
    <EntryPad />
    <section v-if="here.length" class="waiting" aria-label="Waiting to be sent" data-test="waiting">
      <h2>{{ count(here.length) }} on this device, not in the log yet</h2>
      <ul>
        <li v-for="entry in here.slice(-6)" :key="entry.id">
          {{ savedAt(entry.told_at) }}: {{ text({ body: entry.body, kind: String(entry.body['kind']) }) }}
          <template v-if="entry.refused">
            <b class="bad">{{ entry.refused }}</b>
            <button type="button" class="link" @click="outbox.drop([entry.id])">Throw it away</button>
          </template>
        </li>
      </ul>
    </section>
    <section v-if="choices.length" aria-label="Plot">
      <div class="choice">
        <ChoiceField
          label="Plot"
          :value="shown"
          :choices="choices"
          data-test="plot-of"
          @change="shown = $event"
        />
        <ChoiceField
          label="How far back"
          :value="days"
          :choices="SPANS"
          data-test="plot-days"
          @change="days = $event"
        />
      </div>
      <LogPlot
        v-if="plot?.at.length"
        :label="choices.find(({ value }) => value === shown)?.title ?? ''"
        :unit="unit?.label ?? ''"
        :at="plot.at.map((moment) => Date.parse(moment))"
        :low="inUnit(plot.low)"
        :mean="inUnit(plot.mean)"
        :high="inUnit(plot.high)"
        :marks="marks"
      />
    </section>
    <section aria-label="Entries">
      <WideTable v-if="rows.length" label="Entries">
        <table class="ledger" data-test="entries">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">What</th>
              <th scope="col">Who</th>
              <th scope="col"><span class="visually-hidden">Strike out</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="entry in rows" :key="entry.id" :class="{ struck: entry.is_struck }">
              <td class="figures when">{{ savedAt(entry.at) }}</td>
              <td :class="{ bad: entry.trouble }">{{ text(entry) }}</td>
              <td>{{ entry.who }}</td>
              <td>
                <button
                  v-if="!entry.is_struck && (entry.kind !== 'gate' || entry.trouble)"
                  type="button"
                  class="link"
                  :aria-label="`Strike out ${text(entry)}`"
                  @click="strike(entry)"
                >
                  Strike out
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <PageBar v-model="page" :total="listed.length" :per-page="PER_PAGE" :pages="pages" what="entries" />
      <p v-if="current && !rows.length" class="lesser">Nothing is written down yet.</p>
    </section>
    <p v-if="current" class="files">
      <a :href="`/api/installations/${current.id}/log.zip`" download="logbook.zip" data-test="export-log"
        >Save everything as ZIP</a
      >
    </p>
  </div>
</template>

<style scoped>
.waiting {
  border-left: 3px solid var(--sun);
  padding-left: 10px;
  margin-bottom: 12px;
}

.waiting ul {
  margin: 0;
  padding-left: 18px;
}

.choice {
  display: grid;
  grid-template-columns: minmax(0, 320px) minmax(0, 140px);
  gap: 12px;
}

.when {
  white-space: nowrap;
  width: 130px;
}

.struck td {
  text-decoration: line-through;
  color: var(--slate);
}

.link,
.files a {
  color: var(--pine);
  font-weight: 600;
}

.bad {
  color: var(--wine);
}
</style>
