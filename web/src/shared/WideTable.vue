<script setup lang="ts">
/**
 * A place for a table that may be wider than the page: it scrolls here, by hand and by keys, so that the page never does. What it
 * shows can be saved.
 */
import { storeToRefs } from 'pinia'
import { useTemplateRef } from 'vue'

import { csvText, fileWords, saveFile } from '@/charts/saving'
import { useDesign } from '@/design/store'

import { shownRows } from './tableRows'

const props = defineProps<{
  label: string
  /** The page offers this table as a file in its own way. */
  hasFile?: boolean
}>()
const place = useTemplateRef('place')
const { document: design } = storeToRefs(useDesign())

function save(): void {
  const rows = [...(place.value?.querySelectorAll('table') ?? [])].flatMap((table) => shownRows(table))
  const name = [design.value?.name ?? '', props.label].map(fileWords).filter(Boolean).join('-')
  saveFile(`${name}.csv`, csvText(rows), 'text/csv')
}
</script>

<template>
  <div>
    <div ref="place" class="wide-table" tabindex="0" role="region" :aria-label="label"><slot /></div>
    <p v-if="!hasFile" class="file">
      <button type="button" data-test="table-csv" :aria-label="`Save CSV of ${label}`" @click="save">
        Save CSV
      </button>
    </p>
  </div>
</template>

<style scoped>
.wide-table {
  position: relative;
  overflow-x: auto;
}

.file {
  margin: 0;
  line-height: 1.2;
  text-align: right;
}

.file button {
  font-size: 12px;
  color: var(--slate);
}

.file button:hover {
  text-decoration: underline;
}
</style>
