<script setup lang="ts">
/** Method by method: what each would buy, and what the storm says of it. The hours are the widest row, drawn as bars. */
import { storeToRefs } from 'pinia'

import type { KitColumn } from '@/api/client'
import { amount, count, hours, kilowattHours, kilowatts, sharePercent } from '@/shared/format'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import WideTable from '@/shared/WideTable.vue'

import { useKitShares, useOpinions, type KitName } from './opinions'

const props = defineProps<{ keeping: KitName | null }>()
const emit = defineEmits<{ keep: [column: KitColumn] }>()
const method = defineModel<string>({ required: true })
const { report, columns } = storeToRefs(useOpinions())
const { shares } = storeToRefs(useKitShares())

const isMethod = (column: KitColumn) => column.kit !== 'designed' && column.kit !== 'model'
const verdictOf = (column: KitColumn) =>
  report.value?.opinions.find((one) => one.info.method === column.kit)?.blame.verdict
const part = (time_h: number) => `${(100 * time_h) / Math.max(report.value?.duration_h ?? 1, 1e-9)}%`
const wouldCarry = (column: KitColumn) =>
  column.with_inverter_h > column.hours_carried_h + 0.05
    ? `${hours(column.with_inverter_h)} with an inverter that holds its loads and their starts`
    : ''
/** What is bought for a current that no single controller is sold for, or for several places. */
const unitsSaid = (lots: KitColumn['bought']['controllers']) =>
  lots.length > 1 || lots.some((lot) => lot.count > 1)
    ? lots.map((lot) => `${lot.count > 1 ? `${lot.count}×` : ''}${amount(lot.output_a)} A`).join(' + ')
    : ''
const ROWS: readonly {
  key: string
  title: string
  value: (column: KitColumn) => string
  more?: (column: KitColumn) => string
}[] = [
  {
    key: 'bank',
    title: 'Bank',
    value: ({ bought }) => kilowattHours(bought.bank_wh),
    more: ({ bought }) => `${bought.strings}×${amount(bought.bank_ah / bought.strings)} Ah`,
  },
  { key: 'array', title: 'Array', value: ({ bought }) => (bought.array_w ? kilowatts(bought.array_w) : '–') },
  {
    key: 'controller',
    title: 'Controller',
    value: ({ bought }) => (bought.controller_a ? `${count(bought.controller_a)} A` : '–'),
    more: (column) => (isMethod(column) ? unitsSaid(column.bought.controllers) : ''),
  },
  {
    key: 'inverter',
    title: 'Inverter',
    value: ({ bought }) => (bought.inverter_w ? kilowatts(bought.inverter_w) : '–'),
  },
  {
    key: 'generator',
    title: 'Generator',
    value: ({ bought }) => (bought.generator_w ? kilowatts(bought.generator_w) : '–'),
  },
  { key: 'price', title: 'Price', value: ({ bought }) => count(bought.price) },
]
/** How a figure comes about: the column's own, or that of its share of the year. */
const figureOf = (column: KitColumn, key: string) =>
  key === 'share' ? shares.value[column.kit]?.figure : column.figures[key]
const LAST: readonly { key: string; title: string; value: (column: KitColumn) => string }[] = [
  {
    key: 'share',
    title: 'Of the year’s storms',
    value: ({ kit }) => {
      const share = shares.value[kit]
      return share ? sharePercent(share.keep_frac) : '…'
    },
  },
  { key: 'life', title: 'Life, years', value: ({ life_years }) => amount(Math.round(life_years * 10) / 10) },
]
</script>

