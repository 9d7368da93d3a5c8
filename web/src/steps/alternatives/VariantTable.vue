<script setup lang="ts">
/** What each alternative comes to, in columns; what is the same in all is folded away. */
import { computed, ref } from 'vue'

import { volume } from '@/fields/units'
import { amount, calendarMoment, count, hours, sharePercent } from '@/shared/format'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import HoursCarried from '@/figures/HoursCarried.vue'
import WideTable from '@/shared/WideTable.vue'
import { useDesign } from '@/design/store'
import { storeToRefs } from 'pinia'

import type { Laid } from './sideBySide'

const props = defineProps<{ laid: readonly Laid[] }>()
const picked = defineModel<string>({ required: true })
const { document } = storeToRefs(useDesign())
const isAllShown = ref(false)
const longest_h = computed(() => Math.max(...props.laid.map((one) => one.column?.duration_h ?? 0), 1e-9))
const ROWS: readonly {
  key: string
  title: string
  value: (one: Laid) => string
  more?: (one: Laid) => string
}[] = [
  {
    key: 'share',
    title: 'Of the year’s storms',
    value: ({ year }) => (year ? sharePercent(year.keep_frac) : '…'),
    more: ({ year }) => (year ? `Life ${sharePercent(year.life_frac)}` : ''),
  },
  {
    key: 'worst',
    title: 'Worst start',
    value: ({ year }) => (year ? hours(year.worst_h) : '…'),
    more: ({ year }) => (year ? calendarMoment(year.worst_start) : ''),
  },
  {
    key: 'price',
    title: 'Price of the units',
    value: ({ column }) => (column ? count(column.price.total) : '…'),
  },
  {
    key: 'life',
    title: 'Life of the bank',
    value: ({ column }) => (column ? `${amount(Math.round(column.life_years * 10) / 10)} years` : '…'),
  },
  {
    key: 'kwh',
    title: 'Bank, a kWh given',
    value: ({ column }) =>
      !column ? '…' : column.price_per_kwh_given == null ? '–' : column.price_per_kwh_given.toFixed(2),
  },
  { key: 'mass', title: 'Mass', value: ({ column }) => (column ? `${count(column.mass_kg)} kg` : '…') },
  {
    key: 'floor',
    title: 'Floor of the bank',
    value: ({ column }) => (column ? `${amount(column.floor_m2)} m²` : '…'),
  },
  {
    key: 'fuel',
    title: 'Fuel, planned storm',
    value: ({ column }) => {
      if (!column || !document.value) return '…'
      const unit = volume(document.value)
      return column.fuel_l ? `${unit.show(column.fuel_l).toFixed(1)} ${unit.label}` : '–'
    },
  },
  {
    key: 'checks',
    title: 'Checks open',
    value: ({ column }) => (column ? `${column.stops} stop, ${column.mends} mend` : '…'),
  },
]
const figureOf = (one: Laid, key: string) => (key === 'share' ? one.year?.figure : one.column?.figures[key])
const facts = computed(() => {
  const first = props.laid.find((one) => one.column)?.column?.facts ?? []
  return first.map((fact) => {
    const texts = props.laid.map(
      (one) => one.column?.facts.find((other) => other.key === fact.key)?.text ?? '…',
    )
    return { ...fact, texts, isSame: new Set(texts.filter((text) => text !== '…')).size < 2 }
  })
})
const shownFacts = computed(() => facts.value.filter((fact) => isAllShown.value || !fact.isSame))
const same = computed(() => facts.value.filter((fact) => fact.isSame).length)
const checksOf = (one: Laid) =>
  one.column?.open_checks.map((check) => `${check.severity}: ${check.title}`).join('\n')
</script>

<template>
  <WideTable label="Alternatives side by side">
    <table class="ledger columns" :style="{ minWidth: `${130 + laid.length * 116}px` }" data-test="columns">
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">Figure</span></th>
          <th
            v-for="one in laid"
            :key="one.variant.id"
            scope="col"
            :class="{ picked: picked === one.variant.id }"
          >
            <button
              v-if="!one.isRoot"
              type="button"
              :aria-pressed="picked === one.variant.id"
              title="What makes the difference"
              @click="picked = one.variant.id"
            >
              {{ one.title }}
            </button>
            <template v-else>{{ one.title }}</template>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr class="carried">
          <th scope="row">Hours carried</th>
          <td
            v-for="one in laid"
            :key="one.variant.id"
            :class="{ picked: picked === one.variant.id }"
            :data-test="`carried-${one.variant.label || 'root'}`"
          >
            <HoursCarried v-if="one.column" :of="one.column" :longest_h="longest_h" />
            <template v-else>…</template>
          </td>
        </tr>
        <tr v-for="row in ROWS" :key="row.key" :data-test="`figure-${row.key}`">
          <th scope="row">{{ row.title }}</th>
          <td
            v-for="one in laid"
            :key="one.variant.id"
            class="figures"
            :class="{ picked: picked === one.variant.id }"
            :title="row.key === 'checks' ? checksOf(one) : undefined"
          >
            <ExplainedFigure v-if="figureOf(one, row.key)" :figure="figureOf(one, row.key)!">{{
              row.value(one)
            }}</ExplainedFigure>
            <template v-else>{{ row.value(one) }}</template>
            <span v-if="row.more" class="lesser more">{{ row.more(one) }}</span>
          </td>
        </tr>
        <tr class="heading">
          <th :colspan="laid.length + 1" scope="rowgroup">
            What differs
            <button v-if="same" type="button" class="fold" data-test="same" @click="isAllShown = !isAllShown">
              {{ isAllShown ? 'Hide what is the same' : `Show ${same} that are the same` }}
            </button>
          </th>
        </tr>
        <tr v-for="fact in shownFacts" :key="fact.key" :data-test="`fact-${fact.key}`">
          <th scope="row">{{ fact.title }}</th>
          <td
            v-for="(one, at) in laid"
            :key="one.variant.id"
            class="words"
            :class="{ picked: picked === one.variant.id, same: at > 0 && fact.texts[at] === fact.texts[0] }"
          >
            {{ at > 0 && fact.texts[at] === fact.texts[0] ? 'the same' : fact.texts[at] }}
          </td>
        </tr>
      </tbody>
    </table>
  </WideTable>
</template>

<style scoped>
.columns {
  table-layout: fixed;
}

thead th:first-child,
th[scope='row'] {
  width: 126px;
  text-align: left;
  font-weight: 600;
  vertical-align: top;
  padding-top: 4px;
}

thead th {
  white-space: normal;
  overflow-wrap: anywhere;
  vertical-align: bottom;
  line-height: 1.2;
}

thead button {
  text-align: left;
  font: inherit;
  font-weight: 700;
  color: var(--pine);
  text-decoration: underline;
  text-underline-offset: 2px;
}

thead button[aria-pressed='true'] {
  color: var(--ink);
  text-decoration: none;
}

td {
  vertical-align: top;
  padding-top: 4px;
}

.words {
  font-size: 13px;
  line-height: 1.3;
  overflow-wrap: anywhere;
}

.same {
  color: var(--slate);
}

.picked {
  background: var(--sheet);
}

.more {
  display: block;
  font-size: 12px;
}

.heading th {
  padding-top: 10px;
  font-weight: 700;
  text-align: left;
}

.fold {
  margin-left: 10px;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
}
</style>
