<script setup lang="ts">
/** A part of the design that may be there or not: ticked, it starts from sensible values and its fields appear. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'

const props = defineProps<{
  path: string
  label: string
  start: object
  /** Other fields that are set with it, so that the whole makes sense at once. */
  also?: readonly { path: string; value: unknown }[]
}>()
const store = useDesign()
const { document } = storeToRefs(store)
const isThere = computed(() => valueAt(document.value, props.path) != null)

function toggle(): void {
  if (isThere.value) store.set(props.path, null)
  else store.setAll([{ path: props.path, value: props.start }, ...(props.also ?? [])])
}
</script>

<template>
  <div class="optional">
    <label>
      <input type="checkbox" :checked="isThere" :data-test="`has-${path}`" @change="toggle" />
      {{ label }}
    </label>
    <div v-if="isThere" class="fields"><slot /></div>
  </div>
</template>

<style scoped>
label {
  display: inline-flex;
  gap: 7px;
  align-items: center;
}

input {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}

.fields {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 8px 10px;
  margin: 6px 0 10px 22px;
}

@media (max-width: 1150px) {
  .fields {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}
</style>
