<script setup lang="ts">
/** A log from elsewhere, or rows copied from a sheet: each column given a quantity, remembered for the next with the same columns. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId } from 'vue'

import type { LogAdded, LogPreview, Problem } from '@/api/client'
import { refusal, SILENT } from '@/api/client'
import { LONGEST_NAME } from '@/fields/limits'
import { count, counted } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { useBuild } from '../build/build'
import { useLogbook } from './logbook'

/** What a column is taken for. */
interface ColumnUse {
  column: string
  is_time: boolean
  quantity: string | null
  part: string
  factor: number
}

const MOST_BYTES = 64_000_000
const build = useBuild()
const logbook = useLogbook()
const { current } = storeToRefs(build)
const { quantities } = storeToRefs(logbook)
const ids = { file: useId(), text: useId() }
const content = ref<Blob | null>(null)
const name = ref('')
const pasted = ref('')
const found = ref<LogPreview | null>(null)
const uses = ref<ColumnUse[]>([])
const added = ref<LogAdded | null>(null)
const trouble = ref('')
const isBusy = ref(false)

async function ask<T>(path: string, query: Record<string, string>): Promise<T | null> {
  if (!content.value || !current.value) return null
  isBusy.value = true
  trouble.value = ''
  try {
    const address = `/api/${path}?${new URLSearchParams({ installation_id: current.value.id, ...query })}`
    const answer = await fetch(address, {
      method: 'POST',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: content.value,
    })
    const value = (await answer.json()) as T | Problem
    if (answer.ok) return value as T
    trouble.value = refusal(value as Problem)
  } catch {
    trouble.value = SILENT
  } finally {
    isBusy.value = false
  }
  return null
}

async function look(blob: Blob, called: string): Promise<void> {
  added.value = null
  found.value = null
  if (blob.size > MOST_BYTES) {
    trouble.value = `${called} holds ${count(blob.size)} bytes; at most ${count(MOST_BYTES)} are read.`
    return
  }
  content.value = blob
  name.value = called.slice(0, LONGEST_NAME)
  found.value = await ask<LogPreview>('log-preview', {})
  uses.value = found.value?.columns.map(({ use }) => ({ ...use, quantity: use.quantity ?? null })) ?? []
}

function pick(event: Event): void {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (file) void look(file, file.name)
}

function paste(): void {
  if (pasted.value.trim()) void look(new Blob([pasted.value]), 'Pasted rows')
}

async function take(): Promise<void> {
  added.value = await ask<LogAdded>('log-import', { uses: JSON.stringify(uses.value), name: name.value })
  if (added.value) await logbook.refresh()
}

/** What a column is taken for, as one word. */
const useOf = (use: ColumnUse) => (use.is_time ? 'time' : (use.quantity ?? ''))

function change(at: number, word: string): void {
  uses.value = uses.value.map((use, index) =>
    index === at
      ? {
          ...use,
          is_time: word === 'time',
          quantity: word && word !== 'time' ? word : null,
        }
      : use,
  )
}

function set(at: number, part: Partial<ColumnUse>): void {
  uses.value = uses.value.map((use, index) => (index === at ? { ...use, ...part } : use))
}

const canTake = computed(
  () => uses.value.some((use) => use.is_time) && uses.value.some((use) => use.quantity),
)
/** Rows with more cells than there are columns: nobody can say which cell is whose. */
const tooLong = (rows: number, first: string) =>
  rows ? [`${counted(rows, 'row')} of more cells than columns left out${first && `, ${first}`}`] : []
const left = computed(() => {
  if (!added.value) return []
  const { left_out, first_left_out, without_time, first_bad_time, not_numbers, outside } = added.value
  return [
    ...tooLong(left_out, first_left_out),
    ...(without_time
      ? [`${counted(without_time, 'row')} without a moment that can be read, ${first_bad_time}`]
      : []),
    ...Object.entries(not_numbers).map(
      ([column, number]) => `${column}: ${counted(number, 'cell')} without a number`,
    ),
    ...Object.entries(outside).map(
      ([column, number]) => `${column}: ${counted(number, 'number')} outside the range`,
    ),
  ]
})
</script>

