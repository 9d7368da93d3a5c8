<script setup lang="ts">
/** One load of the ledger; opened, it shows the rest of it below. */
import { mdiChevronDown, mdiChevronUp, mdiDragVertical } from '@mdi/js'
import { computed } from 'vue'

import type { Load, PriceInHours, Tier } from '@/api/client'
import { amount, count } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'

import HourCells from '@/fields/HourCells.vue'
import LedgerCell from '@/fields/LedgerCell.vue'
import LoadDetail from './LoadDetail.vue'
import { marksOf, QUALITY_MARKS } from './readings'
import { TIER_ORDER } from './useLedger'

const props = defineProps<{
  load: Load
  daily_wh: number | undefined
  daily_ah: number | undefined
  inAmpHours: boolean
  quality: string | undefined
  livedTier: string | undefined
  price: PriceInHours | undefined
  /** Why it is not carried by the backup supply; empty where it is. */
  left: string
  isDead: boolean
  pinnedHour: number | null
  /** Fields of this row at fault, as dotted names joined by blanks. */
  faults: string
  isOpen: boolean
  isSelected: boolean
}>()
const emit = defineEmits<{
  change: [part: Partial<Load>]
  remove: []
  duplicate: []
  toggle: []
  select: [extend: boolean]
  step: [by: 1 | -1, column: string]
  tier: [tier: Tier, column: string]
  drag: [event: DragEvent]
}>()

const has = (field: string) => props.faults.split(' ').includes(field)
/** A linked load may live in a higher tier than the one written. */
const isLifted = computed(() => props.livedTier !== undefined && props.livedTier !== props.load.tier)
const marks = computed(() => marksOf(props.load))
const mark = computed(() => QUALITY_MARKS[props.quality ?? 'guess'])

/** Watts typed over a reading no longer rest on it. */
function unread(): Partial<Load> {
  return props.load.known && props.load.known.kind !== 'typed' ? { known: null } : {}
}

function setNumber(field: 'quantity' | 'running_w' | 'start_w' | 'duty_frac', typed: number | null): void {
  if (field === 'start_w') {
    const isRead = props.load.start_known && props.load.start_known.kind !== 'typed'
    emit('change', { start_w: typed, ...(isRead ? { start_known: null } : {}) })
  } else if (typed === null) return
  else if (field === 'quantity') emit('change', { quantity: typed })
  else if (field === 'running_w') emit('change', { running_w: typed, ...unread() })
  else emit('change', { duty_frac: Math.round(typed * 1e4) / 1e6, ...unread() })
}

/** Alt with arrows moves the row; Alt with 1 to 4 puts it into a tier. */
function onKey(event: KeyboardEvent): void {
  if (!event.altKey) return
  const column = (event.target as HTMLElement).dataset['column'] ?? 'name'
  const tier = TIER_ORDER[Number(event.key) - 1]
  if (event.key === 'ArrowUp' || event.key === 'ArrowDown')
    emit('step', event.key === 'ArrowUp' ? -1 : 1, column)
  else if (tier) emit('tier', tier, column)
  else return
  event.preventDefault()
  event.stopPropagation()
}

function onGripKey(event: KeyboardEvent): void {
  if (event.key === 'Delete') emit('remove')
  else if (event.key === 'ArrowRight' && !event.altKey)
    (event.currentTarget as HTMLElement)
      .closest('tr')
      ?.querySelector<HTMLElement>('[data-column="name"]')
      ?.focus()
  else if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && !event.altKey) {
    const grips = [...document.querySelectorAll<HTMLElement>('[data-column="grip"]')]
    grips[grips.indexOf(event.currentTarget as HTMLElement) + (event.key === 'ArrowUp' ? -1 : 1)]?.focus()
  } else return
  event.preventDefault()
}
</script>

