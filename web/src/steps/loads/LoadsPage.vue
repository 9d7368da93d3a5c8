<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import type { Load, SheetSource, Tier } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count } from '@/shared/format'
import { freshId, idFromName } from '@/shared/ids'
import { useCursor } from '@/strip/cursor'

import DailyLedger from './DailyLedger.vue'
import EntryLine from './EntryLine.vue'
import LoadRow from './LoadRow.vue'
import SheetDialog from './SheetDialog.vue'
import SheetTools from './SheetTools.vue'

const MOST_LOADS = 400
const store = useDesign()
const { document, assessment, problems } = storeToRefs(store)
const cursor = useCursor()
const loads = computed(() => document.value?.loads ?? [])
const openRow = ref('')
/** A sheet being looked at before it is taken. */
const sheet = ref<SheetSource | null>(null)

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
  })).filter((group) => group.rows.length > 0),
)
const dailyById = computed(() => new Map(assessment.value?.loads.rows.map((row) => [row.id, row])))
const links = computed(() => [
  ...new Set(loads.value.map((load) => load.link).filter((link): link is string => !!link)),
])
const faults = computed(() => new Set(problems.value.map((problem) => problem.field)))

/** Rows of a sheet: those known are replaced where they stand, the rest is added below. */
function take(rows: Load[]): void {
  const byId = new Map(rows.map((load) => [load.id, load]))
  const kept = loads.value.map((load) => byId.get(load.id) ?? load)
  const known = new Set(loads.value.map((load) => load.id))
  store.set('loads', [...kept, ...rows.filter((load) => !known.has(load.id))])
  sheet.value = null
}

function add(load: Load): void {
  const used = loads.value.map((row) => row.id)
  store.set('loads', [...loads.value, { ...load, id: idFromName(load.name, used) }])
}

function change(index: number, part: Partial<Load>): void {
  store.set(
    'loads',
    loads.value.map((load, at) => (at === index ? { ...load, ...part } : load)),
  )
}

function remove(index: number): void {
  store.set(
    'loads',
    loads.value.filter((_, at) => at !== index),
  )
}

function duplicate(index: number): void {
  const load = loads.value[index]
  if (!load || loads.value.length >= MOST_LOADS) return
  const copy = {
    ...load,
    id: freshId(
      load.id.slice(0, 30),
      loads.value.map((row) => row.id),
    ),
  }
  store.set('loads', [...loads.value.slice(0, index + 1), copy, ...loads.value.slice(index + 1)])
}
</script>

<template>
  <div v-if="document">
    <div class="entry">
      <EntryLine :full="loads.length >= MOST_LOADS" @add="add" @sheet="(text) => (sheet = { text })" />
      <SheetTools :design="document" @sheet="(found) => (sheet = found)" />
    </div>
    <SheetDialog v-if="sheet" :sheet="sheet" :loads="loads" @take="take" @close="sheet = null" />
    <table v-if="loads.length" class="ledger loads" data-test="loads">
      <thead>
        <tr>
          <th scope="col">Load</th>
          <th scope="col" class="number few">Qty</th>
          <th scope="col" class="number figure">Runs, W</th>
          <th scope="col" class="number figure">Starts, W</th>
          <th scope="col" class="number narrow">Duty, %</th>
          <th scope="col" class="hours">
            <span class="full">Midnight – noon – midnight</span><span class="short">Hours of the day</span>
          </th>
          <th scope="col" class="number figure">Wh/day</th>
          <th scope="col" class="number price" title="Hours carried gained without this load">Without it</th>
          <th scope="col" class="more"><span class="visually-hidden">More</span></th>
        </tr>
      </thead>
      <tbody v-for="group in groups" :key="group.tier">
        <tr class="tier" :class="group.tier">
          <th colspan="6" scope="rowgroup">
            <b>{{ group.title }}</b>
            <span class="lesser">{{ assessment ? group.rule(assessment.levels) : '' }}</span>
          </th>
          <td class="number">{{ count(group.daily_wh) }}</td>
          <td colspan="2"></td>
        </tr>
        <LoadRow
          v-for="row in group.rows"
          :key="row.load.id"
          :load="row.load"
          :index="row.index"
          :daily_wh="dailyById.get(row.load.id)?.daily_wh"
          :lived-tier="dailyById.get(row.load.id)?.lived_tier"
          :price="assessment?.prices.without_load[row.load.id]"
          :pinned-hour="cursor.pinnedHourOfDay"
          :links="links"
          :faults="faults"
          :is-open="openRow === row.load.id"
          @change="(part) => change(row.index, part)"
          @remove="remove(row.index)"
          @duplicate="duplicate(row.index)"
          @toggle="openRow = openRow === row.load.id ? '' : row.load.id"
        />
      </tbody>
      <tfoot>
        <tr>
          <th colspan="6" scope="row">All loads</th>
          <td class="number">
            <ExplainedFigure figure="loads.daily_wh">{{
              count(assessment?.loads.daily_wh ?? 0)
            }}</ExplainedFigure>
          </td>
          <td colspan="2"></td>
        </tr>
      </tfoot>
    </table>
    <p v-else class="first">
      Type the first load above, for example <span class="figures">fridge 120W starts 780 duty 36%</span>, and
      press Enter. Watts, starts, duty, hours (<span class="figures">7-8,17-18</span>),
      <span class="figures">dc</span>, <span class="figures">2x</span>, and a tier word are understood in any
      order.
    </p>
    <DailyLedger
      v-if="loads.length && assessment"
      :assessment="assessment"
      :pinned-hour="cursor.pinnedHourOfDay"
    />
  </div>
</template>

<style scoped>
.entry {
  position: relative;
}

.loads {
  table-layout: fixed;
}

.short {
  display: none;
}

.few {
  width: 42px;
}

.narrow {
  width: 58px;
}

.figure {
  width: 66px;
}

.price {
  width: 84px;
}

.more {
  width: 28px;
}

.hours {
  width: 184px;
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
