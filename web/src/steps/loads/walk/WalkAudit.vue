<script setup lang="ts">
/** The audit in the hand: the loads as large rows, the one most worth measuring next, and each in front of the meter. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Load } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count, kilowattHours } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'

import { QUALITY_MARKS } from '../readings'
import { TIERS } from '../tiers'
import WalkRow from './WalkRow.vue'

const props = defineProps<{ loads: Load[]; mains_v: number; bank_v: number }>()
const emit = defineEmits<{ change: [index: number, part: Partial<Load>] }>()
const { assessment } = storeToRefs(useDesign())
/** Id of the load in front of the meter; empty for the list. */
const open = defineModel<string>('open', { required: true })

const sums = computed(() => new Map(assessment.value?.loads.rows.map((row) => [row.id, row])))
const qualityOf = (id: string) => sums.value.get(id)?.quality ?? 'guess'
const measured = computed(() => props.loads.filter((load) => qualityOf(load.id) === 'measured').length)
const groups = computed(() =>
  TIERS.map((tier) => ({ ...tier, rows: props.loads.filter((load) => load.tier === tier.tier) })).filter(
    (group) => group.rows.length,
  ),
)
const index = computed(() => props.loads.findIndex((load) => load.id === open.value))
const current = computed(() => props.loads[index.value] ?? null)
/** Those not yet measured, the largest doubt first. */
const ahead = computed(() =>
  props.loads
    .filter((load) => qualityOf(load.id) !== 'measured')
    .sort((a, b) => (sums.value.get(b.id)?.doubt_wh ?? 0) - (sums.value.get(a.id)?.doubt_wh ?? 0)),
)
const next = computed(() => ahead.value.find((load) => load.id !== open.value) ?? null)

function goOn(): void {
  open.value = next.value?.id ?? ''
}
</script>

<template>
  <WalkRow
    v-if="current"
    :load="current"
    :quality="qualityOf(current.id)"
    :mains_v="mains_v"
    :bank_v="bank_v"
    :next-name="next?.name ?? ''"
    @change="(part) => emit('change', index, part)"
    @next="goOn"
    @back="open = ''"
  />
  <div v-else class="walk" data-test="walk">
    <p class="sum">
      <b>{{ measured }} of {{ loads.length }}</b> measured,
      <ExplainedFigure figure="loads.daily_wh">{{
        kilowattHours(assessment?.loads.daily_wh ?? 0)
      }}</ExplainedFigure>
      a day
    </p>
    <button v-if="ahead[0]" type="button" class="next" data-test="walk-next" @click="open = ahead[0].id">
      Measure next: <b>{{ ahead[0].name }}</b>
    </button>
    <section v-for="group in groups" :key="group.tier">
      <h2 :class="group.tier">{{ group.title }}</h2>
      <button
        v-for="load in group.rows"
        :key="load.id"
        type="button"
        class="load"
        :data-test="`walk-load-${load.id}`"
        @click="open = load.id"
      >
        <span class="name">{{ load.quantity > 1 ? `${load.quantity} × ` : '' }}{{ load.name }}</span>
        <span class="figures watts"
          ><span role="img" :aria-label="QUALITY_MARKS[qualityOf(load.id)]?.word">{{
            QUALITY_MARKS[qualityOf(load.id)]?.sign
          }}</span>
          {{ amount(load.running_w) }} W</span
        >
        <span class="figures lesser">{{ count(sums.get(load.id)?.daily_wh ?? 0) }} Wh a day</span>
        <PriceTag class="price" :price="assessment?.prices.without_load[load.id]" />
      </button>
    </section>
  </div>
</template>

<style scoped>
.walk {
  display: grid;
  gap: 10px;
}

.sum {
  margin: 0;
}

.next {
  min-height: 52px;
  padding: 4px 10px;
  color: var(--sheet);
  background: var(--pine);
  overflow-wrap: anywhere;
}

h2.life {
  color: var(--wine);
}

h2.keep {
  color: var(--ember-ink);
}

h2.ease {
  color: var(--umber);
}

h2.spare {
  color: var(--slate);
}

.load {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 10px;
  width: 100%;
  min-height: 54px;
  padding: 6px 2px;
  text-align: left;
  border-bottom: 1px solid var(--rule);
}

.name {
  font-weight: 600;
  overflow-wrap: anywhere;
}

.watts {
  text-align: right;
}

.price {
  text-align: right;
}
</style>
