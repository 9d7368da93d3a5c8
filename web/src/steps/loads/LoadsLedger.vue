<script setup lang="ts">
/** The audit as a ledger: a row a load under its tier, edited in place, moved by hand or by keys. */
import { storeToRefs } from 'pinia'
import { computed, nextTick, ref } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count } from '@/shared/format'
import { useCursor } from '@/strip/cursor'

import LoadRow from './LoadRow.vue'
import SelectedRows from './SelectedRows.vue'
import StandingRows from './StandingRows.vue'
import { TIERS } from './tiers'
import type { Ledger } from './useLedger'
import { useRowFaults } from './useRowFaults'
import { useRowSelection } from './useRowSelection'

const props = defineProps<{ ledger: Ledger }>()
const { assessment, problems } = storeToRefs(useDesign())
const cursor = useCursor()
const { loads, change, changeMany, remove, duplicate, step, place } = props.ledger
const openRow = ref('')
/** The energy column: watt-hours, or amp-hours at the bank's volts. */
const inAmpHours = ref(false)
const groups = computed(() =>
  TIERS.map((tier) => ({
    ...tier,
    rows: loads.value.map((load, index) => ({ load, index })).filter((row) => row.load.tier === tier.tier),
    daily_wh: assessment.value?.loads.daily_by_tier_wh[tier.tier] ?? 0,
  })),
)
const shownOrder = computed(() => groups.value.flatMap((group) => group.rows.map((row) => row.load.id)))
const sumsById = computed(() => new Map(assessment.value?.loads.rows.map((row) => [row.id, row])))
/** Loads that the change-over does not carry. */
const leftById = computed(
  () =>
    new Map(
      assessment.value?.transfer.loads
        .filter((load) => load.fate !== 'carried')
        .map((load) => [load.id, load]),
    ),
)
const faultsByRow = useRowFaults(problems)
const energy = (wattHours: number, ampHours: number | undefined) =>
  inAmpHours.value ? (ampHours ?? 0).toFixed(1) : count(wattHours)

const { selected, over, select, withSelected, drag, hold, drop, letGo } = useRowSelection(shownOrder, place)

/** A row that moves to another tier is drawn anew; the cursor stays in its cell. */
async function keepFocus(id: string, column: string, act: () => void): Promise<void> {
  act()
  await nextTick()
  window.document
    .querySelector<HTMLElement>(`[data-test="load-${CSS.escape(id)}"] [data-column="${column}"]`)
    ?.focus()
}

function removeSelected(): void {
  remove(selected.value)
  selected.value = new Set()
}
</script>

