<script setup lang="ts">
/**
 * The panel as it hangs on the wall: two columns of slots, legs two by two down the page (one column where there is one line).
 * Arrows go from slot to slot, Enter picks, B backs up or not, Alt with arrows moves a breaker; a breaker can be dragged too.
 */
import { storeToRefs } from 'pinia'
import { computed, nextTick, ref, useTemplateRef } from 'vue'

import type { Circuit } from '@/api/client'

import { useDesign } from '@/design/store'
import type { Panel } from './usePanel'
import { fateWord } from './words'

const { isOffGrid } = storeToRefs(useDesign())
const props = defineProps<{ panel: Panel }>()
const picked = defineModel<string>({ required: true })
const place = ref(1)
const grid = useTemplateRef('grid')
const dragged = ref('')
const over = ref(0)

interface Cell {
  slot: number
  circuit: Circuit | null
  /** The lower half of a two-pole breaker is drawn with its upper one. */
  span: number
  leg: string
}

const slotLegs = computed(() => props.panel.assessment.value?.transfer.slot_legs ?? [])
const deadSlots = computed(
  () => new Set((props.panel.assessment.value?.transfer.legs ?? []).flatMap((leg) => leg.dead_slots)),
)
const cells = computed<Cell[]>(() => {
  const { slots, taken, slotsOf } = props.panel
  const found: Cell[] = []
  for (let slot = 1; slot <= slots.value; slot += 1) {
    const circuit = taken.value.get(slot) ?? null
    if (circuit && circuit.slot !== slot) continue
    found.push({
      slot,
      circuit,
      span: circuit ? slotsOf(circuit).length : 1,
      leg: slotLegs.value[slot - 1] ?? '',
    })
  }
  return found
})
const hung = computed(() => {
  const byCircuit = new Map<string, string[]>()
  for (const load of props.panel.loads.value)
    if (load.circuit) byCircuit.set(load.circuit, [...(byCircuit.get(load.circuit) ?? []), load.name])
  return byCircuit
})

function rowOf(slot: number): number {
  return props.panel.stacked.value ? Math.floor((slot - 1) / 2) + 1 : slot
}
function columnOf(slot: number): number {
  return props.panel.stacked.value ? ((slot - 1) % 2) + 1 : 1
}
function fateOf(cell: Cell): string {
  if (!cell.circuit) return deadSlots.value.has(cell.slot) ? 'dead' : ''
  return props.panel.stateOf(cell.circuit.id)?.fate ?? ''
}
function described(cell: Cell): string {
  if (!cell.circuit)
    return `Slot ${cell.slot}, leg ${cell.leg}, empty${fateOf(cell) === 'dead' ? ', dead' : ''}`
  const { circuit } = cell
  const state = props.panel.stateOf(circuit.id)
  const loads = hung.value.get(circuit.id) ?? []
  return [
    `Slot ${props.panel.slotsOf(circuit).join(' and ')}`,
    `${circuit.breaker_a} A`,
    circuit.name,
    state?.why || fateWord(state?.fate, isOffGrid.value),
    loads.length ? `with ${loads.join(', ')}` : 'no load of the audit',
  ].join(', ')
}

function focusOn(slot: number): void {
  place.value = slot
  void nextTick(() => grid.value?.querySelector<HTMLElement>(`[data-slot="${slot}"]`)?.focus())
}

function pick(cell: Cell): void {
  place.value = cell.slot
  picked.value = cell.circuit?.id ?? ''
}

/** The slot next to one in a direction, over breakers of two poles. */
function nextTo(cell: Cell, key: string): number | null {
  const { stacked, slots, taken } = props.panel
  const step = stacked.value ? 2 : 1
  const by = { ArrowUp: -step, ArrowDown: step * cell.span, ArrowLeft: -1, ArrowRight: 1 }[key]
  if (by === undefined || (!stacked.value && Math.abs(by) === 1 && !key.match(/Up|Down/))) return null
  if (key === 'ArrowLeft' && columnOf(cell.slot) === 1) return null
  if (key === 'ArrowRight' && columnOf(cell.slot) === 2) return null
  const slot = cell.slot + by
  if (slot < 1 || slot > slots.value) return null
  return taken.value.get(slot)?.slot ?? slot
}

/** The nearest slot in a direction in which the breaker may stand. */
function move(circuit: Circuit, key: string): void {
  const { stacked, fits, change, slots } = props.panel
  const by = { ArrowUp: -1, ArrowDown: 1, ArrowLeft: 0, ArrowRight: 0 }[key]
  if (by === undefined) return
  const step = stacked.value ? 2 : 1
  if (by === 0) {
    const across = key === 'ArrowLeft' ? circuit.slot - 1 : circuit.slot + 1
    const from = columnOf(circuit.slot) === (key === 'ArrowLeft' ? 1 : 2) || !stacked.value ? 0 : across
    if (from && fits(circuit, from)) change(circuit.id, { slot: from })
    if (from) focusOn(from)
    return
  }
  for (let slot = circuit.slot + by * step; slot >= 1 && slot <= slots.value; slot += by * step) {
    if (!fits(circuit, slot)) continue
    change(circuit.id, { slot })
    focusOn(slot)
    return
  }
}

