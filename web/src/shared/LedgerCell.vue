<script setup lang="ts">
/** One cell of the ledger: arrow keys and Enter move as in a spreadsheet, Esc leaves without change. */
import { storeToRefs } from 'pinia'
import { ref, watch } from 'vue'

import { useDesign } from '@/design/store'

import { commasOf, needs, readNumber } from './numbers'

const props = defineProps<{
  text: string
  /** Name of the column, by which the keys find the cell above and below. */
  column: string
  label: string
  words?: boolean
  mayBeEmpty?: boolean
  fault?: boolean
}>()
const emit = defineEmits<{ commit: [text: string]; number: [value: number | null] }>()
const typed = ref('')
const wrong = ref('')
const { document } = storeToRefs(useDesign())

watch(
  () => props.text,
  () => {
    typed.value = props.text
    wrong.value = ''
  },
  { immediate: true },
)

function commit(): void {
  const text = typed.value.trim()
  wrong.value = ''
  if (text === props.text) return
  if (props.words) {
    if (text) emit('commit', text)
    else typed.value = props.text
    return
  }
  if (props.mayBeEmpty && (text === '' || text === '–')) {
    emit('number', null)
    return
  }
  const number = readNumber(text, commasOf(document.value?.practice))
  if (number.value === null) wrong.value = needs(text, number)
  else emit('number', number.value)
}

function onKey(event: KeyboardEvent): void {
  const input = event.target as HTMLInputElement
  if (event.altKey) return
  if (event.key === 'Escape') {
    typed.value = props.text
    wrong.value = ''
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
    :maxlength="words ? 120 : 24"
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
