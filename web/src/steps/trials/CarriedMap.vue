<script setup lang="ts">
/** Months by length of outage: the darker a cell, the fewer starts are carried. Read by hovering, by keys, and as a table. */
import { useElementSize, useWindowSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import type { CarriedCell, Trials } from '@/api/client'
import PictureTools from '@/charts/PictureTools.vue'
import { count, sharePercent } from '@/shared/format'

import { bandOf, BANDS, lengthText, MONTHS, shareOf, type Whom } from './words'

const props = defineProps<{ trials: Trials; whom: Whom }>()
const LEFT = 62
const TOP = 20
/** Between December and the whole year. */
const GAP = 10
const COLUMNS = 13
const plot = useTemplateRef('plot')
const { width } = useElementSize(plot)
const { height: windowHeight } = useWindowSize()
/** Height of a row: the picture grows with the window. */
const row_px = computed(() => Math.min(Math.max(Math.round(windowHeight.value * 0.035), 28), 44))
/** Row and column under the pointer or the keys. */
const at = ref<{ row: number; column: number } | null>(null)

const rows = computed(() =>
  props.trials.lengths_h.map((length_h) => ({
    length_h,
    isPlanned: length_h === props.trials.planned_h,
    /** January to December, then the year. */
    cells: [...Array.from({ length: 12 }, (_, month) => month + 1), null].map((month) =>
      props.trials.cells.find((cell) => cell.length_h === length_h && (cell.month ?? null) === month),
    ),
  })),
)
const cellWidth = computed(() => Math.max((width.value - LEFT - GAP) / COLUMNS, 18))
const x = (column: number) => LEFT + column * cellWidth.value + (column === 12 ? GAP : 0)
const y = (row: number) => TOP + row * row_px.value
const names = [...MONTHS, 'Year']
const share = (cell: CarriedCell | undefined) => shareOf(cell, props.whom)
const reading = computed(() => {
  const cell = at.value && rows.value[at.value.row]?.cells[at.value.column]
  if (!cell || !at.value) return null
  return {
    when: `${names[at.value.column]}, ${lengthText(cell.length_h)}`,
    text: `Life and Keep carried from ${sharePercent(cell.keep_frac)} of ${count(cell.starts)} starts, Life from ${sharePercent(cell.life_frac)}`,
  }
})
const label = 'Starts carried, by month and length of outage'

function move(event: PointerEvent): void {
  const box = plot.value?.getBoundingClientRect()
  if (!box) return
  const across = event.clientX - box.left
  const column = across >= x(12) ? 12 : Math.floor((across - LEFT) / cellWidth.value)
  const row = Math.floor((event.clientY - box.top - TOP) / row_px.value)
  const isInside = row >= 0 && row < rows.value.length && column >= 0 && column < COLUMNS
  at.value = isInside ? { row, column } : null
}

function onKey(event: KeyboardEvent): void {
  const steps: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
    Home: [0, -COLUMNS],
    End: [0, COLUMNS],
  }
  const step = steps[event.key]
  if (event.key === 'Escape') at.value = null
  else if (!step) return
  else if (!at.value) at.value = { row: 0, column: 0 }
  else {
    const within = (value: number, most: number) => Math.min(Math.max(value, 0), most)
    at.value = {
      row: within(at.value.row + step[0], rows.value.length - 1),
      column: within(at.value.column + step[1], COLUMNS - 1),
    }
  }
  event.preventDefault()
}

const tableRows = () => [
  ['Length, h', ...names.map((name) => `${name}, %`)],
  ...rows.value.map((row) => [row.length_h, ...row.cells.map((cell) => Math.round(1000 * share(cell)) / 10)]),
]
</script>

