<script setup lang="ts">
/** Sun offered on each calendar day of the outage. */
import { computed } from 'vue'

import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { calendarDay } from '@/shared/format'

const props = defineProps<{ days_wh: readonly number[]; start: string }>()
/** Labels that stand beside each other without touching. */
const MOST_LABELS = 5
const places = computed(() => props.days_wh.map((_, index) => calendarDay(props.start, index)))
const series = computed<ChartSeries[]>(() => [
  {
    key: 'sun',
    title: 'sun offered',
    kind: 'bar',
    role: 'sun',
    values: props.days_wh.map((wattHours) => wattHours / 1000),
  },
])
const ticks = computed(() => {
  const every = Math.ceil(props.days_wh.length / MOST_LABELS)
  return places.value
    .map((place, at) => ({ at, label: place.slice(0, 6) }))
    .filter(({ at }) => at % every === 0)
})
</script>

<template>
  <AxisChart
    label="Sun offered on each day of the outage"
    :series="series"
    :places="places"
    :ticks="ticks"
    unit="kWh"
    :digits="1"
    :height="84"
  />
</template>
