<script setup lang="ts">
/** The energy order with the grid up, reordered where the equipment can, and where a clear day goes; and with the grid down. */
import { storeToRefs } from 'pinia'
import { computed, nextTick } from 'vue'

import AxisChart from '@/charts/AxisChart.vue'
import type { ChartSeries } from '@/charts/geometry'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { kilowattHours, percent } from '@/shared/format'

import { usesOf } from './words'

const store = useDesign()
const { document, assessment, isOffGrid } = storeToRefs(store)
const order = computed(() => assessment.value?.transfer.order ?? null)
/** As the design has it, so that a move is seen at once. */
const used = computed(() =>
  isOffGrid.value
    ? (order.value?.up.map((entry) => entry.use) ?? [])
    : (document.value?.transfer?.order ?? []),
)
const uses = computed(() => usesOf(isOffGrid.value))
const energy = (use: string) => order.value?.up.find((entry) => entry.use === use)?.energy_wh ?? 0
const left = computed(() =>
  Object.keys(uses.value).filter((use) => !used.value.includes(use as (typeof used.value)[number])),
)
const LOOKS = [
  { role: 'ember', dash: '' },
  { role: 'pine', dash: '7 3' },
  { role: 'umber', dash: '2 3' },
  { role: 'slate', dash: '9 3 2 3' },
] as const
const series = computed<ChartSeries[]>(() =>
  order.value
    ? [
        { key: 'offered', title: 'offered', kind: 'area', role: 'sun', values: order.value.offered_w },
        ...order.value.up.map((entry, at) => ({
          key: entry.use,
          title: uses.value[entry.use]?.title ?? entry.use,
          kind: 'line' as const,
          role: LOOKS[at]?.role ?? ('ink' as const),
          dash: LOOKS[at]?.dash ?? '',
          values: entry.by_hour_w,
        })),
      ]
    : [],
)
const places = Array.from({ length: 24 }, (_, hour) => `${String(hour).padStart(2, '0')}:00`)
const ticks = [0, 6, 12, 18].map((at) => ({ at, label: places[at] ?? '' }))

function set(next: string[]): void {
  store.set('transfer.order', next)
}

async function move(at: number, by: number): Promise<void> {
  const next = [...used.value]
  const [use] = next.splice(at, 1)
  if (!use || at + by < 0 || at + by > next.length) return
  next.splice(at + by, 0, use)
  set(next)
  await nextTick()
  window.document.querySelector<HTMLElement>(`[data-use="${use}"]`)?.focus()
}

function onKey(event: KeyboardEvent, at: number): void {
  const by = event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0
  if (!by || !order.value?.may_reorder) return
  event.preventDefault()
  void move(at, by)
}
</script>

<template>
  <div v-if="order" class="order" data-test="order">
    <section>
      <h2>{{ isOffGrid ? 'On a clear day' : 'With the grid up' }}</h2>
      <ol data-test="uses">
        <li
          v-for="(use, at) in used"
          :key="use"
          :tabindex="order.may_reorder ? 0 : -1"
          :data-use="use"
          :aria-label="`${at + 1}, ${uses[use]?.title}, ${kilowattHours(energy(use))} of a clear day${order.may_reorder ? '; Up and Down move it' : ''}`"
          @keydown="onKey($event, at)"
        >
          <span class="rank figures">{{ at + 1 }}</span>
          <span class="use">
            <b>{{ uses[use]?.title }}</b> <span class="lesser">{{ uses[use]?.meaning }}</span>
          </span>
          <ExplainedFigure figure="transfer.order" class="figures">{{
            kilowattHours(energy(use))
          }}</ExplainedFigure>
          <span v-if="order.may_reorder" class="tools">
            <button
              type="button"
              :disabled="at === 0"
              :aria-label="`${uses[use]?.title} earlier`"
              @click="move(at, -1)"
            >
              ↑
            </button>
            <button
              type="button"
              :disabled="at === used.length - 1"
              :aria-label="`${uses[use]?.title} later`"
              @click="move(at, 1)"
            >
              ↓
            </button>
            <button
              v-if="use !== 'loads'"
              type="button"
              :aria-label="`Leave ${uses[use]?.title} out`"
              @click="set(used.filter((other) => other !== use))"
            >
              out
            </button>
          </span>
        </li>
        <li v-if="order.held_back_wh > 0.5" class="rest">
          <span class="rank"></span><span class="use lesser">held back, since nothing takes it</span>
          <span class="figures">{{ kilowattHours(order.held_back_wh) }}</span>
        </li>
      </ol>
      <p v-if="order.may_reorder" class="lesser">
        Up and Down move a use.
        <template v-for="use in left" :key="use">
          <button type="button" class="add" @click="set([...used, use])">
            Add {{ uses[use]?.title.toLowerCase() }}
          </button>
        </template>
      </p>
      <p v-else class="lesser">{{ order.why_not }}</p>
      <h2>{{ isOffGrid ? 'Always' : 'With the grid down' }}</h2>
      <ol>
        <li v-for="(line, at) in order.down" :key="line">
          <span class="rank figures">{{ at + 1 }}</span><span class="use">{{ line }}</span>
        </li>
      </ol>
      <p v-if="assessment?.outage.coupled" class="lesser" data-test="coupled">
        In this outage the array offers {{ kilowattHours(assessment.outage.coupled.offered_wh) }}:
        {{ kilowattHours(assessment.outage.coupled.to_loads_wh) }} to the loads,
        {{ kilowattHours(assessment.outage.coupled.to_bank_wh) }} towards the bank,
        {{ kilowattHours(assessment.outage.coupled.held_back_wh) }} ({{
          percent(assessment.outage.coupled.held_back_wh / Math.max(assessment.outage.coupled.offered_wh, 1))
        }}) held back.
      </p>
    </section>
    <section>
      <h2>A clear day on the date of the outage</h2>
      <AxisChart
        v-if="order.offered_wh > 0"
        :label="`Where ${kilowattHours(order.offered_wh)} of a clear day go`"
        :series="series"
        :places="places"
        :ticks="ticks"
        unit="W"
        :every="2"
        :height="230"
      />
      <p v-else class="lesser">There is no array in this design.</p>
      <p class="lesser">
        Watts by hour of standard time, the grid up, the bank from where its charger keeps it. The inverter's
        loss is left out.
      </p>
    </section>
  </div>
</template>

<style scoped>
.order {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.15fr);
  gap: 22px;
}

h2 {
  margin: 0 0 6px;
}

section > h2 ~ h2 {
  margin-top: 16px;
}

ol {
  list-style: none;
  padding: 0;
  margin: 0 0 6px;
}

li {
  display: flex;
  gap: 8px;
  align-items: baseline;
  padding: 4px 2px;
  border-bottom: 1px solid var(--rule);
}

.rank {
  width: 16px;
  color: var(--slate);
}

.use {
  flex: 1;
}

.use .lesser,
p.lesser {
  font-size: 13px;
}

.tools {
  display: inline-flex;
  gap: 6px;
  width: 74px;
}

.tools button {
  color: var(--pine);
  font-weight: 700;
}

.tools button:disabled {
  color: var(--rule);
}

.add {
  color: var(--pine);
  font-weight: 600;
  text-decoration: underline;
  margin-left: 8px;
}

@media (max-width: 1050px) {
  .order {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
