<script setup lang="ts">
/** Sun offered on each calendar day of the outage. */
import { computed } from 'vue'

import { calendarDay, kilowattHours } from '@/shared/format'

const props = defineProps<{ days_wh: readonly number[]; start: string }>()
const WIDTH = 300
const HEIGHT = 70
const most = computed(() => Math.max(...props.days_wh, 1))
const bars = computed(() => {
  const width = WIDTH / props.days_wh.length
  return props.days_wh.map((wattHours, index) => ({
    index,
    x: index * width,
    width,
    height: (wattHours / most.value) * HEIGHT,
    value: kilowattHours(wattHours),
    day: calendarDay(props.start, index).slice(0, 6),
    isLabelled: width > 55,
  }))
})
</script>

<template>
  <svg
    :viewBox="`0 0 ${WIDTH} ${HEIGHT + 34}`"
    width="300"
    height="104"
    role="img"
    aria-label="Sun offered each day"
  >
    <g v-for="bar in bars" :key="bar.index">
      <rect :x="bar.x + 4" :y="16 + HEIGHT - bar.height" :width="bar.width - 8" :height="bar.height">
        <title>{{ bar.day }}: {{ bar.value }}</title>
      </rect>
      <template v-if="bar.isLabelled">
        <text :x="bar.x + bar.width / 2" :y="12 + HEIGHT - bar.height">{{ bar.value }}</text>
        <text :x="bar.x + bar.width / 2" :y="HEIGHT + 30">{{ bar.day }}</text>
      </template>
    </g>
    <line x1="0" :x2="WIDTH" :y1="16.5 + HEIGHT" :y2="16.5 + HEIGHT" />
  </svg>
</template>

<style scoped>
svg {
  flex: none;
}

rect {
  fill: var(--sun);
}

line {
  stroke: var(--ink);
}

text {
  font-size: 11.5px;
  fill: var(--slate);
  text-anchor: middle;
}
</style>
