<script setup lang="ts">
/** The one-line diagram as the core lays it out; run and row light up together, by hovering and by keys. */
import { computed, ref, useTemplateRef } from 'vue'

import type { RunRow, WiringSheet } from '@/api/client'
import { count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import { saveTable } from '@/sheets/files'
import PictureFiles from '@/charts/PictureFiles.vue'

import OneLineTexts from './OneLineTexts.vue'
import type { Wiring } from './useWiring'

const props = defineProps<{ sheet: WiringSheet; wiring: Wiring }>()
const emit = defineEmits<{ open: [] }>()
const marked = defineModel<string>('marked', { required: true })
const trouble = ref('')
const drawing = computed(() => props.sheet.one_line)
/** A part that is pointed at, where it is no run. */
const part = ref('')
/** Kinds that sit in a line and part it. */
const IN_LINE = ['fuse', 'breaker', 'disconnect', 'shunt', 'inlet', 'no_device']
const pathOf = (strokes: readonly (readonly (readonly number[])[])[]) =>
  strokes.map((stroke) => 'M' + stroke.map(([x, y]) => `${x} ${y}`).join('L')).join('')
const run = computed(() => props.sheet.runs.find((entry) => entry.key === marked.value) ?? null)
const told = computed(() => {
  if (part.value) return part.value
  const found = run.value
  if (!found) return 'Point at a part or a run; with the picture in focus, arrow keys go from run to run.'
  return [
    found.label,
    found.conductor,
    found.device,
    `carries ${count(found.current_a)} A`,
    found.fault_a == null ? '' : `fault ${count(found.fault_a)} A`,
  ]
    .filter(Boolean)
    .join(', ')
})

function look(key: string | null, title: string): void {
  marked.value = key ?? ''
  part.value = key ? '' : title
}

function onKey(event: KeyboardEvent): void {
  const keys = props.sheet.runs.map((entry) => entry.key)
  const by = ['ArrowRight', 'ArrowDown'].includes(event.key)
    ? 1
    : ['ArrowLeft', 'ArrowUp'].includes(event.key)
      ? -1
      : 0
  if (event.key === 'Enter' && marked.value) emit('open')
  else if (by) look(keys[(keys.indexOf(marked.value) + by + keys.length) % keys.length] ?? null, '')
  else return
  event.preventDefault()
}

async function save(): Promise<void> {
  const design = props.wiring.document.value
  if (design) trouble.value = await saveTable(design, '/api/wiring/one-line-svg', 'one-line.svg')
}
const row = (entry: RunRow) => [entry.conductor, entry.device].filter(Boolean).join(', ')
const picture = useTemplateRef<SVGSVGElement>('picture')
</script>

<template>
  <div>
    <div class="head">
      <p class="told" role="status" data-test="told">{{ told }}</p>
      <span v-if="trouble" class="bad" role="alert">{{ trouble }}</span>
      <button type="button" class="tool" data-test="save-svg" @click="save">Save SVG for print</button>
      <PictureFiles label="One-line diagram" :picture="() => picture" />
    </div>
    <WideTable label="One-line diagram" has-file>
      <svg
        ref="picture"
        class="one-line"
        :style="{ minWidth: `${0.8 * drawing.width_px}px` }"
        :viewBox="`0 0 ${drawing.width_px} ${drawing.height_px}`"
        tabindex="0"
        role="group"
        aria-label="One-line diagram"
        data-test="one-line"
        @keydown="onKey"
      >
        <g
          v-for="line in drawing.lines"
          :key="line.key"
          class="line"
          :class="{ run: line.is_run, inside: line.is_inside, marked: line.is_run && line.key === marked }"
          :data-line="line.key"
          @mouseenter="look(line.is_run ? line.key : null, line.title)"
          @click="line.is_run && emit('open')"
        >
          <path :d="pathOf(line.strokes)" class="reach" />
          <path :d="pathOf(line.strokes)" />
          <circle v-for="([x, y], at) in line.dots" :key="at" :cx="x" :cy="y" r="2.6" />
          <OneLineTexts :texts="line.texts" />
        </g>
        <g
          v-for="symbol in drawing.symbols"
          :key="symbol.key"
          class="symbol"
          :class="{
            marked: symbol.run != null && symbol.run === marked,
            bus: symbol.kind === 'bus',
            none: symbol.kind === 'no_device',
          }"
          :data-symbol="symbol.key"
          @mouseenter="look(symbol.run ?? null, symbol.title)"
          @click="symbol.run && emit('open')"
        >
          <rect
            v-if="IN_LINE.includes(symbol.kind)"
            class="gap"
            :x="symbol.x - symbol.width_px / 2"
            :y="symbol.y - symbol.height_px / 2"
            :width="symbol.width_px"
            :height="symbol.height_px"
          />
          <path :d="symbol.path" :transform="`translate(${symbol.x} ${symbol.y})`" />
          <OneLineTexts :texts="symbol.texts" />
        </g>
        <OneLineTexts :texts="drawing.notes" />
      </svg>
    </WideTable>
    <ul class="legend" aria-label="Symbols">
      <li v-for="entry in drawing.legend" :key="entry.kind">
        <svg
          :viewBox="`${-entry.width_px / 2 - 1} ${-entry.height_px / 2 - 1} ${entry.width_px + 2} ${entry.height_px + 2}`"
          aria-hidden="true"
        >
          <path :d="entry.path" />
        </svg>
        {{ entry.means }}
      </li>
    </ul>
    <table class="ledger rows" data-test="one-line-rows">
      <tbody>
        <tr
          v-for="entry in sheet.runs"
          :key="entry.key"
          :class="{ marked: entry.key === marked }"
          :data-row="entry.key"
          @mouseenter="look(entry.key, '')"
          @click="emit('open')"
        >
          <td>{{ entry.label }}</td>
          <td class="number">{{ entry.kind === 'ground' ? '' : `${count(entry.current_a)} A` }}</td>
          <td>{{ row(entry) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  gap: 16px;
  align-items: baseline;
  min-height: 40px;
}

.told {
  flex: 1;
  font-size: 13.5px;
}

.tool {
  color: var(--pine);
  font-weight: 600;
  white-space: nowrap;
}

.bad {
  color: var(--wine);
}

.one-line {
  display: block;
  width: 100%;
  max-height: 1400px;
  cursor: default;
}

path {
  fill: none;
  stroke: var(--ink);
  stroke-linejoin: round;
}

.line path {
  stroke-width: 0.8;
}

.line.run path {
  stroke-width: 1.4;
}

.line.inside path {
  stroke-dasharray: 4 3;
}

.line path.reach {
  stroke: transparent;
  stroke-width: 12;
}

.line circle {
  fill: var(--ink);
}

.line.marked path:not(.reach) {
  stroke-width: 3;
}

.marked :deep(text) {
  font-weight: 700;
}

.symbol path {
  fill: var(--paper);
  stroke-width: 1.1;
}

.symbol .gap {
  fill: var(--paper);
  stroke: none;
}

.symbol.bus path {
  fill: var(--ink);
}

.symbol.marked path {
  stroke-width: 2.2;
}

.symbol.none path {
  stroke: var(--wine);
  stroke-width: 2;
}

.legend {
  list-style: none;
  padding: 0;
  margin: 6px 0 12px;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  font-size: 12.5px;
  color: var(--slate);
}

.legend li {
  display: flex;
  align-items: center;
  gap: 6px;
}

.legend svg {
  height: 18px;
  width: 30px;
}

.legend path {
  stroke: var(--slate);
}

.rows td {
  font-size: 13.5px;
}

.rows tr {
  cursor: pointer;
}

tr.marked td {
  background: color-mix(in srgb, var(--sun) 22%, transparent);
}
</style>
