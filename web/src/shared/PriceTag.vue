<script setup lang="ts">
/** What a change does: hours carried gained, or, once the outage is carried either way, lowest charge gained. */
import { computed } from 'vue'

import type { Price } from '@/api/client'

import { hoursChange } from './format'

const props = defineProps<{ price: Price | null | undefined }>()

const isNothing = computed(() => Math.round(Math.abs(props.price?.gain_h ?? 0) * 60) === 0)
const points = computed(() => Math.round((props.price?.lowest_soc_gain_frac ?? 0) * 100))
const text = computed(() => {
  if (!props.price) return '–'
  if (!isNothing.value) return hoursChange(props.price.gain_h)
  return points.value === 0 ? '±0 h' : `${points.value > 0 ? '+' : '−'}${Math.abs(points.value)} % low`
})
const isGain = computed(() => (isNothing.value ? points.value > 0 : (props.price?.gain_h ?? 0) > 0))
const isLoss = computed(() => (isNothing.value ? points.value < 0 : (props.price?.gain_h ?? 0) < 0))
const meaning = computed(() =>
  isNothing.value && points.value !== 0
    ? 'Hours carried stay; the lowest charge changes by this many points'
    : 'Hours carried',
)
</script>

<template>
  <span class="figures price" :class="{ gain: isGain, loss: isLoss }" :title="meaning">{{ text }}</span>
</template>

<style scoped>
.price {
  white-space: nowrap;
}

.gain {
  color: var(--pine);
}

.loss {
  color: var(--wine);
}
</style>
