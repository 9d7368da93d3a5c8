<script setup lang="ts">
/** One choice of the design among named values. */
import { storeToRefs } from 'pinia'
import { computed, useId } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'

import FieldFrame from './FieldFrame.vue'

const props = defineProps<{
  path: string
  label: string
  choices: readonly { value: string | number | boolean | null; title: string }[]
}>()

const id = useId()
const store = useDesign()
const { document } = storeToRefs(store)
const value = computed(() => valueAt(document.value, props.path))
</script>

<template>
  <FieldFrame :label="label" :for="id">
    <v-select
      :id="id"
      class="words"
      :model-value="value"
      :aria-label="label"
      :items="[...choices]"
      :data-path="path"
      @update:model-value="(chosen: unknown) => store.set(path, chosen)"
    />
  </FieldFrame>
</template>
