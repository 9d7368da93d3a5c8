<script setup lang="ts">
/** Size of a conductor: a number alone is of the practice's unit, which its label says; another unit may be typed. */
import { computed } from 'vue'

import { useDesign } from '@/design/store'

import OptionalWords from './OptionalWords.vue'

const props = withDefaults(
  defineProps<{
    label: string
    path?: string
    value?: string | null
    placeholder?: string
    /** The label is heard, not seen. */
    quiet?: boolean
  }>(),
  { path: '', value: null, placeholder: 'not known', quiet: false },
)
const emit = defineEmits<{ change: [value: string | null] }>()
const store = useDesign()
const unit = computed(() => (store.document?.practice === 'metric_230' ? 'mm²' : 'AWG'))

/** What the practice's unit adds to a bare number; whatever else was typed stays, for the server to read. */
function withUnit(typed: string): string {
  return /^[\d.,/]+$/.test(typed) ? `${typed.replace(',', '.')} ${unit.value}` : typed
}
</script>

<template>
  <OptionalWords
    :label="`${props.label}, ${unit}`"
    :path="path"
    :value="value"
    :placeholder="placeholder"
    :quiet="quiet"
    :most="12"
    :complete="withUnit"
    @change="emit('change', $event)"
  />
</template>
