<script setup lang="ts">
/** A button that takes what stands beside it into the design; what loses hours says so before it is pressed. */
import { computed } from 'vue'

import { hours } from './format'

const props = withDefaults(
  defineProps<{
    /** Hours carried gained by taking it, negative when lost; not given where they are not known. */
    change_h?: number | undefined
    label?: string
  }>(),
  { change_h: 0, label: 'Take it' },
)
const emit = defineEmits<{ take: [] }>()
const lost_h = computed(() => (Math.round(props.change_h * 60) < 0 ? -props.change_h : 0))
</script>

<template>
  <button type="button" class="take" :class="{ loses: lost_h > 0 }" @click="emit('take')">
    {{ lost_h > 0 ? `${label}, losing ${hours(lost_h)}` : label }}
  </button>
</template>

<style scoped>
.take {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.loses {
  color: var(--wine);
}
</style>
