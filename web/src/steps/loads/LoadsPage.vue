<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, nextTick, ref } from 'vue'
import { RouterLink } from 'vue-router'

import type { SheetSource, Tier } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'
import { useCursor } from '@/strip/cursor'

import AuditQuality from './AuditQuality.vue'
import DailyLedger from './DailyLedger.vue'
import EntryLine from './EntryLine.vue'
import LoadRow from './LoadRow.vue'
import SelectedRows from './SelectedRows.vue'
import SheetDialog from './SheetDialog.vue'
import SheetTools from './SheetTools.vue'
import TypicalSearch from './TypicalSearch.vue'
import { MOST_LOADS, useLedger } from './useLedger'

const { document, assessment, problems } = storeToRefs(useDesign())
const cursor = useCursor()
const { loads, add, take, change, changeMany, remove, duplicate, step, place } = useLedger()
const openRow = ref('')
/** A sheet being looked at before it is taken. */
const sheet = ref<SheetSource | null>(null)
/** The energy column: watt-hours, or amp-hours at the bank's volts. */
const inAmpHours = ref(false)
const selected = ref<ReadonlySet<string>>(new Set())
let lastSelected = ''
/** Rows being dragged, and the tier or row they are held over. */
const dragged = ref<ReadonlySet<string> | null>(null)
const over = ref('')

const TIERS: readonly {
  tier: Tier
  title: string
  rule: (levels: { keep_frac: number; ease_frac: number }) => string
}[] = [
  { tier: 'life', title: 'Life', rule: () => 'dropped last, at the cut-off' },
  {
    tier: 'keep',
    title: 'Keep',
    rule: (levels) => `dropped only to protect the bank, at ${Math.round(levels.keep_frac * 100)} %`,
  },
  { tier: 'ease', title: 'Ease', rule: (levels) => `dropped below ${Math.round(levels.ease_frac * 100)} %` },
  { tier: 'spare', title: 'Spare', rule: () => 'only on sun that would be spilled' },
]

const groups = computed(() =>
  TIERS.map((tier) => ({
    ...tier,
    rows: loads.value.map((load, index) => ({ load, index })).filter((row) => row.load.tier === tier.tier),
    daily_wh: assessment.value?.loads.daily_by_tier_wh[tier.tier] ?? 0,
  })),
)
const shownOrder = computed(() => groups.value.flatMap((group) => group.rows.map((row) => row.load.id)))
const sumsById = computed(() => new Map(assessment.value?.loads.rows.map((row) => [row.id, row])))
const links = computed(() => [
  ...new Set(loads.value.map((load) => load.link).filter((link): link is string => !!link)),
])
const faults = computed(() => new Set(problems.value.map((problem) => problem.field)))
const ledgerLine = (key: string) => assessment.value?.bank.daily_ledger.find((line) => line.key === key)
const energy = (wattHours: number, ampHours: number | undefined) =>
  inAmpHours.value ? (ampHours ?? 0).toFixed(1) : count(wattHours)
const tierAh = (rows: { load: { id: string } }[]) =>
  rows.reduce((sum, row) => sum + (assessment.value?.bank.row_ah[row.load.id] ?? 0), 0)
const nextName = computed(
  () => loads.value.find((load) => load.id === assessment.value?.loads.measure_next)?.name ?? '',
)

function select(id: string, extend: boolean): void {
  const next = new Set(selected.value)
  const from = shownOrder.value.indexOf(lastSelected)
  const to = shownOrder.value.indexOf(id)
  if (extend && from >= 0)
    shownOrder.value.slice(Math.min(from, to), Math.max(from, to) + 1).forEach((key) => next.add(key))
  else if (!next.delete(id)) next.add(id)
  lastSelected = id
  selected.value = next
}

/** The selected rows if this one is among them, else this one alone. */
const withSelected = (id: string) => (selected.value.has(id) ? selected.value : new Set([id]))

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

function drop(tier: Tier, beforeId?: string): void {
  if (dragged.value) place(dragged.value, tier, beforeId)
  dragged.value = null
  over.value = ''
}

