<script setup lang="ts">
/** Under a picture: its numbers as a table, which is given by its place; the picture as SVG or PNG, the numbers as CSV. */
import { storeToRefs } from 'pinia'
import { ref } from 'vue'

import { useDesign } from '@/design/store'

import PictureFiles from './PictureFiles.vue'
import { csvText, fileWords, saveFile } from './saving'

const props = defineProps<{
  /** What the picture shows; the files are named after it. */
  label: string
  picture: () => SVGSVGElement | null | undefined
  /** Header and rows of its numbers. */
  rows: () => (string | number)[][]
}>()
const isTable = ref(false)
const { document: design } = storeToRefs(useDesign())
const name = () => [design.value?.name ?? '', props.label].map(fileWords).filter(Boolean).join('-')
</script>

<template>
  <p class="tools">
    <button type="button" class="as-table" :aria-expanded="isTable" @click="isTable = !isTable">
      {{ isTable ? 'Put the table away' : 'As a table' }}
    </button>
    <PictureFiles :label="label" :picture="picture" />
    <button
      type="button"
      data-test="picture-csv"
      @click="saveFile(`${name()}.csv`, csvText(rows()), 'text/csv')"
    >
      Save CSV
    </button>
  </p>
  <div v-if="isTable" class="table" tabindex="0" role="region" :aria-label="`${label}, as a table`">
    <slot />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
  margin: 0;
}

.table {
  max-height: 320px;
  overflow: auto;
  margin-top: 4px;
}

.table :deep(th[scope='row']) {
  border-bottom: 1px solid var(--rule);
}

button {
  font-size: 13px;
  font-weight: 600;
  color: var(--pine);
}

button:hover {
  text-decoration: underline;
}
</style>