<template>
  <tr
    role="row"
    class="row"
    :class="{ selected: isSelected }"
    :data-test="`load-${load.id}`"
    :data-load="load.id"
    @keydown.capture="onKey"
  >
    <td role="cell" class="grip">
      <button
        type="button"
        draggable="true"
        data-column="grip"
        :aria-pressed="isSelected"
        :aria-label="`Select ${load.name}`"
        title="Click to select, drag to move; Alt with arrows moves, Alt 1 to 4 changes the tier"
        @click="emit('select', $event.shiftKey)"
        @dragstart="emit('drag', $event)"
        @keydown="onGripKey"
      >
        <svg viewBox="0 0 24 24" width="16" height="16"><path :d="mdiDragVertical" /></svg>
      </button>
    </td>
    <td role="cell" class="name">
      <div class="name-line">
        <LedgerCell
          :text="load.name"
          column="name"
          :label="`Name of ${load.name}`"
          words
          @commit="(text) => emit('change', { name: text })"
        />
        <span v-if="marks" class="marks">{{ marks }}</span>
      </div>
    </td>
    <td role="cell" class="number">
      <LedgerCell
        :text="String(load.quantity)"
        :value="load.quantity"
        column="quantity"
        :label="`${load.name}: quantity`"
        :fault="has('quantity')"
        @number="(value) => setNumber('quantity', value)"
      />
    </td>
    <td role="cell" class="number watts" :class="quality" :title="`Running watts, ${mark?.word}`">
      <span class="mark" role="img" :aria-label="mark?.word" :data-quality="quality">{{ mark?.sign }}</span>
      <LedgerCell
        :text="amount(load.running_w)"
        :value="load.running_w"
        column="running"
        :label="`${load.name}: running watts`"
        :fault="has('running_w')"
        @number="(value) => setNumber('running_w', value)"
      />
    </td>
    <td role="cell" class="number">
      <LedgerCell
        :text="load.start_w == null ? '–' : amount(load.start_w)"
        :value="load.start_w ?? null"
        column="start"
        :label="`${load.name}: starting watts`"
        may-be-empty
        :fault="has('start_w')"
        @number="(value) => setNumber('start_w', value)"
      />
    </td>
    <td role="cell" class="number">
      <LedgerCell
        :text="amount(load.duty_frac * 100)"
        :value="load.duty_frac * 100"
        column="duty"
        :label="`${load.name}: duty in percent`"
        :fault="has('duty_frac')"
        @number="(value) => setNumber('duty_frac', value)"
      />
    </td>
    <td role="cell">
      <HourCells
        :hours="load.hours"
        :tier="load.tier"
        :waits="load.flexible_h != null"
        :label="`${load.name}: hours of the day`"
        :pinned-hour="pinnedHour"
        @change="(hours) => emit('change', { hours })"
      />
    </td>
    <td role="cell" class="number">
      <span v-if="left" class="left" :class="{ dead: isDead }" :title="left" data-test="left">{{
        isDead ? 'dead' : 'on grid'
      }}</span>
      <template v-else>{{
        inAmpHours ? (daily_ah?.toFixed(1) ?? '–') : daily_wh === undefined ? '–' : count(daily_wh)
      }}</template>
    </td>
    <td role="cell" class="number"><PriceTag :price="price" /></td>
    <td role="cell" class="more">
      <button
        type="button"
        :aria-expanded="isOpen"
        :aria-label="`More of ${load.name}`"
        @click="emit('toggle')"
      >
        <svg viewBox="0 0 24 24" width="18" height="18">
          <path :d="isOpen ? mdiChevronUp : mdiChevronDown" />
        </svg>
      </button>
    </td>
  </tr>
  <tr v-if="isOpen" role="row">
    <td role="cell" aria-colspan="10" class="detail">
      <LoadDetail
        :load="load"
        :lifted-to="isLifted ? (livedTier as Tier) : null"
        :faults="faults"
        @change="(part) => emit('change', part)"
        @remove="emit('remove')"
        @duplicate="emit('duplicate')"
      />
    </td>
  </tr>
</template>

<style scoped>
.row:hover,
.row:focus-within {
  background: var(--sheet);
}

.selected {
  background: var(--rail);
}

.grip {
  padding: 0 !important;
  text-align: center;
}

.grip button {
  color: var(--slate);
  cursor: grab;
}

.grip button[aria-pressed='true'] {
  color: var(--sheet);
  background: var(--pine);
}

.name-line {
  display: flex;
  align-items: baseline;
  gap: 4px;
}

.marks {
  flex: none;
  font-size: 11px;
  color: var(--slate);
  white-space: nowrap;
}

.left {
  font-family: var(--hk-text);
  color: var(--slate);
}

.left.dead {
  color: var(--wine);
  font-weight: 700;
}

.watts {
  position: relative;
}

.mark {
  position: absolute;
  left: 16px;
  color: var(--slate);
}

.guess .mark {
  color: var(--sun-ink);
  font-weight: 700;
}

.more {
  text-align: center;
}

svg {
  display: block;
  margin: auto;
  fill: currentColor;
}

.detail {
  grid-column: 1 / -1;
  padding: 8px 6px 14px !important;
  background: var(--sheet);
}
</style>
