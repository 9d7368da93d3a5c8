<script setup lang="ts">
/** One cell of the ledger: arrow keys and Enter move as in a spreadsheet, Esc leaves without change. */
import { watch } from 'vue'

import { LONGEST_NAME } from '@/fields/limits'

import { useQuantity } from './useQuantity'

const props = defineProps<{
  /** What the cell shows; of a number, its value besides. */
  text: string
  value?: number | null
  /** Name of the column, by which the keys find the cell above and below. */
  column: string
  label: string
  words?: boolean
  mayBeEmpty?: boolean
  fault?: boolean
}>()
const emit = defineEmits<{ commit: [text: string]; number: [value: number | null] }>()
const {
  text: typed,
  wrong,
  commit: commitNumber,
  restore,
} = useQuantity({
  value: () => props.value,
  mayBeEmpty: () => props.mayBeEmpty,
  show: () => props.text,
  keep: (value) => emit('number', value),
})
watch(() => props.text, restore)

function commit(): void {
  if (!props.words) return commitNumber()
  const text = typed.value.trim()
  if (text === props.text) return
  if (text) emit('commit', text)
  else typed.value = props.text
}

function onKey(event: KeyboardEvent): void {
  const input = event.target as HTMLInputElement
  if (event.altKey) return
  if (event.key === 'Escape') {
    restore()
    event.stopPropagation()
    requestAnimationFrame(() => input.select())
    return
  }
  const atStart = input.selectionStart === 0 && input.selectionEnd === 0
  const atEnd = input.selectionStart === input.value.length
  const isWhole = input.selectionStart === 0 && input.selectionEnd === input.value.length
  if (event.key === 'ArrowDown' || event.key === 'Enter') move(input, 1, 0)
  else if (event.key === 'ArrowUp') move(input, -1, 0)
  else if (event.key === 'ArrowLeft' && (atStart || isWhole)) move(input, 0, -1)
  else if (event.key === 'ArrowRight' && (atEnd || isWhole)) move(input, 0, 1)
  else return
  event.preventDefault()
}

/** Commit and go to the neighbouring cell of the table. */
function move(from: HTMLInputElement, rows: number, columns: number): void {
  commit()
  const table = from.closest('table')
  if (!table) return
  const cells =
    rows === 0
      ? [...(from.closest('tr')?.querySelectorAll<HTMLElement>('[data-column]') ?? [])]
      : [...table.querySelectorAll<HTMLElement>(`[data-column="${props.column}"]`)]
  cells[cells.indexOf(from) + rows + columns]?.focus()
}
</script>

<template>
  <input
    v-model="typed"
    class="cell"
    :class="{ words, fault: fault || !!wrong }"
    :data-column="column"
    :aria-label="label"
    :aria-invalid="fault || !!wrong"
    :inputmode="words ? 'text' : 'decimal'"
    :maxlength="words ? LONGEST_NAME : 60"
    :title="words && text.length > 24 ? text : wrong || undefined"
    autocomplete="off"
    spellcheck="false"
    @change="commit"
    @focus="($event.target as HTMLInputElement).select()"
    @keydown="onKey"
  />
</template>

<style scoped>
.cell {
  width: 100%;
  min-width: 34px;
  font: inherit;
  color: inherit;
  text-align: right;
  padding: 1px 3px;
  border: 1px solid transparent;
  background: transparent;
}

.words {
  text-align: left;
  text-overflow: ellipsis;
  margin-left: -4px;
}

.cell:hover {
  border-color: var(--rule);
}

.cell:focus {
  border-color: var(--pine);
  background: var(--sheet);
}

.fault {
  border-color: var(--wine);
  color: var(--wine);
}
</style>
