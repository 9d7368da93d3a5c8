<script setup lang="ts">
/** The ledger to and from files. */
import { ref, useTemplateRef } from 'vue'

import type { Design, SheetSource } from '@/api/client'

const props = defineProps<{ design: Design }>()
const emit = defineEmits<{ sheet: [source: SheetSource] }>()
const picker = useTemplateRef('picker')
const trouble = ref('')
const MOST_BYTES = 600_000

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  if (file.size > MOST_BYTES) {
    trouble.value = `${file.name} holds ${file.size.toLocaleString('en-US')} bytes; at most 600,000 are read.`
    return
  }
  trouble.value = ''
  const bytes = new Uint8Array(await file.arrayBuffer())
  // Workbooks are zip archives, or compound files that will be refused with their reason; all else is text.
  const isWorkbook =
    /\.xls[xm]?$/i.test(file.name) || (bytes[0] === 0x50 && bytes[1] === 0x4b) || bytes[0] === 0xd0
  if (isWorkbook)
    emit('sheet', { workbook_base64: btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join('')) })
  else emit('sheet', { text: new TextDecoder().decode(bytes) })
}

async function save(kind: 'csv' | 'xlsx'): Promise<void> {
  try {
    const answer = await fetch(`/api/loads/export-${kind}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(props.design),
    })
    if (!answer.ok) throw new Error()
    const link = document.createElement('a')
    link.href = URL.createObjectURL(await answer.blob())
    link.download = `${props.design.name.replace(/[^\p{L}\p{N}]+/gu, '-').slice(0, 60)}-loads.${kind}`
    link.click()
    URL.revokeObjectURL(link.href)
    trouble.value = ''
  } catch {
    trouble.value = 'The file could not be made: Hearth Keep is not answering, or a field cannot be used.'
  }
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
      aria-label="Sheet of loads"
      data-test="sheet-file"
      @change="open"
    />
  </div>
</template>

<style scoped>
.tools {
  position: absolute;
  right: 0;
  top: 37px;
  display: flex;
  gap: 14px;
  font-size: 13px;
  background: var(--paper);
  padding-left: 12px;
}

.tool {
  color: var(--pine);
  font-weight: 600;
}

.tool:hover {
  text-decoration: underline;
}

.trouble {
  color: var(--wine);
}
</style>
