<script setup lang="ts">
/** A load typed in one line. */
import { api, outcome, type Design, type Load, type LoadEntry, type Outcome } from '@/api/client'
import TypedLine from '@/fields/TypedLine.vue'

const props = defineProps<{ full: boolean; bank_v: number; practice: Design['practice'] }>()
const emit = defineEmits<{ add: [load: Load]; sheet: [text: string] }>()

function understood(text: string): Promise<Outcome<LoadEntry>> {
  return outcome(
    api.POST('/api/loads/read-line', {
      body: { line: text, tier: 'keep', bank_v: props.bank_v, practice: props.practice },
    }),
  )
}
</script>

<template>
  <TypedLine
    class="line"
    :read="understood"
    :makes="(reading: LoadEntry) => reading.load != null"
    :full="full ? 'A design holds at most 400 loads.' : ''"
    placeholder="type a load: sump pump 640W starts 1900 duty 4% 0-24 keep"
    label="New load in one line"
    @enter="(reading: LoadEntry) => reading.load && emit('add', reading.load)"
    @sheet="(text) => emit('sheet', text)"
  />
</template>

<style scoped>
/* The ledger's tools stand at the end of the line below it. */
.line :deep(.reading) {
  padding-right: 72px;
}
</style>
