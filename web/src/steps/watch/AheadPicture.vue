<script setup lang="ts">
/** The charge ahead, hour by hour: by the forecast with its band, and where nobody does anything. */
import { computed } from 'vue'

import type { WatchView } from '@/api/client'
import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { calendarDay } from '@/shared/format'

import { after, at } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
/** At least and at most so many hours are drawn, and so many beyond help [h]. */
const [LEAST_H, MOST_H, BEYOND_H] = [24, 120, 12]

const start = computed(() => (props.view.phase === 'before' ? props.view.begun : props.view.now))
const help_h = computed(() => (Date.parse(`${props.view.help}Z`) - Date.parse(`${start.value}Z`)) / 3_600_000)
const count = computed(() => {
  const wanted = Math.min(Math.max(help_h.value + BEYOND_H, LEAST_H), MOST_H)
  return Math.min(Math.round(wanted) + 1, props.view.ahead.in_h.length)
})
const places = computed(() =>
  props.view.ahead.in_h.slice(0, count.value).map((hour) => at(after(start.value, hour), props.now)),
)
const inPercent = (values: readonly number[]) =>
  values.slice(0, count.value).map((value) => Math.round(value * 1000) / 10)
const series = computed<ChartSeries[]>(() => {
  const { ahead } = props.view
  const shown: ChartSeries[] = [
    {
      key: 'high',
      title: 'best of nine in ten',
      kind: 'line',
      role: 'slate',
      values: inPercent(ahead.high_frac),
      dash: '2 3',
    },
    {
      key: 'charge',
      title: 'by the forecast',
      kind: 'line',
      role: 'ember',
      values: inPercent(ahead.charge_frac),
    },
    {
      key: 'low',
      title: 'worst of nine in ten',
      kind: 'line',
      role: 'slate',
      values: inPercent(ahead.low_frac),
      dash: '5 3',
    },
  ]
  if (props.view.phase !== 'quiet' && props.view.phase !== 'after')
    shown.push({
      key: 'nothing',
      title: 'if nothing is done',
      kind: 'line',
      role: 'wine',
      values: inPercent(ahead.nothing_frac),
      dash: '1 4',
    })
  return shown
})
/** Midnights, by the day that begins there; a long look ahead names every second. */
const ticks = computed(() => {
  const found: { at: number; label: string }[] = []
  for (let hour = 0; hour < count.value; hour++) {
    const moment = after(start.value, hour)
    if (moment.slice(11, 13) === '00') found.push({ at: hour, label: calendarDay(moment, 0) })
  }
  return found
})
const flag = computed(() =>
  props.view.phase === 'on' && help_h.value > 0 && help_h.value < count.value - 1
    ? { at: help_h.value, label: props.view.help_is_told ? 'help' : 'end of the plan' }
    : null,
)
</script>

<template>
  <section aria-label="The charge ahead" data-test="watch-ahead">
    <AxisChart
      label="Charge of the bank in the hours ahead"
      :series="series"
      :places="places"
      :ticks="ticks"
      unit="%"
      :height="210"
      :far="6"
      :every="3"
      :flag="flag"
      :up-to="94"
    />
  </section>
</template>
