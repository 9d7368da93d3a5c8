<script setup lang="ts">
/** Single failures as a ladder of hours, the worst at the top; read by hovering, by keys, and as a table. */
import { useElementSize } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, ref, useId, useTemplateRef } from 'vue'

import type { Failure } from '@/api/client'
import PictureTools from '@/charts/PictureTools.vue'
import { count, hours, percent, sharePercent } from '@/shared/format'

import AskedAnew from './AskedAnew.vue'
import { useFailures } from './trials'

const store = useFailures()
const { value: found } = storeToRefs(store)
const ROW = 23
const TOP = 18
const clip = useId()
const plot = useTemplateRef('plot')
const { width } = useElementSize(plot)
const at = ref<number | null>(null)
const label = 'Hours carried with one thing wrong'

const rows = computed(() => found.value?.failures ?? [])
/** Title, bar, hours, share of starts. */
const columns = computed(() => {
  const title = Math.min(Math.max(width.value * 0.34, 120), 330)
  return { title, bar: title + 8, end: width.value - 138, hours: width.value - 66, share: width.value - 4 }
})
const x = (time_h: number) =>
  columns.value.bar +
  ((columns.value.end - columns.value.bar) * time_h) / Math.max(found.value?.duration_h ?? 1, 1e-9)
const y = (row: number) => TOP + row * ROW
const reading = computed(() => (at.value === null ? null : (rows.value[at.value] ?? null)))

function spareText(failure: Failure): string {
  const spare = failure.spare
  if (!spare) return ''
  const cost = spare.price == null ? '' : ` for ${count(spare.price)}`
  const buys =
    spare.hours_h > 1 / 120
      ? `buys ${hours(spare.hours_h)}`
      : spare.starts_frac > 0.0005
        ? `buys ${sharePercent(spare.starts_frac)} of the starts`
        : 'buys nothing'
  return `A spare ${spare.name}${cost} ${buys}.`
}
const chanceText = (failure: Failure) =>
  failure.mean_carried_h == null || failure.chance_frac == null
    ? ''
    : `At its ${percent(failure.chance_frac)} of starts that fail: ${hours(failure.mean_carried_h)} on the mean.`

function move(event: PointerEvent): void {
  const box = plot.value?.getBoundingClientRect()
  if (!box) return
  const row = Math.floor((event.clientY - box.top - TOP) / ROW)
  at.value = row >= 0 && row < rows.value.length ? row : null
}

function onKey(event: KeyboardEvent): void {
  const last = rows.value.length - 1
  const next: Record<string, number> = {
    ArrowDown: Math.min((at.value ?? -1) + 1, last),
    ArrowUp: Math.max((at.value ?? 1) - 1, 0),
    Home: 0,
    End: last,
  }
  const row = next[event.key]
  if (event.key === 'Escape') at.value = null
  else if (row === undefined) return
  else at.value = row
  event.preventDefault()
}

const tableRows = () => [
  ['One thing wrong', 'Carried, h', 'Lost, h', 'Starts carried, %', 'Lost, %', 'Spare', 'Price'],
  ...rows.value.map((row) => [
    row.title,
    Math.round(row.outlook.carried_h * 100) / 100,
    Math.round(row.lost_h * 100) / 100,
    Math.round(row.outlook.keep_frac * 1000) / 10,
    Math.round(row.lost_frac * 1000) / 10,
    row.spare?.name ?? '',
    row.spare?.price ?? '',
  ]),
]
</script>

