<script setup lang="ts">
/** Shade by hour: 24 bars that are drawn up and down with the mouse, or set with the keyboard, in quarters. */
import { computed, ref } from 'vue'

import { percent } from '@/shared/format'

const props = defineProps<{ shade: readonly number[]; label: string }>()
const emit = defineEmits<{ change: [shade: number[]] }>()
const QUARTER = 0.25
const HEIGHT = 32
const kept = computed(() => Array.from({ length: 24 }, (_, hour) => props.shade[hour] ?? 0))
const drawing = ref<number[] | null>(null)
const shown = computed(() => drawing.value ?? kept.value)
const active = ref(12)
const hasFocus = ref(false)
const spoken = computed(
  () => `${active.value} o’clock: ${percent(shown.value[active.value] ?? 0)} of the sun taken`,
)

function draw(event: PointerEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const hour = Math.min(Math.max(Math.floor(((event.clientX - box.left) / box.width) * 24), 0), 23)
  const height = Math.min(Math.max(1 - (event.clientY - box.top) / box.height, 0), 1)
  active.value = hour
  const level = Math.round(height / QUARTER) * QUARTER
  drawing.value = shown.value.map((part, at) => (at === hour ? level : part))
}

function begin(event: PointerEvent): void {
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  draw(event)
}

function end(): void {
  if (drawing.value) emit('change', drawing.value)
  drawing.value = null
}

function onKey(event: KeyboardEvent): void {
  if (event.altKey) return
  const along = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
  const up = { ArrowUp: QUARTER, ArrowDown: -QUARTER }[event.key]
  if (along !== undefined) active.value = Math.min(Math.max(active.value + along, 0), 23)
  else if (event.key === 'Home') active.value = 0
  else if (event.key === 'End') active.value = 23
  else if (up !== undefined)
    emit(
      'change',
      kept.value.map((part, at) => (at === active.value ? Math.min(Math.max(part + up, 0), 1) : part)),
    )
  else return
  event.preventDefault()
}
</script>

<template>
  <div
    class="shade"
    tabindex="0"
    role="slider"
    :aria-label="label"
    aria-valuemin="0"
    aria-valuemax="100"
    :aria-valuenow="Math.round((shown[active] ?? 0) * 100)"
    :aria-valuetext="spoken"
    :title="spoken"
    @pointerdown="begin"
    @pointermove="drawing && draw($event)"
    @pointerup="end"
    @pointercancel="drawing = null"
    @keydown="onKey"
    @focus="hasFocus = true"
    @blur="hasFocus = false"
  >
    <svg :viewBox="`0 0 240 ${HEIGHT + 12}`" preserveAspectRatio="none" aria-hidden="true">
      <rect
        v-for="hour in 24"
        :key="`o${hour}`"
        class="open"
        :x="hour * 10 - 9.5"
        y="0"
        width="9"
        :height="HEIGHT"
      />
      <rect
        v-for="(part, hour) in shown"
        :key="`s${hour}`"
        class="taken"
        :x="hour * 10 + 0.5"
        :y="HEIGHT * (1 - part)"
        width="9"
        :height="HEIGHT * part"
      />
      <rect v-if="hasFocus" class="active" :x="active * 10 + 0.5" :y="HEIGHT + 1" width="9" height="2.5" />
    </svg>
    <div class="scale" aria-hidden="true">
      <span>0</span><span>6</span><span>12</span><span>18</span><span>24</span>
    </div>
  </div>
</template>

<style scoped>
.shade {
  width: 100%;
  max-width: 260px;
  cursor: crosshair;
  touch-action: none;
}

svg {
  display: block;
  width: 100%;
  height: 38px;
}

.open {
  fill: var(--sun);
  opacity: 0.32;
}

.taken {
  fill: var(--slate);
}

.active {
  fill: var(--pine);
}

.scale {
  display: flex;
  justify-content: space-between;
  font-size: 11px;
  line-height: 1;
  color: var(--slate);
}
</style>
