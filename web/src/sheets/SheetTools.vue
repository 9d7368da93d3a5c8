<script setup lang="ts">
/** A table of the design to and from files. */
import { ref, useTemplateRef } from 'vue'

import type { Design, SheetSource } from '@/api/client'

import { saveTable, sourceOf } from './files'

const props = defineProps<{
  design: Design
  /** What the sheet holds, for those who hear it. */
  label: string
  /** Address of the exports, up to their kind, and the end of the file's name. */
  exportAt: string
  fileName: string
}>()
const emit = defineEmits<{ sheet: [source: SheetSource] }>()
const picker = useTemplateRef('picker')
const trouble = ref('')

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const found = await sourceOf(file)
  trouble.value = 'trouble' in found ? found.trouble : ''
  if ('source' in found) emit('sheet', found.source)
}

async function save(kind: 'csv' | 'xlsx'): Promise<void> {
  trouble.value = await saveTable(props.design, `${props.exportAt}-${kind}`, `${props.fileName}.${kind}`)
}
</script>

<template>
  <div class="tools">
    <span v-if="trouble" class="trouble" role="alert">{{ trouble }}</span>
    <button type="button" class="tool" data-test="open-sheet" @click="picker?.click()">Open a sheet</button>
    <button type="button" class="tool" data-test="save-csv" @click="save('csv')">Save CSV</button>
    <button type="button" class="tool" data-test="save-xlsx" @click="save('xlsx')">Save XLSX</button>
    <input
      ref="picker"
      class="visually-hidden"
      type="file"
      accept=".csv,.tsv,.txt,.xlsx,.xls"
      tabindex="-1"
      :aria-label="label"
      data-test="sheet-file"
      @change="open"
    />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 14px;
  font-size: 13px;
  background: var(--paper);
}

.tool {
  color: var(--pine);
  font-weight: 600;
  white-space: nowrap;
}

.tool:hover {
  text-decoration: underline;
}

.trouble {
  color: var(--wine);
}
</style>
