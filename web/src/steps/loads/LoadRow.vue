<script setup lang="ts">
/** One load of the ledger; opened, it shows its lesser fields below. */
import { mdiChevronDown, mdiChevronUp } from '@mdi/js'
import { computed } from 'vue'

import type { Load, Price, Tier } from '@/api/client'
import { amount, count } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'

import HourCells from './HourCells.vue'
import LedgerCell from './LedgerCell.vue'
import LoadDetail from './LoadDetail.vue'

const props = defineProps<{
  load: Load
  index: number
  daily_wh: number | undefined
  livedTier: string | undefined
  price: Price | undefined
  pinnedHour: number | null
  links: string[]
  faults: ReadonlySet<string>
  isOpen: boolean
}>()
const emit = defineEmits<{ change: [part: Partial<Load>]; remove: []; duplicate: []; toggle: [] }>()

const path = computed(() => `loads.${props.index}`)
const has = (field: string) => props.faults.has(`${path.value}.${field}`)
/** A linked load may live in a higher tier than the one written. */
const isLifted = computed(() => props.livedTier !== undefined && props.livedTier !== props.load.tier)

function setNumber(field: 'quantity' | 'running_w' | 'start_w' | 'duty_frac', typed: number | null): void {
  if (field === 'start_w') emit('change', { start_w: typed })
  else if (typed !== null)
    emit('change', {
      [field]: field === 'duty_frac' ? Math.round(typed * 1e4) / 1e6 : typed,
    } as Partial<Load>)
}
</script>

<template>
  <tr class="row" :data-test="`load-${load.id}`">
    <td class="name">
      <LedgerCell
        :text="load.name"
        column="name"
        :label="`Name of ${load.name}`"
        words
        @commit="(text) => emit('change', { name: text })"
      />
    </td>
    <td class="number">
      <LedgerCell
        :text="String(load.quantity)"
        column="quantity"
        :label="`${load.name}: quantity`"
        :fault="has('quantity')"
        @number="(value) => setNumber('quantity', value)"
      />
    </td>
    <td class="number">
      <LedgerCell
        :text="amount(load.running_w)"
        column="running"
        :label="`${load.name}: running watts`"
        :fault="has('running_w')"
        @number="(value) => setNumber('running_w', value)"
      />
    </td>
    <td class="number">
      <LedgerCell
        :text="load.start_w == null ? '–' : amount(load.start_w)"
        column="start"
        :label="`${load.name}: starting watts`"
        may-be-empty
        :fault="has('start_w')"
        @number="(value) => setNumber('start_w', value)"
      />
    </td>
    <td class="number">
      <LedgerCell
        :text="amount(load.duty_frac * 100)"
        column="duty"
        :label="`${load.name}: duty in percent`"
        :fault="has('duty_frac')"
        @number="(value) => setNumber('duty_frac', value)"
      />
    </td>
    <td>
      <HourCells
        :hours="load.hours"
        :tier="load.tier"
        :label="`${load.name}: hours of the day`"
        :pinned-hour="pinnedHour"
        @change="(hours) => emit('change', { hours })"
      />
    </td>
    <td class="number">{{ daily_wh === undefined ? '–' : count(daily_wh) }}</td>
    <td class="number"><PriceTag :price="price" /></td>
    <td class="more">
      <button
        type="button"
        :aria-expanded="isOpen"
        :aria-label="`More of ${load.name}`"
        @click="emit('toggle')"
      >
        <v-icon :icon="isOpen ? mdiChevronUp : mdiChevronDown" size="18" />
      </button>
    </td>
  </tr>
  <tr v-if="isOpen">
    <td colspan="9" class="detail">
      <LoadDetail
        :load="load"
        :links="links"
        :lifted-to="isLifted ? (livedTier as Tier) : null"
        :faults="faults"
        :path="path"
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

.more {
  text-align: center;
}

.detail {
  padding: 8px 6px 12px !important;
  background: var(--sheet);
}
</style>