<template>
  <p v-if="!current" class="lesser">Begin the record of an installation on Build to take a log.</p>
  <div v-else>
    <div class="ways">
      <label :for="ids.file">
        Log file, CSV
        <input
          :id="ids.file"
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          data-test="log-file"
          @change="pick"
        />
      </label>
      <label :for="ids.text">
        or rows copied from a sheet, column names first
        <textarea :id="ids.text" v-model="pasted" rows="3" data-test="log-pasted" @change="paste"></textarea>
      </label>
    </div>
    <p v-if="isBusy" role="status">Reading {{ name }}</p>
    <p v-if="trouble" class="bad" role="alert" data-test="log-trouble">{{ trouble }}</p>
    <template v-if="found && !added">
      <p>
        {{ counted(found.rows, 'row') }}, {{ counted(found.columns.length, 'column') }}.
        {{ found.is_remembered ? 'Columns as the last time.' : 'See what each column is taken for.' }}
      </p>
      <p
        v-for="line in tooLong(found.left_out, found.first_left_out)"
        :key="line"
        class="bad"
        data-test="log-left-out"
      >
        {{ line }}.
      </p>
      <WideTable label="Columns of the log">
        <table class="ledger" data-test="log-columns">
          <thead>
            <tr>
              <th scope="col">Column</th>
              <th scope="col">Begins with</th>
              <th scope="col">Taken for</th>
              <th scope="col">Times</th>
              <th scope="col">Instrument or group</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(column, at) in found.columns" :key="column.name">
              <th scope="row">{{ column.name }}</th>
              <td class="samples">{{ column.samples.join(' · ') }}</td>
              <td>
                <select
                  :value="useOf(uses[at]!)"
                  :aria-label="`${column.name}, taken for`"
                  @change="change(at, ($event.target as HTMLSelectElement).value)"
                >
                  <option value="">leave out</option>
                  <option value="time">moment</option>
                  <option v-for="info in quantities" :key="info.quantity" :value="info.quantity">
                    {{ info.label }}, {{ info.unit }}
                  </option>
                </select>
              </td>
              <td>
                <input
                  v-if="uses[at]?.quantity"
                  class="factor figures"
                  type="number"
                  step="any"
                  :value="uses[at]?.factor"
                  :aria-label="`${column.name}, multiplied by`"
                  @change="set(at, { factor: Number(($event.target as HTMLInputElement).value) || 1 })"
                />
              </td>
              <td>
                <input
                  v-if="uses[at]?.quantity"
                  :value="uses[at]?.part"
                  maxlength="200"
                  :aria-label="`${column.name}, instrument or group`"
                  @change="set(at, { part: ($event.target as HTMLInputElement).value })"
                />
              </td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p class="lesser">
        Amps into the bank count as plus: −1 turns the sign. Moments without an offset are the site’s standard
        time.
      </p>
      <v-btn color="pine" variant="flat" :disabled="!canTake || isBusy" data-test="take-log" @click="take"
        >Take it</v-btn
      >
    </template>
    <div v-if="added" data-test="log-added">
      <p class="said">
        {{ counted(added.added, 'reading') }} taken from {{ counted(added.rows, 'row')
        }}<template v-if="added.known">; {{ count(added.known) }} were there already</template>.
      </p>
      <ul v-if="left.length">
        <li v-for="line in left" :key="line">{{ line }}</li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 16px;
}

label {
  font-size: 12.5px;
  color: var(--slate);
}

input,
select,
textarea {
  display: block;
  width: 100%;
  min-height: 30px;
  padding: 2px 6px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  font-size: 13.5px;
}

.factor {
  width: 76px;
}

.samples {
  max-width: 220px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: var(--slate);
  font-size: 13px;
}

.ledger td {
  padding: 3px 6px;
}

.said {
  font-weight: 600;
}

.bad {
  color: var(--wine);
}

@media (max-width: 640px) {
  .ways {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
