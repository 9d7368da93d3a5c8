<script setup lang="ts">
/** From need to bank: a sheet that reads from top to bottom, its choices open to change, the binding line marked. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { SheetLine, Tier } from '@/api/client'
import { typedAt } from '@/design/path'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { amount, count, kilowattHours } from '@/shared/format'
import LedgerCell from '@/fields/LedgerCell.vue'
import { temperature } from '@/fields/units'
import WideTable from '@/shared/WideTable.vue'

const store = useDesign()
const { document, assessment, problems } = storeToRefs(store)
const need = computed(() => assessment.value?.arrangement.need)
const PERCENT = new Set(['growth', 'discharge', 'depth', 'cold', 'age'])
/** Lines whose choice is a number that is typed here. */
const TYPED = new Set(['autonomy', 'growth', 'discharge', 'depth', 'age'])
const tiers = [
  { value: 'life', title: 'Life alone' },
  { value: 'keep', title: 'Life and Keep' },
  { value: 'ease', title: 'Life, Keep and Ease' },
]
const days = [
  { value: true, title: 'a dark day' },
  { value: false, title: 'a usual day' },
]

const isFault = (path: string | null | undefined) => problems.value.some((problem) => problem.field === path)
/** What is typed stands as it was typed, also while it cannot be used. */
const shown = (line: SheetLine, value = typedAt(document.value, line.path, line.value)) =>
  PERCENT.has(line.key)
    ? amount(value * 100)
    : line.unit === 'Wh'
      ? count(value)
      : line.key === 'nominal_ah'
        ? value.toFixed(1)
        : amount(value)
const unit = (line: SheetLine) => (PERCENT.has(line.key) ? '%' : line.unit)

function set(line: SheetLine, typed: number | null): void {
  if (typed === null || !line.path) return
  const value = PERCENT.has(line.key) ? Math.round(typed * 1e4) / 1e6 : typed
  store.set(line.path, value)
}

/** The demand that asks for most, and whether it asks for other leads as well. */
const binding = computed(() => need.value?.strings.find((entry) => entry.key === need.value?.binding))
const otherLeads = computed(() => !!binding.value && binding.value.takeoff !== document.value?.bank.takeoff)
const leads = computed(() => (otherLeads.value ? ' on equal leads' : ''))

function take(): void {
  if (!binding.value) return
  store.setAll([
    { path: 'bank.parallel', value: binding.value.strings },
    { path: 'bank.takeoff', value: binding.value.takeoff },
  ])
}

const remarks = computed<Record<string, string>>(() => {
  if (!document.value) return {}
  const degrees = temperature(document.value)
  return { cold: ` (${degrees.show(document.value.bank.temp_c)} ${degrees.label}, by Place and life)` }
})
</script>

<template>
  <div v-if="document && need" class="need">
    <div class="choices">
      <ChoiceField
        label="Carries"
        :value="document.bank.need.lowest_tier"
        :choices="tiers"
        @change="(tier: Tier) => store.set('bank.need.lowest_tier', tier)"
      />
      <ChoiceField
        label="through"
        :value="document.bank.need.dark_day"
        :choices="days"
        @change="(dark: boolean) => store.set('bank.need.dark_day', dark)"
      />
      <p class="result" data-test="need-result">
        <b>{{ need.strings_needed }} in parallel{{ leads }}</b> of
        {{ amount(assessment?.bank.nominal_v ?? 0) }} V {{ amount(document.bank.unit_ah) }} Ah,
        {{ kilowattHours(need.next_size_wh) }}; {{ need.strings_there }}
        {{ need.strings_there === 1 ? 'is' : 'are' }} there.
        <button
          v-if="(need.strings_needed !== need.strings_there || otherLeads) && need.strings_needed <= 64"
          type="button"
          class="take"
          data-test="take-strings"
          @click="take"
        >
          Take {{ need.strings_needed }}
        </button>
      </p>
    </div>
    <WideTable label="From need to bank">
      <table class="ledger sheet" data-test="need-sheet">
        <thead>
          <tr>
            <th scope="col">From need to bank</th>
            <th scope="col" class="number value">Value</th>
            <th scope="col" class="unit"><span class="visually-hidden">Unit</span></th>
            <th scope="col">How</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="line in need.lines"
            :key="line.key"
            :class="{ sum: line.is_sum }"
            :data-test="`need-${line.key}`"
          >
            <td>{{ line.label }}</td>
            <td class="number">
              <LedgerCell
                v-if="TYPED.has(line.key)"
                :text="shown(line)"
                :column="'need'"
                :label="line.label"
                :fault="isFault(line.path)"
                @number="(value) => set(line, value)"
              />
              <template v-else>{{ shown(line) }}</template>
            </td>
            <td class="unit">{{ unit(line) }}</td>
            <td class="lesser how">{{ line.formula }}{{ remarks[line.key] }}</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <WideTable label="Strings needed">
      <table class="ledger strings" data-test="need-strings">
        <thead>
          <tr>
            <th scope="col">What asks for strings</th>
            <th scope="col" class="number">Asked</th>
            <th scope="col" class="number">One string gives</th>
            <th scope="col" class="number">Strings</th>
            <th scope="col"></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in need.strings" :key="entry.key">
            <td>{{ entry.label }}</td>
            <td class="number">{{ count(entry.asked) }} {{ entry.unit }}</td>
            <td class="number">{{ count(entry.per_string) }} {{ entry.unit }}</td>
            <td class="number">{{ entry.strings }}</td>
            <td class="binds">{{ entry.key === need.binding ? '◀ binds' : '' }}</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
  </div>
</template>

<style scoped>
.choices {
  display: grid;
  grid-template-columns: 176px 132px 1fr;
  gap: 10px;
  align-items: end;
  margin-bottom: 8px;
}

.result {
  margin: 0 0 6px;
}

.take {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.sheet td {
  height: 23px;
}

.value {
  width: 96px;
}

.unit {
  width: 34px;
  padding-left: 0;
  color: var(--slate);
}

.how {
  font-size: 13px;
}

.sum td {
  font-weight: 700;
  border-top: 1px solid var(--ink);
}

.sum .how {
  font-weight: 400;
}

.strings {
  margin-top: 14px;
}

.binds {
  color: var(--ember-ink);
  font-weight: 700;
  width: 74px;
}

@media (max-width: 640px) {
  .choices {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }

  .choices > :nth-child(n + 3) {
    grid-column: 1 / -1;
  }
}
</style>