function drag(id: string, event: DragEvent): void {
  dragged.value = withSelected(id)
  event.dataTransfer?.setData('text/plain', id)
  if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move'
}

function hold(event: DragEvent, key: string): void {
  if (!dragged.value) return
  event.preventDefault()
  over.value = key
}
</script>

<template>
  <div v-if="document">
    <div class="entries">
      <EntryLine
        class="line"
        :full="loads.length >= MOST_LOADS"
        :bank_v="document.bank.unit_v * document.bank.series"
        @add="add"
        @sheet="(text) => (sheet = { text })"
      />
      <TypicalSearch class="typical" :full="loads.length >= MOST_LOADS" @add="add" />
      <SheetTools class="tools" :design="document" @sheet="(found) => (sheet = found)" />
    </div>
    <SheetDialog
      v-if="sheet"
      :sheet="sheet"
      :loads="loads"
      @take="
        (rows) => {
          take(rows)
          sheet = null
        }
      "
      @close="sheet = null"
    />
    <SelectedRows
      v-if="selected.size"
      :count="selected.size"
      @tier="(tier) => changeMany(selected, { tier })"
      @duplicate="duplicate(selected)"
      @remove="removeSelected"
      @clear="selected = new Set()"
    />
    <table v-if="loads.length" class="ledger loads" data-test="loads">
      <thead>
        <tr>
          <th scope="col" class="grip"><span class="visually-hidden">Select</span></th>
          <th scope="col">Load</th>
          <th scope="col" class="number few">Qty</th>
          <th scope="col" class="number watts">Runs, W</th>
          <th scope="col" class="number figure">Starts, W</th>
          <th scope="col" class="number narrow">Duty, %</th>
          <th scope="col" class="hours">
            <span class="full">Midnight – noon – midnight</span><span class="short">Hours of the day</span>
          </th>
          <th scope="col" class="number figure">
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
          <th scope="col" class="number price" title="Hours carried gained without this load">Without it</th>
          <th scope="col" class="more"><span class="visually-hidden">More</span></th>
        </tr>
      </thead>
      <tbody
        v-for="group in groups"
        :key="group.tier"
        @dragover="hold($event, group.tier)"
        @drop.prevent="drop(group.tier)"
      >
        <tr class="tier" :class="[group.tier, { over: over === group.tier }]">
          <th colspan="7" scope="rowgroup">
            <b>{{ group.title }}</b>
            <span class="lesser">{{ assessment ? group.rule(assessment.levels) : '' }}</span>
          </th>
          <td class="number">
            <ExplainedFigure v-if="group.rows.length" :figure="`loads.tier.${group.tier}`">{{
              energy(group.daily_wh, tierAh(group.rows))
            }}</ExplainedFigure>
          </td>
          <td colspan="2"></td>
        </tr>
        <LoadRow
          v-for="row in group.rows"
          :key="row.load.id"
          :class="{ over: over === row.load.id }"
          :load="row.load"
          :design="document"
          :index="row.index"
          :daily_wh="sumsById.get(row.load.id)?.daily_wh"
          :daily_ah="assessment?.bank.row_ah[row.load.id]"
          :in-amp-hours="inAmpHours"
          :quality="sumsById.get(row.load.id)?.quality"
          :lived-tier="sumsById.get(row.load.id)?.lived_tier"
          :price="assessment?.prices.without_load[row.load.id]"
          :pinned-hour="cursor.pinnedHourOfDay"
          :links="links"
          :faults="faults"
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
          @dragend="((dragged = null), (over = ''))"
          @dragover.stop="hold($event, row.load.id)"
          @drop.stop.prevent="drop(group.tier, row.load.id)"
        />
      </tbody>
      <tbody v-if="assessment" class="standing" data-test="standing">
        <tr class="tier">
          <th colspan="7" scope="rowgroup">
            <b>Standing draw</b> <span class="lesser">what waits, day and night</span>
          </th>
          <td colspan="3"></td>
        </tr>
        <tr>
          <td></td>
          <td colspan="6">
            Inverter standing ready,
            <RouterLink :to="{ name: 'inverter' }">{{ amount(document.inverter.idle_w) }} W</RouterLink>
          </td>
          <td class="number">{{ energy(ledgerLine('idle')?.wh ?? 0, ledgerLine('idle')?.ah) }}</td>
          <td class="number"><PriceTag :price="assessment.prices.without_idle" /></td>
          <td></td>
        </tr>
        <tr>
          <td></td>
          <td colspan="6">Standby of the loads <span class="lesser">in the rows above</span></td>
          <td class="number">
            {{ energy(assessment.loads.standby_wh, assessment.loads.standby_wh / assessment.bank.nominal_v) }}
          </td>
          <td colspan="2"></td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <th colspan="7" scope="row">All loads</th>
          <td class="number">
            <ExplainedFigure figure="loads.daily_wh">{{
              energy(
                assessment?.loads.daily_wh ?? 0,
                Object.values(assessment?.bank.row_ah ?? {}).reduce((sum, ah) => sum + ah, 0),
              )
            }}</ExplainedFigure>
          </td>
          <td colspan="2"></td>
        </tr>
      </tfoot>
    </table>
    <p v-else class="first">
      Type the first load above, for example <span class="figures">fridge 120W starts 780 duty 36%</span>, and
      press Enter. Watts, starts, duty, hours (<span class="figures">7-8,17-18</span>),
      <span class="figures">120V 5A pf 0.8</span>, <span class="figures">300kWh/year</span>,
      <span class="figures">dc</span>, <span class="figures">2x</span>, and a tier word are understood in any
      order; rows copied from a sheet can be pasted there. Or press <span class="figures">/</span> and seek a
      typical device.
    </p>
    <template v-if="loads.length && assessment">
      <AuditQuality :assessment="assessment" :next-name="nextName" />
      <DailyLedger :assessment="assessment" :pinned-hour="cursor.pinnedHourOfDay" />
    </template>
  </div>
