<script setup lang="ts" generic="Value extends string | boolean">
/** One choice of a row's panel among named values. */
import { useId } from 'vue'

import FieldFrame from './FieldFrame.vue'

defineProps<{
  label: string
  /** What a screen reader says where the label alone would not do. */
  name?: string
  value: Value
  choices: readonly { value: string | boolean; title: string }[]
}>()
const emit = defineEmits<{ change: [value: Value] }>()
defineOptions({ inheritAttrs: false })
const id = useId()
</script>

<template>
  <FieldFrame :class="$attrs['class']" :label="label" :for="id">
    <v-select
      :id="id"
      class="words"
      :model-value="value"
      :items="[...choices]"
      :aria-label="name ?? label"
      :data-test="$attrs['data-test']"
      @update:model-value="(chosen: Value) => emit('change', chosen)"
    />
  </FieldFrame>
</template>
