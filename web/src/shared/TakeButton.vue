<script setup lang="ts">
/** A button that takes what stands beside it into the design; what loses hours says so before it is pressed. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'

import { hours, hoursChange } from './format'

const props = withDefaults(
  defineProps<{
    /** Hours carried gained by taking it, negative when lost; not given where they are not known. */
    change_h?: number | undefined
    /** Or the hours carried with it, to be held against those of now. */
    carried_h?: number | undefined
    label?: string
    /** In a narrow column: the loss as a change behind the label. */
    brief?: boolean
  }>(),
  { change_h: 0, carried_h: undefined, label: 'Take it', brief: false },
)
const emit = defineEmits<{ take: [] }>()
const { assessment } = storeToRefs(useDesign())
const lost_h = computed(() => {
  const now_h = assessment.value?.outage.hours_carried_h
  const change_h =
    props.carried_h === undefined || now_h === undefined ? props.change_h : props.carried_h - now_h
  return Math.round(change_h * 60) < 0 ? -change_h : 0
})
const text = computed(() => {
  if (lost_h.value === 0) return props.label
  return props.brief
    ? `${props.label}, ${hoursChange(-lost_h.value)}`
    : `${props.label}, losing ${hours(lost_h.value)}`
})
</script>

<template>
  <button
    type="button"
    class="take"
    :class="{ loses: lost_h > 0 }"
    :title="lost_h > 0 ? 'Fewer hours carried than now' : undefined"
    @click="emit('take')"
  >
    {{ text }}
  </button>
</template>

<style scoped>
.take {
  white-space: nowrap;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.loses {
  color: var(--wine);
}
</style>
