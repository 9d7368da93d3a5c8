<script setup lang="ts">
/** The layout board to scale: parts with the room they ask for, moved by mouse or arrow keys; cable lengths follow. */
import { computed, ref, useTemplateRef } from 'vue'

import type { BoardPart, WiringSheet } from '@/api/client'
import QuantityField from '@/fields/QuantityField.vue'
import { cableLength } from '@/fields/units'
import { amount, count } from '@/shared/format'
import PictureFiles from '@/charts/PictureFiles.vue'

import type { Wiring } from './useWiring'

const props = defineProps<{ sheet: WiringSheet; wiring: Wiring }>()
const STEP_MM = 10
const LARGE_STEP_MM = 100
const drawing = useTemplateRef('drawing')
const picked = ref('')
/** A part under way: where it was taken, and how far it has come. */
const moving = ref<{ key: string; fromX: number; fromY: number; dx: number; dy: number } | null>(null)
const design = computed(() => props.wiring.document.value)
const board = computed(() => ({
  width_mm: design.value?.wiring?.board?.width_mm ?? 2000,
  height_mm: design.value?.wiring?.board?.height_mm ?? 1800,
}))
/** No board is larger; what is typed beyond it is refused, and drawn no further [mm]. */
const MOST_MM = 20_000
/** With the parts that reach over the edge. */
const whole = computed(() => {
  const right = Math.max(
    Math.min(board.value.width_mm, MOST_MM),
    ...props.sheet.board.map((part) => part.x_mm + part.width_mm),
  )
  const top = Math.max(
    Math.min(board.value.height_mm, MOST_MM),
    ...props.sheet.board.map((part) => part.y_mm + part.height_mm),
  )
  return { width: right + 40, height: top + 40 }
})
const letter = computed(() => whole.value.width / 46)
const placeOf = (part: BoardPart) => {
  const by = moving.value?.key === part.key ? moving.value : null
  return {
    x: part.x_mm + (by?.dx ?? 0),
    y: whole.value.height - 20 - part.y_mm - part.height_mm - (by?.dy ?? 0),
  }
}
const lines = computed(() => {
  const step = 500
  const across = Array.from({ length: Math.floor(whole.value.width / step) + 1 }, (_, at) => at * step)
  const up = Array.from({ length: Math.floor(whole.value.height / step) + 1 }, (_, at) => at * step)
  return { across, up }
})
const shown = computed(() => props.sheet.board.find((part) => part.key === picked.value) ?? null)
const ends = computed(() => props.sheet.runs.filter((run) => run.board_ends.includes(picked.value)))
const unit = computed(() => (design.value ? cableLength(design.value) : null))

/** A character's width as a part of its height. */
const CHARACTER = 0.6
/** A part's letters: smaller where its longest word would not fit its front. */
function lettersOf(part: BoardPart): number {
  const longest = Math.max(...part.name.split(' ').map((word) => word.length))
  const fitting = (part.width_mm - 0.6 * letter.value) / (longest * CHARACTER)
  return Math.min(letter.value, Math.max(fitting, 0.72 * letter.value))
}

/** A name in lines that fit a part's front; a word that is too long even so goes on in the next line. */
function named(part: BoardPart): string[] {
  const size = lettersOf(part)
  const most = Math.max(3, Math.floor((part.width_mm - 0.5 * size) / (size * CHARACTER)))
  const rows = Math.max(1, Math.floor(part.height_mm / (size * 1.2)))
  const words = part.name.split(' ').flatMap((word) => word.match(new RegExp(`.{1,${most}}`, 'gu')) ?? [])
  const found: string[] = []
  for (const word of words) {
    const last = found.at(-1)
    if (last !== undefined && last.length + word.length < most) found[found.length - 1] = `${last} ${word}`
    else found.push(word)
  }
  return found.length > rows ? [...found.slice(0, rows - 1), '…'] : found
}

function take(event: PointerEvent, part: BoardPart): void {
  picked.value = part.key
  moving.value = { key: part.key, fromX: event.clientX, fromY: event.clientY, dx: 0, dy: 0 }
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
}

function move(event: PointerEvent): void {
  const way = moving.value
  const width = drawing.value?.getBoundingClientRect().width
  if (!way || !width) return
  const scale = whole.value.width / width
  moving.value = { ...way, dx: (event.clientX - way.fromX) * scale, dy: (way.fromY - event.clientY) * scale }
}

function drop(part: BoardPart): void {
  const way = moving.value
  moving.value = null
  if (!way || Math.hypot(way.dx, way.dy) < STEP_MM / 2) return
  const snapped = (value: number) => Math.round(value / STEP_MM) * STEP_MM
  props.wiring.place(part.key, snapped(part.x_mm + way.dx), snapped(part.y_mm + way.dy))
}

function onKey(event: KeyboardEvent, part: BoardPart): void {
  const step = event.shiftKey ? LARGE_STEP_MM : STEP_MM
  const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key]
  if (!way) return
  event.preventDefault()
  picked.value = part.key
  props.wiring.place(part.key, part.x_mm + step * (way[0] ?? 0), part.y_mm + step * (way[1] ?? 0))
}
</script>

