<script setup lang="ts">
/** A panel schedule before it is taken. */
import { onMounted, ref } from 'vue'

import {
  api,
  outcome,
  refusal,
  SILENT,
  type Design,
  type PanelPreview,
  type PanelRow,
  type SheetSource,
} from '@/api/client'
import PreviewDialog from '@/sheets/PreviewDialog.vue'

const props = defineProps<{ sheet: SheetSource; design: Design }>()
const emit = defineEmits<{ take: [rows: PanelRow[]]; close: [] }>()
const preview = ref<PanelPreview | null>(null)
const trouble = ref('')
const nameOf = (id: string) => props.design.loads?.find((load) => load.id === id)?.name ?? id

onMounted(async () => {
  const answer = await outcome(
    api.POST('/api/transfer/preview-schedule', { body: { ...props.sheet, design: props.design } }),
  )
  if (answer.kind === 'answer') preview.value = answer.value
  else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : `${SILENT} Nothing was read.`
})
</script>

<template>
  <PreviewDialog
    title="Rows of the schedule"
    named="Circuit"
    :preview="preview"
    :trouble="trouble"
    @take="(rows: PanelRow[]) => emit('take', rows)"
    @close="emit('close')"
  >
    <template #row="{ row }: { row: PanelRow }">
      <template v-if="row.circuit">
        slot {{ row.circuit.slot }}, {{ row.circuit.breaker_a }} A,
        {{ row.circuit.poles === 2 ? 'two poles' : 'one pole'
        }}{{ row.circuit.wire ? `, ${row.circuit.wire}` : '' }},
        {{ row.circuit.backed_up ? 'backed up' : 'on the grid'
        }}{{ row.loads.length ? `; takes ${row.loads.map(nameOf).join(', ')}` : '' }}
      </template>
    </template>
  </PreviewDialog>
</template>