<template>
  <div>
    <AskedAnew :answer="store" :has="found !== null" doing="Living through each failure" />
    <figure v-if="found" class="ladder">
      <p class="reading" aria-live="polite" data-test="failure-reading">
        <template v-if="reading"
          ><b>{{ reading.title }}.</b> {{ reading.assumes }} {{ spareText(reading) }}
          {{ chanceText(reading) }}</template
        >
        <template v-else>
          With nothing wrong: {{ hours(found.sound.carried_h) }} of {{ hours(found.duration_h) }}, and
          {{ sharePercent(found.sound.keep_frac) }} of the year’s starts. Point at a row for what is assumed
          and what a spare buys.
        </template>
      </p>
      <div
        ref="plot"
        class="plot"
        tabindex="0"
        role="group"
        :aria-label="`${label}; arrow keys read it`"
        data-test="failures"
        @pointermove="move"
        @pointerdown="move"
        @pointerleave="at = null"
        @keydown="onKey"
        @blur="at = null"
      >
        <svg v-if="width > 80" :width="width" :height="y(rows.length) + 6" aria-hidden="true">
          <clipPath :id="clip"><rect x="0" y="0" :width="columns.title" :height="y(rows.length)" /></clipPath>
          <text :x="columns.hours" :y="TOP - 6" text-anchor="end">carried</text>
          <text :x="columns.share" :y="TOP - 6" text-anchor="end">starts</text>
          <g v-for="(row, rowAt) in rows" :key="row.key" :data-test="`failure-${row.key}`">
            <rect
              v-if="at === rowAt"
              data-cursor
              class="here"
              x="0"
              :y="y(rowAt)"
              :width="width"
              :height="ROW"
            />
            <text class="title" x="2" :y="y(rowAt) + 16" :clip-path="`url(#${clip})`">{{ row.title }}</text>
            <rect
              class="whole"
              :x="columns.bar"
              :y="y(rowAt) + 5"
              :width="Math.max(x(found.sound.carried_h) - columns.bar, 0)"
              :height="ROW - 10"
            />
            <rect
              class="left"
              :x="columns.bar"
              :y="y(rowAt) + 5"
              :width="Math.max(x(row.outlook.carried_h) - columns.bar, 0)"
              :height="ROW - 10"
            />
            <text class="figures value" :x="columns.hours" :y="y(rowAt) + 16" text-anchor="end">
              {{ hours(row.outlook.carried_h) }}
            </text>
            <text class="figures value" :x="columns.share" :y="y(rowAt) + 16" text-anchor="end">
              {{ sharePercent(row.outlook.keep_frac) }}
            </text>
          </g>
          <line
            class="sound"
            :x1="x(found.sound.carried_h)"
            :x2="x(found.sound.carried_h)"
            :y1="TOP - 2"
            :y2="y(rows.length)"
          />
          <text :x="x(found.sound.carried_h) - 4" :y="TOP - 6" text-anchor="end">nothing wrong</text>
        </svg>
      </div>
      <PictureTools :label="label" :picture="() => plot?.querySelector('svg')" :rows="tableRows">
        <table class="ledger" data-test="failure-table">
          <thead>
            <tr>
              <th scope="col">One thing wrong</th>
              <th scope="col" class="number">Carried</th>
              <th scope="col" class="number">Lost</th>
              <th scope="col" class="number">Starts</th>
              <th scope="col" class="number">Lost</th>
              <th scope="col">A spare</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in rows" :key="row.key">
              <td class="name">{{ row.title }}</td>
              <td class="number">{{ hours(row.outlook.carried_h) }}</td>
              <td class="number">{{ hours(row.lost_h) }}</td>
              <td class="number">{{ sharePercent(row.outlook.keep_frac) }}</td>
              <td class="number">{{ percent(row.lost_frac) }}</td>
              <td>{{ spareText(row) || chanceText(row) }}</td>
            </tr>
          </tbody>
        </table>
      </PictureTools>
    </figure>
  </div>
</template>

<style scoped>
.ladder {
  min-width: 0;
}

.reading {
  min-height: 38px;
  margin: 0 0 2px;
  font-size: 13px;
}

.plot {
  min-width: 0;
  overflow: hidden;
  touch-action: pan-y;
}

.plot svg {
  display: block;
}

text {
  font-size: 12px;
  fill: var(--slate);
}

.title,
.value {
  font-size: 13px;
  fill: var(--ink);
}

.name {
  overflow-wrap: anywhere;
}

.whole {
  fill: var(--ember);
  fill-opacity: 0.18;
}

.left {
  fill: var(--ember);
}

.sound {
  stroke: var(--ink);
  stroke-dasharray: 4 3;
}

.here {
  fill: var(--sheet);
}
</style>
