<script setup lang="ts">
/** Start of the outage, in local standard time, written the same way in every browser. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { useDesign } from '@/design/store'
import FieldFrame from '@/fields/FieldFrame.vue'

const id = useId()
const store = useDesign()
const { document, problems } = storeToRefs(store)
const kept = computed(() => document.value?.outage.start.slice(0, 16).replace('T', ' ') ?? '')
const text = ref('')
const wrong = ref('')
watch(kept, () => (text.value = kept.value), { immediate: true })
const refused = computed(() => problems.value.find((problem) => problem.field === 'outage.start')?.accepted)

function commit(): void {
  const found = /^(\d{4}-\d{2}-\d{2})[ T](\d{1,2}):(\d{2})$/.exec(text.value.trim())
  const iso = found ? `${found[1]}T${found[2]?.padStart(2, '0')}:${found[3]}:00` : ''
  wrong.value = Number.isNaN(Date.parse(`${iso}Z`)) ? 'needs a date and time such as 2026-01-12 17:00' : ''
  if (!wrong.value && iso.slice(0, 16).replace('T', ' ') !== kept.value) store.set('outage.start', iso)
}

function restore(): void {
  text.value = kept.value
  wrong.value = ''
}
</script>

<template>
  <FieldFrame label="Starts, local standard time" :for="id">
    <v-text-field
      :id="id"
      v-model="text"
      :error-messages="wrong || refused || []"
      autocomplete="off"
      data-path="outage.start"
      @change="commit"
      @keydown.enter="commit"
      @keydown.esc.stop="restore"
    />
  </FieldFrame>
</template>
