<script setup lang="ts" generic="Value extends string | number | boolean | null">
/** One choice among named values: a field of the design, named by its path, or a value of the component around it. */
import { storeToRefs } from 'pinia'
import { computed, useId } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'

import FieldFrame from './FieldFrame.vue'

const props = defineProps<{
  label: string
  path?: string
  value?: Value
  choices: readonly { value: string | number | boolean | null; title: string }[]
  /** What a screen reader says where the label alone would not do. */
  name?: string
}>()
const emit = defineEmits<{ change: [value: Value] }>()
defineOptions({ inheritAttrs: false })

const id = useId()
const store = useDesign()
const { document } = storeToRefs(store)
const kept = computed(() => (props.path ? valueAt(document.value, props.path) : props.value))

function choose(value: unknown): void {
  if (props.path) store.set(props.path, value)
  else emit('change', value as Value)
}
</script>

<template>
  <FieldFrame :class="$attrs['class']" :label="label" :for="id">
    <v-select
      :id="id"
      class="words"
      :model-value="kept"
      :items="[...choices]"
      :aria-label="name ?? label"
      :data-path="path"
      :data-test="$attrs['data-test']"
      @update:model-value="choose"
    />
  </FieldFrame>
</template>
