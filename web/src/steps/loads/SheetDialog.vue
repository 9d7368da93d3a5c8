<script setup lang="ts">
/** A sheet of loads before it is taken. */
import { onMounted, ref } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type Design,
  type Load,
  type SheetPreview,
  type SheetRow,
  type SheetSource,
} from '@/api/client'
import { hoursText } from '@/fields/hours'
import { amount } from '@/shared/format'
import PreviewDialog from '@/sheets/PreviewDialog.vue'

const props = defineProps<{ sheet: SheetSource; loads: Load[]; practice: Design['practice'] }>()
const emit = defineEmits<{ take: [rows: Load[]]; close: [] }>()
const preview = ref<SheetPreview | null>(null)
const trouble = ref('')

onMounted(async () => {
  const answer = await outcome(
    api.POST('/api/loads/preview-sheet', {
      body: { ...props.sheet, loads: props.loads, practice: props.practice },
    }),
  )
  if (answer.kind === 'answer') preview.value = answer.value
  else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : `${SILENT} Nothing was read.`
})

function take(rows: SheetRow[]): void {
  emit(
    'take',
    rows.map((row) => row.load).filter((load): load is Load => load != null),
  )
}
</script>

<template>
  <PreviewDialog
    title="Rows of the sheet"
    named="Load"
    :preview="preview"
    :trouble="trouble"
    @take="take"
    @close="emit('close')"
  >
    <template #row="{ row }: { row: SheetRow }">
      <template v-if="row.changes.length">{{ row.changes.join('; ') }}</template>
      <template v-else-if="row.load">
        {{ row.load.quantity }} × {{ amount(row.load.running_w) }} W, duty
        {{ amount(row.load.duty_frac * 100) }} %, {{ hoursText(row.load.hours as [number, number][]) }},
        {{ row.load.tier }}
      </template>
    </template>
  </PreviewDialog>
</template>
