<script setup lang="ts">
/** The same need in each chemistry, at each depth people live with. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { ChemistryRow } from '@/api/client'
import { useDesign } from '@/design/store'
import { count, kilowattHours } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { depthFields } from './depth'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const rows = computed(() => assessment.value?.arrangement.chemistries ?? [])
/** Short names for the table: LFP for lithium iron phosphate, and the lead-acid kinds without the word lead-acid. */
function shortName(label: string): string {
  const short = label.replace('lithium iron phosphate', 'LFP').replace(' lead-acid', '')
  return `${short[0]?.toUpperCase()}${short.slice(1)}`
}

const isFirst = (index: number) => rows.value[index - 1]?.chemistry !== rows.value[index]?.chemistry

/** Chemistry and depth as one edit; the cut-off stays at or below the new floor. */
function take(row: ChemistryRow): void {
  const bank = document.value?.bank
  if (!bank) return
  const { depth_frac, cutoff_soc_frac } = depthFields(row.depth_frac, bank.cutoff_soc_frac)
  const other = row.chemistry !== bank.chemistry
  store.setAll([
    { path: 'bank.chemistry', value: row.chemistry },
    { path: 'bank.depth_frac', value: depth_frac },
    { path: 'bank.cutoff_soc_frac', value: cutoff_soc_frac },
    // Another chemistry's data sheet no longer holds.
    ...(other
      ? [
          'unit',
          'unit_max_charge_a',
          'unit_max_discharge_a',
          'charge_efficiency_frac',
          'discharge_efficiency_frac',
          'peukert_exponent',
        ].map((field) => ({ path: `bank.${field}`, value: null }))
      : []),
  ])
}
</script>

<template>
  <div v-if="document">
    <p class="lesser intro">
      The need of the sheet met with typical values, in blocks of 12 V 100 Ah, at
      {{ document.bank.need.cycles_per_year }}
      cycles a year. Prices are typical, in your own currency; the library's units have theirs.
    </p>
    <WideTable label="Chemistries side by side">
      <table class="ledger" data-test="chemistries">
        <thead>
          <tr>
            <th scope="col">Chemistry</th>
            <th scope="col" class="number">Depth</th>
            <th scope="col" class="number">Rated</th>
            <th scope="col" class="number">Blocks</th>
            <th scope="col" class="number">kg</th>
            <th scope="col" class="number">Floor, m²</th>
            <th scope="col" class="number">Price</th>
            <th scope="col" class="number">Cycles</th>
            <th scope="col" class="number">Years</th>
            <th scope="col" class="number">a kWh given</th>
            <th scope="col"><span class="visually-hidden">Take</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="(row, index) in rows" :key="`${row.chemistry}${row.depth_frac}`">
            <tr :class="{ chosen: row.is_chosen, first: isFirst(index) }">
              <td>{{ isFirst(index) ? shortName(row.label) : '' }}</td>
              <td class="number">{{ Math.round(row.depth_frac * 100) }} %</td>
              <td class="number">{{ kilowattHours(row.nominal_wh) }}</td>
              <td class="number">{{ row.blocks }}</td>
              <td class="number">{{ count(row.mass_kg) }}</td>
              <td class="number">{{ row.floor_m2.toFixed(2) }}</td>
              <td class="number">{{ count(row.price) }}</td>
              <td class="number">{{ count(row.cycles) }}</td>
              <td class="number" :title="row.by_calendar ? 'by the calendar' : 'by cycles'">
                {{ row.years.toFixed(1) }}
              </td>
              <td class="number">
                {{ row.price_per_kwh_given == null ? '–' : row.price_per_kwh_given.toFixed(2) }}
              </td>
              <td class="act">
                <span v-if="row.is_chosen" class="lesser">chosen</span>
                <button
                  v-else
                  type="button"
                  class="take"
                  :aria-label="`Take ${row.label} at ${Math.round(row.depth_frac * 100)} %`"
                  @click="take(row)"
                >
                  Take
                </button>
              </td>
            </tr>
            <tr v-if="rows[index + 1]?.chemistry !== row.chemistry" class="words">
              <td colspan="11">Upkeep: {{ row.upkeep }}. Stands {{ row.may_stand }}.</td>
            </tr>
          </template>
        </tbody>
      </table>
    </WideTable>
  </div>
</template>

<style scoped>
.intro {
  margin: 0 0 6px;
}

.chosen td {
  font-weight: 700;
}

td {
  text-transform: none;
}

.first td:first-child {
  font-weight: 600;
}

.words td {
  font-size: 12.5px;
  color: var(--slate);
  padding-bottom: 5px;
  border-bottom-color: var(--slate);
  white-space: normal;
}

.take {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.act {
  text-align: right;
}

@media (max-width: 1150px) {
  td,
  th {
    padding-left: 2px;
    padding-right: 2px;
  }

  .number {
    font-size: 13px;
  }
}
</style>
