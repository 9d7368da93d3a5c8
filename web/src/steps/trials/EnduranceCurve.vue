<script setup lang="ts">
/** The chance of lasting at least so long: for the year, and for each season. */
import { useWindowSize } from '@vueuse/core'
import { computed } from 'vue'

import type { Trials } from '@/api/client'
import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'

import { lengthText, type Whom } from './words'

const props = defineProps<{ trials: Trials; whom: Whom }>()
const ROLES = {
  year: { role: 'ink' },
  winter: { role: 'slate', dash: '7 3' },
  spring: { role: 'pine', dash: '2 2' },
  summer: { role: 'sun', dash: '10 3 2 3' },
  autumn: { role: 'umber', dash: '4 2 1 2' },
} as const

/** The picture grows with the window. */
const { height: windowHeight } = useWindowSize()
const height = computed(() => Math.min(Math.max(Math.round(windowHeight.value * 0.27), 210), 420))
const series = computed<ChartSeries[]>(() =>
  props.trials.curves.map((curve) => ({
    key: curve.key,
    title: curve.title,
    kind: 'line',
    ...ROLES[curve.key as keyof typeof ROLES],
    values: (props.whom === 'keep' ? curve.keep_frac : curve.life_frac).map((share) => 100 * share),
  })),
)
const stride_h = computed(() => props.trials.times_h[1] ?? 1)
const places = computed(() => props.trials.times_h.map((time_h) => `${time_h} h`))
const ticks = computed(() => {
  const longest = props.trials.times_h.at(-1) ?? 0
  const every_h = longest > 200 ? 72 : 24
  return Array.from({ length: Math.floor(longest / every_h) + 1 }, (_, index) => ({
    at: (index * every_h) / stride_h.value,
    label: index ? lengthText(index * every_h) : '0',
  }))
})
</script>

<template>
  <AxisChart
    :label="`Share of starts that last at least so long, ${whom === 'keep' ? 'Life and Keep' : 'Life alone'}`"
    :series="series"
    :places="places"
    :ticks="ticks"
    unit="%"
    :digits="1"
    :height="height"
    :far="24 / stride_h"
    :every="Math.max(1, Math.round(12 / stride_h))"
    :up-to="100"
    :flag="{ at: trials.planned_h / stride_h, label: `planned, ${lengthText(trials.planned_h)}` }"
  />
</template>
