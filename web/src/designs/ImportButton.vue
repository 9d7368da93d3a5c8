<script setup lang="ts">
/** A design from a file: a Design document, JSON in the format of docs/design-format.md, or a bundle with all that goes with it. */
import { useTemplateRef } from 'vue'

import { api, outcome, type Design, refusal } from '@/api/client'
import { count } from '@/shared/format'

const emit = defineEmits<{ imported: [id: string, note: string]; trouble: [text: string] }>()
const picker = useTemplateRef('picker')
const MOST_BYTES = 1_000_000
const MOST_BUNDLE_BYTES = 20_000_000

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const isBundle = /\.zip$/i.test(file.name)
  const most = isBundle ? MOST_BUNDLE_BYTES : MOST_BYTES
  if (file.size > most) {
    emit(
      'trouble',
      `${file.name} holds ${count(file.size)} bytes; a ${isBundle ? 'bundle' : 'design file'} may hold at most ${count(most)}.`,
    )
    return
  }
  if (isBundle) await takeBundle(file)
  else await takeDocument(file)
}

async function takeBundle(file: File): Promise<void> {
  const made = await outcome(
    api.POST('/api/bundles', {
      body: file as unknown as string,
      bodySerializer: (body) => body as unknown as BodyInit,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
  if (made.kind === 'answer') emit('imported', made.value.id, made.value.note)
  else if (made.kind === 'refused') emit('trouble', `${file.name} cannot be used. ${refusal(made.problem)}`)
  else emit('trouble', 'Hearth Keep is not answering; nothing was imported.')
}

async function takeDocument(file: File): Promise<void> {
  const text = await file.text()
  const made = await outcome(
    api.POST('/api/designs/import', {
      body: text as unknown as Design,
      bodySerializer: (body) => body as unknown as string,
    }),
  )
  if (made.kind === 'answer') emit('imported', made.value.id, '')
  else if (made.kind === 'refused') emit('trouble', `${file.name} cannot be used. ${refusal(made.problem)}`)
  else emit('trouble', 'Hearth Keep is not answering; nothing was imported.')
}
</script>

<template>
  <v-btn color="pine" @click="picker?.click()">Open a design file</v-btn>
  <input
    ref="picker"
    class="visually-hidden"
    type="file"
    accept=".json,application/json,.zip,application/zip"
    tabindex="-1"
    aria-label="Design file"
    @change="take"
  />
</template>
