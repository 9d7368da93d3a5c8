<script setup lang="ts" generic="Unit extends { library_id: string; name: string }">
/** The equipment library of one kind: sought as typed, taken into the design, filled from CSV and given out as CSV. */
import { computed, onMounted, ref, useTemplateRef } from 'vue'

import { api, outcome, refusal, SILENT, type CellProblem, type Outcome } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { LONGEST_NAME } from '@/fields/limits'

const props = defineProps<{
  kind: 'battery' | 'inverter' | 'module'
  title: string
  /** What may be sought, as an example. */
  hint?: string
  columns: readonly { title: string; value: (unit: Unit) => string; words?: boolean }[]
  find: (words: string) => Promise<Outcome<{ units: Unit[]; total: number }>>
  chosen?: string | null
}>()
const emit = defineEmits<{ take: [unit: Unit]; close: [] }>()
const words = ref('')
const trouble = ref('')
const note = ref('')
const problems = ref<CellProblem[]>([])
const picker = useTemplateRef('picker')
const search = useTemplateRef('search')
const MOST_BYTES = 940_000
const {
  value: found,
  trouble: unfound,
  askNow: seek,
} = useAnswer({ ask: () => props.find(words.value), on: words })
const units = computed(() => found.value?.units ?? [])
const total = computed(() => found.value?.total ?? 0)
onMounted(() => search.value?.focus())

async function remove(unit: Unit): Promise<void> {
  const answer = await outcome(
    api.DELETE('/api/library/{kind}/{unit_id}', {
      params: { path: { kind: props.kind, unit_id: unit.library_id } },
    }),
  )
  trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : ''
  if (answer.kind === 'answer') note.value = `${unit.name} was taken out.`
  await seek()
}

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  trouble.value = note.value = ''
  problems.value = []
  if (file.size > MOST_BYTES) {
    trouble.value = `${file.name} holds ${file.size.toLocaleString('en-US')} bytes; at most 940,000 are read.`
    return
  }
  const answer = await outcome(
    api.POST('/api/library/{kind}/import', {
      params: { path: { kind: props.kind } },
      body: { text: await file.text() },
    }),
  )
  if (answer.kind === 'answer') {
    note.value = `${answer.value.taken.toLocaleString('en-US')} units taken.`
    problems.value = answer.value.problems
  } else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
  await seek()
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="980"
    scrollable
    aria-labelledby="library-title"
    @update:model-value="emit('close')"
  >
    <v-sheet class="library" color="sheet" data-test="library">
      <div class="head">
        <h2 id="library-title">{{ title }}</h2>
        <input
          ref="search"
          v-model="words"
          class="search"
          :placeholder="hint ?? 'name, chemistry, 12.8v, 100ah'"
          aria-label="Seek in the library"
          :maxlength="LONGEST_NAME"
          data-test="library-search"
        />
        <span class="lesser figures" data-test="library-total">{{ units.length }} of {{ total }}</span>
      </div>
      <p v-if="trouble || unfound" class="trouble" role="alert">{{ trouble || unfound }}</p>
      <p v-if="note" role="status">{{ note }}</p>
      <p v-for="problem in problems.slice(0, 8)" :key="`${problem.row}${problem.column}`" class="trouble">
        Row {{ problem.row }}, {{ problem.column }}: read “{{ problem.read }}”, expected
        {{ problem.expected }}
      </p>
      <p v-if="problems.length > 8" class="trouble">and {{ problems.length - 8 }} more cells</p>
      <div class="rows" tabindex="0" role="region" aria-label="Units">
        <table class="ledger">
          <thead>
            <tr>
              <th scope="col">Unit</th>
              <th
                v-for="column in columns"
                :key="column.title"
                scope="col"
                :class="{ number: !column.words }"
              >
                {{ column.title }}
              </th>
              <th scope="col"><span class="visually-hidden">Act</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="unit in units" :key="unit.library_id" :class="{ chosen: unit.library_id === chosen }">
              <td>{{ unit.name }}</td>
              <td v-for="column in columns" :key="column.title" :class="{ number: !column.words }">
                {{ column.value(unit) }}
              </td>
              <td class="acts">
                <button
                  type="button"
                  class="take"
                  :aria-label="`Take ${unit.name}`"
                  @click="emit('take', unit)"
                >
                  Take
                </button>
                <button type="button" class="out" :aria-label="`Delete ${unit.name}`" @click="remove(unit)">
                  Delete
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="!units.length" class="lesser">No such unit.</p>
      </div>
      <div class="actions">
        <button type="button" class="tool" @click="picker?.click()">Fill from CSV</button>
        <a class="tool" :href="`/api/library/${kind}/units.csv`" download>Save as CSV</a>
        <slot name="tools" />
        <span class="gap" />
        <v-btn variant="text" color="ink" @click="emit('close')">Close</v-btn>
        <input
          ref="picker"
          class="visually-hidden"
          type="file"
          accept=".csv,.txt"
          tabindex="-1"
          aria-label="CSV of units"
          data-test="library-file"
          @change="open"
        />
      </div>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.library {
  display: flex;
  flex-direction: column;
  max-height: 84vh;
  padding: 16px 20px;
}

.head {
  display: flex;
  gap: 16px;
  align-items: baseline;
}

.search {
  flex: 1;
  border: 1px solid var(--slate);
  padding: 5px 8px;
}

.rows {
  overflow-y: auto;
  margin: 8px 0;
}

.chosen td {
  font-weight: 700;
}

.acts {
  white-space: nowrap;
  text-align: right;
}

.take,
.tool {
  color: var(--pine);
  font-weight: 700;
}

.out {
  color: var(--wine);
  margin-left: 10px;
}

.tool {
  text-decoration: none;
  margin-right: 16px;
}

.tool:hover,
.take:hover,
.out:hover {
  text-decoration: underline;
}

.trouble {
  color: var(--wine);
}

.actions {
  display: flex;
  align-items: center;
}

.gap {
  flex: 1;
}
</style>
