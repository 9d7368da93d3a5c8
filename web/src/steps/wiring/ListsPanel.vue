<script setup lang="ts">
/** What is taken to the shop and the bench: parts with prices, cut list, devices, placards, and what is checked of each run before it is closed. */
import { computed, ref } from 'vue'

import type { WiringSheet } from '@/api/client'
import QuantityCell from '@/fields/QuantityCell.vue'
import { cableLength } from '@/fields/units'
import { amount, count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import { saveTable } from '@/sheets/files'

import type { Wiring } from './useWiring'

const props = defineProps<{ sheet: WiringSheet; wiring: Wiring }>()
const LISTS = [
  { key: 'parts', title: 'Parts to buy' },
  { key: 'cuts', title: 'Cut list' },
  { key: 'devices', title: 'Fuses and breakers' },
  { key: 'placards', title: 'Placards' },
  { key: 'checks', title: 'Before closing' },
] as const
const shown = ref<(typeof LISTS)[number]['key']>('parts')
const trouble = ref('')
const lists = computed(() => props.sheet.lists)
const unit = computed(() => (props.wiring.document.value ? cableLength(props.wiring.document.value) : null))
const long = (metres: number) => amount(Math.round((unit.value?.show(metres) ?? metres) * 10) / 10)
const money = (value: number) =>
  value.toLocaleString('en-US', { minimumFractionDigits: 2, maximumFractionDigits: 2 })
/** Cable is priced by the unit of the practice, and kept by the metre. */
const metresOf = (of: string) => (of === 'm' ? (unit.value?.keep(1) ?? 1) : 1)
const perUnit = (price: number | null, of: string) =>
  price == null ? null : Math.round(price * metresOf(of) * 100) / 100
const perMetre = (price: number | null, of: string) => (price == null ? null : price / metresOf(of))

async function save(kind: 'csv' | 'xlsx'): Promise<void> {
  const design = props.wiring.document.value
  if (!design) return
  const list = shown.value === 'checks' ? 'runs' : shown.value
  trouble.value =
    kind === 'xlsx'
      ? await saveTable(design, '/api/wiring/export-xlsx', 'wiring.xlsx')
      : await saveTable(design, `/api/wiring/export-csv/${list}`, `wiring-${list}.csv`)
}
</script>

<template>
  <div>
    <div class="head">
      <div class="which" role="radiogroup" aria-label="List">
        <button
          v-for="list in LISTS"
          :key="list.key"
          type="button"
          role="radio"
          :aria-checked="shown === list.key"
          :data-test="`list-${list.key}`"
          @click="shown = list.key"
        >
          {{ list.title }}
        </button>
      </div>
      <span v-if="trouble" class="bad" role="alert">{{ trouble }}</span>
      <button type="button" class="tool" data-test="save-csv" @click="save('csv')">
        Save {{ shown === 'checks' ? 'runs' : 'this' }} as CSV
      </button>
      <button type="button" class="tool" data-test="save-xlsx" @click="save('xlsx')">Save all as XLSX</button>
    </div>
    <WideTable has-file :label="LISTS.find((list) => list.key === shown)?.title ?? ''">
      <table v-if="shown === 'parts'" class="ledger" data-test="parts">
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col">Group</th>
            <th scope="col" class="number">Quantity</th>
            <th scope="col" class="number">Price of one</th>
            <th scope="col" class="number">Sum</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in lists.parts" :key="entry.item">
            <td>{{ entry.what }}</td>
            <td class="lesser">{{ entry.group }}</td>
            <td class="number">
              {{ entry.unit === 'm' ? `${long(entry.quantity)} ${unit?.label}` : count(entry.quantity)
              }}{{ entry.unit === 'set' ? ' set' : '' }}
            </td>
            <td class="number">
              <span v-if="entry.is_fixed" title="from its data sheet">{{ money(entry.price ?? 0) }}</span>
              <QuantityCell
                v-else
                :value="perUnit(entry.price ?? null, entry.unit)"
                :label="`Price of ${entry.what}`"
                may-be-empty
                @change="wiring.price(entry.item, perMetre($event, entry.unit))"
              />
            </td>
            <td class="number">{{ entry.price == null ? '–' : money(entry.price * entry.quantity) }}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr>
            <th scope="row" colspan="4">
              Together{{ lists.unpriced ? `, ${lists.unpriced} without a price yet` : '' }}
            </th>
            <td class="number" data-test="total">{{ money(lists.total) }}</td>
          </tr>
        </tfoot>
      </table>
      <table v-else-if="shown === 'cuts'" class="ledger" data-test="cuts">
        <thead>
          <tr>
            <th scope="col">Conductor</th>
            <th scope="col">Run</th>
            <th scope="col">Pole</th>
            <th scope="col" class="number">Pieces</th>
            <th scope="col" class="number">Each {{ unit?.label }}</th>
            <th scope="col">Ends</th>
            <th scope="col">Heat-shrink</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(cut, at) in lists.cuts" :key="at">
            <td>{{ cut.conductor }}</td>
            <td>{{ cut.label }}</td>
            <td>{{ cut.pole }}</td>
            <td class="number">{{ cut.quantity }}</td>
            <td class="number">{{ long(cut.length_m) }}</td>
            <td>{{ cut.lug }}</td>
            <td>{{ cut.heat_shrink }}</td>
          </tr>
        </tbody>
      </table>
      <table v-else-if="shown === 'devices'" class="ledger" data-test="devices">
        <thead>
          <tr>
            <th scope="col">Run</th>
            <th scope="col">Device</th>
            <th scope="col" class="number">Count</th>
            <th scope="col">Where</th>
            <th scope="col" class="number">Volts</th>
            <th scope="col" class="number">Fault A</th>
            <th scope="col" class="number">Breaks A</th>
            <th scope="col">Guards</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in lists.devices" :key="line.run">
            <td>{{ line.label }}</td>
            <td>{{ line.device }}</td>
            <td class="number">{{ line.quantity }}</td>
            <td>{{ line.place }}</td>
            <td class="number">{{ amount(Math.round(line.volts_v)) }}</td>
            <td class="number">{{ line.fault_a == null ? '–' : count(line.fault_a) }}</td>
            <td class="number">{{ line.interrupt_a == null ? '–' : count(line.interrupt_a) }}</td>
            <td>{{ line.conductor }}</td>
          </tr>
        </tbody>
      </table>
      <table v-else-if="shown === 'placards'" class="ledger wrap" data-test="placards">
        <thead>
          <tr>
            <th scope="col">Where</th>
            <th scope="col">Text</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="placard in lists.placards" :key="placard.where">
            <td>{{ placard.where }}</td>
            <td>{{ placard.text }}</td>
          </tr>
        </tbody>
      </table>
      <table v-else class="ledger wrap" data-test="checks">
        <thead>
          <tr>
            <th scope="col" class="number">No.</th>
            <th scope="col">Run</th>
            <th scope="col">Before it is closed</th>
            <th scope="col" class="number">Expect V</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(check, at) in sheet.checks" :key="check.run">
            <td class="number">{{ at + 1 }}</td>
            <td>{{ check.label }}</td>
            <td>{{ check.do.join('; ') }}</td>
            <td class="number">
              {{ check.low_v == null ? '–' : `${check.low_v.toFixed(1)}–${(check.high_v ?? 0).toFixed(1)}` }}
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p class="lesser">
      Cable is listed with a tenth to spare. Prices are in your own currency; those of data sheets stand where
      the unit is chosen.
    </p>
  </div>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  align-items: baseline;
  margin-bottom: 8px;
}

.which {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  flex: 1;
}

.which button {
  font-weight: 600;
  color: var(--slate);
}

.which button[aria-checked='true'] {
  color: var(--ink);
  text-decoration: underline;
  text-decoration-color: var(--ember);
  text-decoration-thickness: 2px;
  text-underline-offset: 4px;
}

.tool {
  color: var(--pine);
  font-weight: 600;
  white-space: nowrap;
  font-size: 13px;
}

.ledger td {
  font-size: 13.5px;
  padding: 2px 6px;
}

.ledger :deep(.cell) {
  width: 84px;
  border-color: var(--rule);
  background: var(--sheet);
}

.wrap td {
  vertical-align: top;
  padding: 4px 6px;
}

tfoot th {
  color: var(--ink);
  border-top: 1px solid var(--ink);
}

tfoot td {
  border-top: 1px solid var(--ink);
  font-weight: 700;
}

p {
  font-size: 13px;
  margin-top: 8px;
}

.bad {
  color: var(--wine);
}
</style>