<template>
  <figure class="map">
    <p class="reading" aria-live="polite" data-test="map-reading">
      <template v-if="reading"
        ><b>{{ reading.when }}</b> {{ reading.text }}</template
      >
      <template v-else>
        <span v-for="(band, index) in BANDS" :key="band.title" class="key">
          <svg width="16" height="11" aria-hidden="true">
            <rect class="cell" :class="`band-${index}`" x="0.5" y="0.5" width="15" height="10" />
          </svg>
          {{ band.title }}
        </span>
        <span class="lesser">of the starts carried</span>
      </template>
    </p>
    <div
      ref="plot"
      class="plot"
      tabindex="0"
      role="group"
      :aria-label="`${label}; arrow keys read it`"
      data-test="carried-map"
      @pointermove="move"
      @pointerdown="move"
      @pointerleave="at = null"
      @keydown="onKey"
      @blur="at = null"
    >
      <svg v-if="width > 80" :width="width" :height="y(rows.length) + 4" aria-hidden="true">
        <text
          v-for="(name, column) in names"
          :key="name"
          :x="x(column) + cellWidth / 2"
          :y="TOP - 6"
          text-anchor="middle"
          class="name"
        >
          {{ cellWidth < 34 ? name.slice(0, 1) : name }}
        </text>
        <g v-for="(row, rowAt) in rows" :key="row.length_h">
          <text
            class="length"
            :class="{ planned: row.isPlanned }"
            :x="LEFT - 8"
            :y="y(rowAt) + row_px / 2 + 4"
            text-anchor="end"
          >
            {{ lengthText(row.length_h) }}
          </text>
          <template v-for="(cell, column) in row.cells" :key="column">
            <rect
              class="cell"
              :class="`band-${bandOf(share(cell))}`"
              :x="x(column)"
              :y="y(rowAt)"
              :width="cellWidth"
              :height="row_px"
              :data-test="`cell-${row.length_h}-${cell?.month ?? 'year'}`"
            />
            <text
              class="share figures"
              :class="{ light: bandOf(share(cell)) === BANDS.length - 1, narrow: cellWidth < 30 }"
              :x="x(column) + cellWidth / 2"
              :y="y(rowAt) + row_px / 2 + 4"
              text-anchor="middle"
            >
              {{ sharePercent(share(cell)).replace(' %', '') }}
            </text>
          </template>
          <path
            v-if="row.isPlanned"
            class="frame"
            :d="`M${x(0)} ${y(rowAt)}h${12 * cellWidth}v${row_px}h${-12 * cellWidth}zM${x(12)} ${y(rowAt)}h${cellWidth}v${row_px}h${-cellWidth}z`"
          />
        </g>
        <rect
          v-if="at"
          data-cursor
          class="here"
          :x="x(at.column) + 1"
          :y="y(at.row) + 1"
          :width="cellWidth - 2"
          :height="row_px - 2"
        />
      </svg>
    </div>
    <PictureTools :label="label" :picture="() => plot?.querySelector('svg')" :rows="tableRows">
      <table class="ledger" data-test="map-table">
        <thead>
          <tr>
            <th scope="col">Carried, %</th>
            <th v-for="name in names" :key="name" scope="col" class="number">{{ name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.length_h">
            <th scope="row">{{ lengthText(row.length_h) }}{{ row.isPlanned ? ', planned' : '' }}</th>
            <td v-for="(cell, column) in row.cells" :key="column" class="number">
              {{ (100 * share(cell)).toFixed(1) }}
            </td>
          </tr>
        </tbody>
      </table>
    </PictureTools>
  </figure>
</template>

<style scoped>
.map {
  min-width: 0;
}

.reading {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  min-height: 20px;
  margin: 0 0 2px;
  font-size: 13px;
}

.key {
  white-space: nowrap;
}

.key svg {
  display: inline-block;
  vertical-align: -1px;
}

.plot {
  min-width: 0;
  overflow: hidden;
  cursor: crosshair;
  touch-action: pan-y;
}

.plot svg {
  display: block;
}

text {
  font-size: 12px;
  fill: var(--slate);
}

.planned {
  font-weight: 700;
  fill: var(--ink);
}

.cell {
  fill: var(--ember-ink);
  stroke: var(--rule);
}

.band-0 {
  fill-opacity: 0;
}

.band-1 {
  fill-opacity: 0.1;
}

.band-2 {
  fill-opacity: 0.2;
}

.band-3 {
  fill-opacity: 0.32;
}

.band-4 {
  fill-opacity: 0.45;
}

.band-5 {
  fill-opacity: 0.95;
}

.share {
  fill: var(--ink);
}

.share.narrow {
  font-size: 10px;
  letter-spacing: -0.5px;
}

.share.light {
  fill: var(--sheet);
}

.frame,
.here {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}

.here {
  stroke-width: 2.4;
}

.table .number {
  padding: 0 4px;
  font-size: 13px;
}
</style>