<template>
  <WideTable label="What each method would buy, and what it carries">
    <table class="ledger methods" data-test="methods">
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">Part</span></th>
          <th
            v-for="column in columns"
            :key="column.kit"
            scope="col"
            class="number"
            :class="{ chosen: column.kit === method, own: !isMethod(column) }"
          >
            <button
              v-if="isMethod(column)"
              type="button"
              class="pick"
              :aria-pressed="column.kit === method"
              :data-test="`method-${column.kit}`"
              @click="method = column.kit"
            >
              {{ column.title }}
            </button>
            <template v-else>{{ column.title }}</template>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in ROWS" :key="row.key" :data-test="`row-${row.key}`">
          <th scope="row">{{ row.title }}</th>
          <td
            v-for="column in columns"
            :key="column.kit"
            class="number"
            :class="{ chosen: column.kit === method }"
            :data-test="`${row.key}-${column.kit}`"
          >
            <ExplainedFigure v-if="figureOf(column, row.key)" :figure="figureOf(column, row.key)!">{{
              row.value(column)
            }}</ExplainedFigure>
            <template v-else>{{ row.value(column) }}</template>
            <span v-if="row.more?.(column)" class="lesser more">{{ row.more(column) }}</span>
          </td>
        </tr>
        <tr class="hours" data-test="row-hours">
          <th scope="row">
            Hours carried <span class="lesser more">of {{ hours(report?.duration_h ?? 0) }}</span>
          </th>
          <td
            v-for="column in columns"
            :key="column.kit"
            class="number"
            :class="{ chosen: column.kit === method }"
            :title="wouldCarry(column) || undefined"
            :data-test="`hours-${column.kit}`"
          >
            <span class="bar" aria-hidden="true">
              <i class="could" :style="{ height: part(column.with_inverter_h) }" />
              <i
                class="is"
                :class="{ whole: column.is_carried }"
                :style="{ height: part(column.hours_carried_h) }"
              />
            </span>
            <b :class="column.is_carried ? 'whole' : 'short'"
              ><ExplainedFigure v-if="column.figures['hours']" :figure="column.figures['hours']">{{
                hours(column.hours_carried_h)
              }}</ExplainedFigure></b
            >
            <span v-if="wouldCarry(column)" class="lesser more">({{ hours(column.with_inverter_h) }})</span>
            <span v-else-if="verdictOf(column) === 'over'" class="lesser more">over</span>
          </td>
        </tr>
        <tr v-for="row in LAST" :key="row.key" :data-test="`row-${row.key}`">
          <th scope="row">{{ row.title }}</th>
          <td
            v-for="column in columns"
            :key="column.kit"
            class="number"
            :class="{ chosen: column.kit === method }"
            :data-test="`${row.key}-${column.kit}`"
          >
            <ExplainedFigure v-if="figureOf(column, row.key)" :figure="figureOf(column, row.key)!">{{
              row.value(column)
            }}</ExplainedFigure>
            <template v-else>{{ row.value(column) }}</template>
          </td>
        </tr>
        <tr class="acts">
          <th scope="row"><span class="visually-hidden">Keep as an alternative</span></th>
          <td
            v-for="column in columns"
            :key="column.kit"
            class="number"
            :class="{ chosen: column.kit === method }"
          >
            <button
              v-if="column.kit !== 'designed'"
              type="button"
              class="keep"
              :disabled="props.keeping !== null"
              :aria-label="`Keep ${column.title} as an alternative`"
              title="Keep the design with this kit as an alternative, for Side by side"
              :data-test="`keep-${column.kit}`"
              @click="emit('keep', column)"
            >
              {{ props.keeping === column.kit ? 'Keeping…' : 'Keep' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </WideTable>
</template>

<style scoped>
.methods {
  table-layout: fixed;
  min-width: 760px;
}

.methods th[scope='row'],
.methods thead th:first-child {
  width: 104px;
  white-space: normal;
  text-align: left;
  font-weight: 600;
  padding-right: 4px;
}

.methods thead th.number {
  vertical-align: bottom;
  white-space: normal;
  line-height: 1.2;
}

.own {
  font-style: italic;
}

.pick {
  width: 100%;
  white-space: normal;
  line-height: 1.2;
  text-align: right;
  font: inherit;
  font-weight: 700;
  color: var(--pine);
  text-decoration: underline;
  text-underline-offset: 2px;
}

.pick[aria-pressed='true'] {
  color: var(--ink);
  text-decoration: none;
}

.chosen {
  background: var(--sheet);
  box-shadow:
    inset 1px 0 var(--rule),
    inset -1px 0 var(--rule);
}

td {
  white-space: nowrap;
}

.more {
  display: block;
  font-size: 12px;
  white-space: normal;
  line-height: 1.2;
}

.hours td,
.hours th {
  padding-top: 8px;
  vertical-align: top;
  border-top: 1px solid var(--ink);
}

.bar {
  position: relative;
  display: block;
  height: 76px;
  margin: 0 0 3px 22%;
  background: var(--idle);
}

.bar i {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
}

.could {
  background: repeating-linear-gradient(45deg, var(--ember) 0 1px, transparent 1px 5px);
}

.is {
  background: var(--ember);
}

.whole {
  color: var(--pine);
}

.short {
  color: var(--wine);
}

.keep {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.keep:disabled {
  color: var(--slate);
}
</style>