function onKey(event: KeyboardEvent, cell: Cell): void {
  if (event.ctrlKey || event.metaKey) return
  if (event.altKey) {
    if (!cell.circuit || !event.key.startsWith('Arrow')) return
    move(cell.circuit, event.key)
  } else if (event.key.startsWith('Arrow')) {
    const next = nextTo(cell, event.key)
    if (next !== null) focusOn(next)
  } else if (event.key === 'Enter' || event.key === ' ') pick(cell)
  else if (event.key.toLowerCase() === 'b' && cell.circuit) backUp(cell.circuit)
  else if (event.key === 'Delete' && cell.circuit) props.panel.remove(cell.circuit.id)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function backUp(circuit: Circuit): void {
  props.panel.change(circuit.id, { backed_up: !circuit.backed_up })
}

function drop(slot: number): void {
  const circuit = props.panel.circuits.value.find((entry) => entry.id === dragged.value)
  if (circuit && props.panel.fits(circuit, slot)) props.panel.change(circuit.id, { slot })
  dragged.value = ''
  over.value = 0
}
</script>

<template>
  <div
    ref="grid"
    class="panel"
    :class="{ single: !panel.stacked.value }"
    role="group"
    aria-label="Slots of the main panel. Arrows go from slot to slot, Enter picks, B backs up, Alt with arrows moves"
    data-test="panel"
  >
    <div
      v-for="cell in cells"
      :key="cell.slot"
      class="slot"
      :class="[
        fateOf(cell),
        {
          empty: !cell.circuit,
          up: cell.circuit?.backed_up,
          picked: cell.circuit && cell.circuit.id === picked,
          right: columnOf(cell.slot) === 2,
          over: over === cell.slot,
        },
      ]"
      :style="{ gridRow: `${rowOf(cell.slot)} / span ${cell.span}`, gridColumn: columnOf(cell.slot) }"
      role="button"
      :tabindex="cell.slot === place ? 0 : -1"
      :aria-pressed="cell.circuit?.id === picked && !!picked"
      :title="described(cell)"
      :data-slot="cell.slot"
      :data-test="`slot-${cell.slot}`"
      :draggable="!!cell.circuit"
      @click="pick(cell)"
      @focus="place = cell.slot"
      @keydown="onKey($event, cell)"
      @dragstart="dragged = cell.circuit?.id ?? ''"
      @dragover.prevent="over = cell.slot"
      @dragend="over = 0"
      @drop.prevent="drop(cell.slot)"
    >
      <span class="visually-hidden">{{ described(cell) }}:</span>
      <span class="number figures">{{ cell.slot }}</span>
      <span class="leg" :class="{ off: deadSlots.has(cell.slot) }">{{
        cell.circuit?.poles === 2 && panel.stacked.value ? 'A+B' : (cell.circuit?.leg ?? cell.leg)
      }}</span>
      <template v-if="cell.circuit">
        <span class="breaker figures">{{ cell.circuit.breaker_a }} A</span>
        <span class="name">{{ cell.circuit.name }}</span>
        <span v-if="fateOf(cell) === 'dead'" class="dead">dead</span>
        <span v-else class="lesser few">{{ hung.get(cell.circuit.id)?.length ?? '' }}</span>
      </template>
      <span v-else-if="fateOf(cell) === 'dead'" class="dead alone">dead</span>
    </div>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  grid-auto-rows: 27px;
  gap: 2px 10px;
  border: 1px solid var(--slate);
  padding: 8px;
  background: var(--rail);
}

.panel.single {
  grid-template-columns: minmax(0, 1fr);
}

.slot {
  position: relative;
  display: flex;
  align-items: center;
  gap: 5px;
  padding: 0 5px 0 3px;
  min-width: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-left: 4px solid var(--rule);
  font-size: 13px;
  cursor: pointer;
}

.slot.empty {
  background: transparent;
  border-style: dashed;
}

.slot.up {
  border-left-color: var(--ember);
}

.slot.dead {
  background-image: repeating-linear-gradient(135deg, transparent 0 5px, var(--idle) 5px 8px);
}

.slot.picked {
  outline: 2px solid var(--ink);
  outline-offset: -1px;
}

.slot.over {
  border-color: var(--pine);
}

.slot:focus-visible {
  outline: 2px solid var(--pine);
  outline-offset: 1px;
  z-index: 1;
}

.number {
  flex: none;
  width: 17px;
  text-align: right;
  color: var(--slate);
}

.leg {
  flex: none;
  min-width: 15px;
  padding: 0 2px;
  font-size: 11px;
  line-height: 13px;
  text-align: center;
  color: var(--slate);
  /* A framed letter is a leg; amps stand behind their number. */
  border: 1px solid var(--slate);
}

.empty .leg {
  border-color: var(--rule);
}

.leg.off {
  text-decoration: line-through;
}

.breaker {
  flex: none;
  width: 36px;
  text-align: right;
}

.name {
  flex: 1;
  min-width: 0;
  /* A long name takes two lines. */
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
  font-size: 12.5px;
  line-height: 12.5px;
  overflow-wrap: anywhere;
}

.on_grid .name,
.on_grid .breaker {
  color: var(--slate);
}

.up .name {
  font-weight: 600;
}

.few {
  flex: none;
  font-size: 12px;
}

.dead {
  flex: none;
}

.dead.alone {
  margin-left: auto;
}

span.dead {
  font-weight: 700;
  color: var(--wine);
  background: var(--sheet);
  padding: 0 3px;
}

/* In the hand: one slot below the other, in the order of their numbers. */
@media (max-width: 640px) {
  .panel {
    grid-template-columns: minmax(0, 1fr);
    grid-auto-rows: minmax(34px, auto);
  }

  .slot {
    grid-area: auto !important;
  }
}
</style>