<template>
  <div v-if="design" class="board">
    <div>
      <svg
        ref="drawing"
        :viewBox="`-20 0 ${whole.width} ${whole.height}`"
        role="group"
        aria-label="Layout board, millimetres"
        data-test="board"
      >
        <g class="grid">
          <line v-for="x in lines.across" :key="`x${x}`" :x1="x" :x2="x" y1="0" :y2="whole.height - 20" />
          <line
            v-for="y in lines.up"
            :key="`y${y}`"
            x1="0"
            :x2="whole.width - 40"
            :y1="whole.height - 20 - y"
            :y2="whole.height - 20 - y"
          />
        </g>
        <rect
          class="edge"
          x="0"
          :y="whole.height - 20 - board.height_mm"
          :width="board.width_mm"
          :height="board.height_mm"
        />
        <g
          v-for="part in sheet.board"
          :key="part.key"
          class="part"
          :class="{ picked: part.key === picked, battery: part.kind === 'battery' }"
          :transform="`translate(${placeOf(part).x} ${placeOf(part).y})`"
          tabindex="0"
          role="button"
          :aria-label="`${part.name}, ${count(part.x_mm)} mm from the left, ${count(part.y_mm)} mm up; arrow keys move it`"
          :data-part="part.key"
          @focus="picked = part.key"
          @pointerdown="take($event, part)"
          @pointermove="move"
          @pointerup="drop(part)"
          @pointercancel="moving = null"
          @keydown="onKey($event, part)"
        >
          <rect
            class="room"
            :x="-part.clearance.left_mm"
            :y="-part.clearance.top_mm"
            :width="part.width_mm + part.clearance.left_mm + part.clearance.right_mm"
            :height="part.height_mm + part.clearance.top_mm + part.clearance.bottom_mm"
          />
          <rect class="front" :width="part.width_mm" :height="part.height_mm" />
          <text
            v-for="(line, at) in named(part)"
            :key="at"
            :x="lettersOf(part) * 0.3"
            :y="lettersOf(part) * (1 + 1.15 * at)"
            :font-size="lettersOf(part)"
          >
            {{ line }}
          </text>
        </g>
      </svg>
      <p class="files"><PictureFiles label="Layout board" :picture="() => drawing" /></p>
      <p class="lesser">
        Drag a part, or move it with the arrow keys, ten millimetres at a time, a hundred with Shift. Dotted:
        the room it asks for. Grid of half a metre.
      </p>
    </div>
    <aside>
      <div class="fields">
        <QuantityField path="wiring.board.width_mm" label="Board, wide" unit="mm" />
        <QuantityField path="wiring.board.height_mm" label="Board, high" unit="mm" />
      </div>
      <dl class="facts">
        <div>
          <dt>{{ sheet.is_portable ? 'On the cart, all told' : 'All told' }}</dt>
          <dd data-test="mass">{{ count(sheet.mass_kg) }} kg</dd>
        </div>
        <div>
          <dt>Hung on the board</dt>
          <dd>{{ count(sheet.hung_kg) }} kg</dd>
        </div>
      </dl>
      <template v-if="shown">
        <h2>{{ shown.name }}</h2>
        <p class="lesser">
          {{ count(shown.width_mm) }} × {{ count(shown.height_mm) }} × {{ count(shown.depth_mm) }} mm,
          {{ amount(Math.round(shown.mass_kg * 10) / 10) }} kg,
          {{ shown.is_known ? 'by its data sheet' : 'usual for its size' }}. Room for
          {{ shown.clearance_for }}.
        </p>
        <ul>
          <li v-for="run in ends" :key="run.key">
            {{ run.label }}
            <span class="figures"
              >{{ unit ? amount(Math.round(unit.show(run.length_m) * 10) / 10) : '' }} {{ unit?.label }}</span
            >
          </li>
        </ul>
        <button
          v-if="shown.is_placed"
          type="button"
          class="tool"
          @click="
            wiring.store.set(
              'wiring.board.places',
              wiring.places.value.filter((entry) => entry.part !== shown?.key),
            )
          "
        >
          Back to its usual place
        </button>
      </template>
      <p v-else class="lesser">Pick a part to see its size and the runs whose length follows it.</p>
    </aside>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 230px;
  gap: 18px;
}

svg {
  display: block;
  width: 100%;
  max-height: 760px;
  touch-action: none;
}

.grid line {
  stroke: var(--rule);
  stroke-width: 3;
}

.edge {
  fill: none;
  stroke: var(--ink);
  stroke-width: 6;
}

.part {
  cursor: grab;
}

.front {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 5;
}

.battery .front {
  stroke: var(--ember);
}

.room {
  fill: none;
  stroke: var(--slate);
  stroke-width: 3;
  stroke-dasharray: 10 12;
  pointer-events: none;
}

.picked .front,
.part:focus-visible .front {
  stroke-width: 12;
}

.part:focus {
  outline: none;
}

text {
  fill: var(--ink);
  pointer-events: none;
}

aside .fields,
.facts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 10px;
  margin-bottom: 10px;
}

p,
ul {
  font-size: 13px;
  margin: 6px 0;
}

ul {
  list-style: none;
  padding: 0;
}

li {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  border-bottom: 1px solid var(--rule);
  padding: 2px 0;
}

li .figures {
  white-space: nowrap;
}

.tool {
  color: var(--pine);
  font-weight: 600;
}

@media (max-width: 1050px) {
  .board {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