</template>

<style scoped>
.entries {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 176px;
  gap: 0 10px;
  position: relative;
  align-items: start;
}

.standing a {
  color: var(--pine);
  font-weight: 600;
}

.watts {
  width: 86px;
}

.unit {
  font: inherit;
  border-bottom: 1px dotted var(--slate);
}

.over :deep(td),
.tier.over th,
.tier.over td,
tr.over :deep(td) {
  border-top: 2px solid var(--pine);
}

.grip {
  width: 20px;
}

.standing td {
  height: 24px;
}

.loads {
  table-layout: fixed;
}

.short {
  display: none;
}

.few {
  width: 38px;
}

.narrow {
  width: 54px;
}

.figure {
  width: 68px;
}

.price {
  width: 82px;
}

.more {
  width: 28px;
}

.hours {
  width: 168px;
}

.tier th {
  font-weight: 400;
  color: var(--ink);
  font-size: 13px;
  border-bottom: 1px solid var(--slate);
  padding: 5px 6px 2px;
}

.tier td {
  font-weight: 700;
  vertical-align: bottom;
  border-bottom-color: var(--slate);
  padding-bottom: 4px;
}

.tier b {
  font-size: 14px;
  margin-right: 4px;
}

@media (max-width: 1150px) {
  .full {
    display: none;
  }

  .short {
    display: inline;
  }

  .loads :deep(td),
  .loads th {
    padding-left: 3px;
    padding-right: 3px;
  }

  .narrow {
    width: 46px;
  }

  .figure {
    width: 60px;
  }

  .hours {
    width: 136px;
  }

  .price {
    width: 78px;
  }

  .more {
    width: 24px;
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

tfoot th {
  border-bottom: 0;
  color: var(--ink);
}

tfoot td {
  border-bottom: 0;
  font-weight: 700;
}

.first {
  margin-top: 18px;
  max-width: 620px;
}
</style>
