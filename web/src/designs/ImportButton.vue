<script setup lang="ts">
/** A Design document from a file: JSON in the format of docs/design-format.md. */
import { useTemplateRef } from 'vue'

import { api, outcome, type Design, refusal } from '@/api/client'

const emit = defineEmits<{ imported: [id: string]; trouble: [text: string] }>()
const picker = useTemplateRef('picker')
const MOST_BYTES = 1_000_000

async function take(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  if (file.size > MOST_BYTES) {
    emit(
      'trouble',
      `${file.name} holds ${file.size.toLocaleString('en-US')} bytes; a design file may hold at most 1,000,000.`,
    )
    return
  }
  const text = await file.text()
  const made = await outcome(
    api.POST('/api/designs/import', {
      body: text as unknown as Design,
      bodySerializer: (body) => body as unknown as string,
    }),
  )
  if (made.kind === 'answer') emit('imported', made.value.id)
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
    accept=".json,application/json"
    tabindex="-1"
    aria-label="Design file"
    @change="take"
  />
</template>
