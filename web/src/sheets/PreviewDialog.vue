<script setup lang="ts" generic="Row extends PreviewRow">
/** A sheet before it is taken: what each row would change, and every cell that cannot be used. */
import { computed } from 'vue'

import type { CellProblem } from '@/api/client'

export interface PreviewRow {
  row: number
  name: string
  fate: 'new' | 'changed' | 'same' | 'faulty'
  problems: CellProblem[]
}

const props = defineProps<{
  title: string
  /** Of the column that names the rows. */
  named: string
  preview: { rows: Row[]; notes: string[] } | null
  trouble: string
}>()
const emit = defineEmits<{ take: [rows: Row[]]; close: [] }>()
defineSlots<{ row(props: { row: Row }): unknown }>()

const MEANING: Record<PreviewRow['fate'], string> = {
  new: 'added',
  changed: 'changed',
  same: 'as it is',
  faulty: 'left out',
}
const rows = computed(() => props.preview?.rows ?? [])
const count = (fate: PreviewRow['fate']) => rows.value.filter((row) => row.fate === fate).length
const good = computed(() => rows.value.filter((row) => row.fate === 'new' || row.fate === 'changed'))
const summary = computed(
  () =>
    `${count('new')} added, ${count('changed')} changed, ${count('same')} as they are, ${count('faulty')} left out`,
)
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="860"
    scrollable
    aria-labelledby="sheet-title"
    @update:model-value="emit('close')"
  >
    <v-sheet class="sheet" color="sheet" data-test="sheet-preview">
      <h2 id="sheet-title">{{ title }}</h2>
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <template v-else-if="preview">
        <p class="figures" data-test="sheet-summary">{{ summary }}</p>
        <p v-for="note in preview.notes" :key="note" class="lesser">{{ note }}</p>
        <div class="rows" tabindex="0" role="region" aria-label="Rows">
          <table class="ledger">
            <thead>
              <tr>
                <th scope="col" class="number">Row</th>
                <th scope="col">{{ named }}</th>
                <th scope="col">Would be</th>
                <th scope="col">As read, or what is wrong</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in rows" :key="row.row" :class="row.fate" :data-test="`sheet-row-${row.row}`">
                <td class="number">{{ row.row }}</td>
                <td class="name">{{ row.name || '–' }}</td>
                <td class="fate">{{ MEANING[row.fate] }}</td>
                <td class="what">
                  <span v-for="(problem, index) in row.problems" :key="index" class="problem">
                    {{ problem.column }}: read “{{ problem.read }}”, expected {{ problem.expected }}
                  </span>
                  <slot v-if="!row.problems.length" name="row" :row="row" />
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <p v-else class="lesser">Reading</p>
      <div class="actions">
        <v-btn variant="text" color="ink" @click="emit('close')">Leave it</v-btn>
        <v-btn
          v-if="preview"
          variant="flat"
          color="pine"
          :disabled="!good.length"
          data-test="take-sheet"
          @click="emit('take', good)"
        >
          {{ good.length === 1 ? 'Take 1 row' : `Take ${good.length} rows` }}
        </v-btn>
      </div>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-direction: column;
  max-height: 84vh;
  padding: 16px 20px;
}

.rows {
  overflow-y: auto;
  margin: 8px 0;
}

td {
  padding-top: 4px;
  padding-bottom: 4px;
  vertical-align: top;
}

.name {
  max-width: 220px;
  overflow-wrap: anywhere;
}

.fate {
  font-weight: 700;
  white-space: nowrap;
}

.new .fate,
.changed .fate {
  color: var(--pine);
}

.faulty .fate,
.problem,
.trouble {
  color: var(--wine);
}

.same .fate {
  color: var(--slate);
}

.problem {
  display: block;
}

.what {
  overflow-wrap: anywhere;
}

.actions {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
</style>
