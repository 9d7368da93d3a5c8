<script setup lang="ts">
/** The 24 hours of a load, painted by dragging or set with the keyboard. */
import { computed, ref } from 'vue'

import type { Load, Tier } from '@/api/client'

import { cellsFrom, hoursText, spansFrom } from './hours'

const props = defineProps<{
  hours: Load['hours']
  tier: Tier
  waits?: boolean
  label: string
  pinnedHour: number | null
}>()
const emit = defineEmits<{ change: [hours: Load['hours']] }>()

const kept = computed(() => cellsFrom(props.hours as [number, number][]))
/** Cells while they are being painted; none otherwise. */
const painting = ref<boolean[] | null>(null)
const brush = ref(true)
const active = ref(0)
const hasFocus = ref(false)
const cells = computed(() => painting.value ?? kept.value)

/** Left edge of an hour's cell; gaps at six, noon and eighteen let the eye count. */
function left(hour: number): number {
  return hour * 7 + (hour % 6 === 5 ? 0 : 0.5)
}

/** All cells that are on, or all that are off, as one path: a long ledger draws thousands of them. */
function outline(hours: readonly boolean[], state: boolean): string {
  return hours.map((isOn, hour) => (isOn === state ? `M${left(hour)} 0h6v15h-6z` : '')).join('')
}

function slashes(hours: readonly boolean[]): string {
  return hours.map((isOn, hour) => (isOn ? `M${left(hour)} 11l6 -7` : '')).join('')
}

function hourAt(event: PointerEvent): number {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  return Math.min(Math.max(Math.floor(((event.clientX - box.left) / box.width) * 24), 0), 23)
}

function begin(event: PointerEvent): void {
  const hour = hourAt(event)
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  brush.value = !kept.value[hour]
  painting.value = [...kept.value]
  paint(hour)
}

function drag(event: PointerEvent): void {
  if (painting.value) paint(hourAt(event))
}

function paint(hour: number): void {
  active.value = hour
  painting.value = (painting.value ?? kept.value).map((isOn, at) => (at === hour ? brush.value : isOn))
}

function end(): void {
  if (painting.value) emit('change', spansFrom(painting.value))
  painting.value = null
}

function onKey(event: KeyboardEvent): void {
  if (event.altKey) return
  const stride = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (stride !== 0) {
    const next = Math.min(Math.max(active.value + stride, 0), 23)
    if (event.shiftKey && next !== active.value) {
      // Painting along takes the state of the cell it starts from.
      const state = kept.value[active.value] ?? false
      emit('change', spansFrom(kept.value.map((isOn, at) => (at === next ? state : isOn))))
    }
    active.value = next
  } else if (event.key === ' ') {
    emit('change', spansFrom(kept.value.map((isOn, at) => (at === active.value ? !isOn : isOn))))
  } else if (event.key === 'Home') active.value = 0
  else if (event.key === 'End') active.value = 23
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp' || event.key === 'Enter') {
    const own = event.currentTarget as HTMLElement
    const all = [...(own.closest('table')?.querySelectorAll<HTMLElement>('[data-column="hours"]') ?? [])]
    all[all.indexOf(own) + (event.key === 'ArrowUp' ? -1 : 1)]?.focus()
  } else return
  event.preventDefault()
}
</script>

<template>
  <div
    class="hours"
    :class="[tier, { waits }]"
    tabindex="0"
    role="slider"
    :aria-label="label"
    aria-valuemin="0"
    aria-valuemax="23"
    :aria-valuenow="active"
    :aria-valuetext="`${active} o’clock ${cells[active] ? 'on' : 'off'}; on ${hoursText(hours as [number, number][])}`"
    data-column="hours"
    :title="hoursText(spansFrom(cells))"
    @pointerdown="begin"
    @pointermove="drag"
    @pointerup="end"
    @pointercancel="painting = null"
    @keydown="onKey"
    @focus="hasFocus = true"
    @blur="hasFocus = false"
  >
    <svg viewBox="0 0 168 15" preserveAspectRatio="none" aria-hidden="true">
      <path class="off" :d="outline(cells, false)" />
      <path class="on" :d="outline(cells, true)" />
      <path v-if="waits" class="wait" :d="slashes(cells)" />
      <rect v-if="pinnedHour !== null" class="pinned" :x="left(pinnedHour)" y="-3" width="6" height="2" />
      <path v-if="hasFocus" class="active" :d="`M${left(active)} -2h6M${left(active)} 17h6`" />
    </svg>
  </div>
</template>

<style scoped>
.hours {
  display: flex;
  width: 100%;
  max-width: 172px;
  height: 15px;
  cursor: pointer;
  touch-action: none;
}

svg {
  width: 100%;
  height: 100%;
  overflow: visible;
}

.off {
  fill: var(--idle);
}

.life .on {
  fill: var(--wine);
}

.keep .on {
  fill: var(--ember);
}

.ease .on {
  fill: var(--umber);
}

.spare .on {
  fill: var(--slate);
}

/* A load that waits for the sun: these hours are offered to it, and it takes the best of them. */
.wait {
  stroke: var(--sheet);
  stroke-width: 1.6;
}

.pinned {
  fill: var(--ink);
}

.active {
  stroke: var(--pine);
  stroke-width: 3;
}
</style>