<template>
  <div>
    <SelectedRows
      v-if="selected.size"
      :count="selected.size"
      @tier="(tier) => changeMany(selected, { tier })"
      @duplicate="duplicate(selected)"
      @remove="removeSelected"
      @clear="selected = new Set()"
    />
    <table role="table" class="ledger loads" data-test="loads">
      <thead role="rowgroup">
        <tr role="row">
          <th role="columnheader" class="grip"><span class="visually-hidden">Select</span></th>
          <th role="columnheader">Load</th>
          <th role="columnheader" class="number few">Qty</th>
          <th role="columnheader" class="number watts">Runs, W</th>
          <th role="columnheader" class="number figure">Starts, W</th>
          <th role="columnheader" class="number narrow">Duty, %</th>
          <th role="columnheader" class="hours">
            <span class="full">Midnight – noon – midnight</span><span class="short">Hours</span>
          </th>
          <th role="columnheader" class="number figure">
            <button
              type="button"
              class="unit"
              :title="`Energy a day; show ${inAmpHours ? 'watt-hours at the load' : `amp-hours at ${amount(assessment?.bank.nominal_v ?? 0)} V, conversion included`}`"
              data-test="energy-unit"
              @click="inAmpHours = !inAmpHours"
            >
              {{ inAmpHours ? 'Ah/day' : 'Wh/day' }}
            </button>
          </th>
          <th role="columnheader" class="number price" title="Hours carried gained without this load">
            Without it
          </th>
          <th role="columnheader" class="more"><span class="visually-hidden">More</span></th>
        </tr>
      </thead>
      <tbody
        v-for="group in groups"
        :key="group.tier"
        role="rowgroup"
        @dragover="hold($event, group.tier)"
        @drop.prevent="drop($event, group.tier)"
        @dragend="letGo"
      >
        <tr role="row" class="tier" :class="[group.tier, { over: over === group.tier }]">
          <th class="wide" aria-colspan="7" role="rowheader">
            <b>{{ group.title }}</b>
            <span class="lesser">{{ assessment ? group.rule(assessment.levels) : '' }}</span>
          </th>
          <td role="cell" class="number">
            <ExplainedFigure v-if="group.rows.length" :figure="`loads.tier.${group.tier}`">{{
              energy(group.daily_wh, assessment?.bank.tier_ah[group.tier])
            }}</ExplainedFigure>
          </td>
          <td role="cell" aria-colspan="2"></td>
        </tr>
        <LoadRow
          v-for="row in group.rows"
          :key="row.load.id"
          :class="{ over: over === row.load.id }"
          :load="row.load"
          :daily_wh="sumsById.get(row.load.id)?.daily_wh"
          :daily_ah="assessment?.bank.row_ah[row.load.id]"
          :in-amp-hours="inAmpHours"
          :quality="sumsById.get(row.load.id)?.quality"
          :lived-tier="sumsById.get(row.load.id)?.lived_tier"
          :price="assessment?.prices.without_load[row.load.id]"
          :left="leftById.get(row.load.id)?.why ?? ''"
          :is-dead="leftById.get(row.load.id)?.fate === 'dead'"
          :pinned-hour="cursor.pinnedHourOfDay"
          :faults="faultsByRow.get(row.index) ?? ''"
          :is-open="openRow === row.load.id"
          :is-selected="selected.has(row.load.id)"
          @change="(part) => change(row.index, part)"
          @remove="remove(withSelected(row.load.id))"
          @duplicate="duplicate(new Set([row.load.id]))"
          @toggle="openRow = openRow === row.load.id ? '' : row.load.id"
          @select="(extend) => select(row.load.id, extend)"
          @step="(by, column) => keepFocus(row.load.id, column, () => step(row.load.id, by))"
          @tier="
            (tier, column) => keepFocus(row.load.id, column, () => place(withSelected(row.load.id), tier))
          "
          @drag="(event) => drag(row.load.id, event)"
        />
      </tbody>
      <StandingRows v-if="assessment" :energy="energy" />
      <tfoot role="rowgroup">
        <tr role="row">
          <th class="wide" aria-colspan="7" role="rowheader">All loads</th>
          <td role="cell" class="number">
            <ExplainedFigure figure="loads.daily_wh">{{
              energy(assessment?.loads.daily_wh ?? 0, assessment?.bank.all_ah)
            }}</ExplainedFigure>
          </td>
          <td role="cell" aria-colspan="2"></td>
        </tr>
      </tfoot>
    </table>
  </div>
</template>

<style scoped>
/* The ledger is laid out as a grid of rows that know their own size: in a long one, a change of one cell then lays out
   that row alone. Roles keep it a table for those who hear it. */
.loads {
  --columns: 20px minmax(0, 1fr) 38px 84px 66px 64px 168px 66px 82px 28px;
}

.loads,
.loads thead,
.loads tbody,
.loads tfoot {
  display: block;
}

.loads tr,
.loads > tbody > :deep(tr) {
  display: grid;
  grid-template-columns: var(--columns);
  align-items: center;
  border-bottom: 1px solid var(--rule);
}

.loads :deep(tr.row) {
  height: 27px;
  contain: layout style size;
}

.loads thead tr {
  border-bottom-color: var(--ink);
}

.loads th,
.loads td,
.loads > tbody > :deep(tr) > th,
.loads > tbody > :deep(tr) > td {
  border: 0;
  height: auto;
}

.loads :deep(.wide) {
  grid-column: span 7;
}

.unit {
  font: inherit;
  border-bottom: 1px dotted var(--slate);
}

.loads tr.over,
.loads :deep(tr.over) {
  box-shadow: inset 0 2px 0 var(--pine);
}

.loads :deep(tr.tier) {
  border-bottom-color: var(--slate);
  min-height: 27px;
  align-items: end;
}

.loads :deep(.tier th) {
  font-weight: 400;
  color: var(--ink);
  font-size: 13px;
  padding: 4px 6px 2px;
}

.loads :deep(.tier td) {
  font-weight: 700;
  padding-bottom: 3px;
}

.loads :deep(.tier b) {
  font-size: 14px;
  margin-right: 4px;
}

.short {
  display: none;
}

@media (max-width: 1150px) {
  .loads {
    --columns: 16px minmax(0, 1fr) 32px 78px 58px 58px 84px 52px 70px 22px;
  }

  .full {
    display: none;
  }

  .short {
    display: inline;
  }

  .loads th,
  .loads td,
  .loads > tbody > :deep(tr) > th,
  .loads > tbody > :deep(tr) > td {
    padding-left: 3px;
    padding-right: 3px;
  }
}

.life b {
  color: var(--wine);
}

.keep b {
  color: var(--ember-ink);
}

.ease b {
  color: var(--umber);
}

.spare b {
  color: var(--slate);
}

.loads tfoot tr {
  border-bottom: 0;
}

tfoot th {
  color: var(--ink);
}

tfoot td {
  font-weight: 700;
}
</style>
