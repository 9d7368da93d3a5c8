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
    <i
      v-for="(isOn, hour) in cells"
      :key="hour"
      :class="{ on: isOn, active: hasFocus && hour === active, pinned: hour === pinnedHour }"
    />
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

i {
  flex: 1;
  margin-right: 1px;
  background: var(--idle);
}

/* Gaps at six, noon and eighteen let the eye count. */
i:nth-child(6n) {
  margin-right: 2px;
}

.life .on {
  background: var(--wine);
}

.keep .on {
  background: var(--ember);
}

.ease .on {
  background: var(--umber);
}

.spare .on {
  background: var(--slate);
}

/* A load that waits for the sun: these hours are offered to it, and it takes the best of them. */
.waits .on {
  background-image: repeating-linear-gradient(135deg, transparent 0 2px, var(--sheet) 2px 4px);
}

.pinned {
  box-shadow: 0 -3px 0 var(--ink);
}

.active {
  box-shadow:
    0 3px 0 var(--pine),
    0 -3px 0 var(--pine);
}
</style>
