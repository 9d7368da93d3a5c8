<script setup lang="ts">
/** One method's sheet, line by line, its habits open to change; the line to blame is underlined in wine. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Opinion, OpinionLine } from '@/api/client'
import { typedAt, valueAt } from '@/design/path'
import { useDesign } from '@/design/store'
import HourCells from '@/fields/HourCells.vue'
import QuantityCell from '@/fields/QuantityCell.vue'
import { asPercent, plain } from '@/fields/units'
import { unbroken } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { figure, isPart, isTyped, shown, unitOf } from './words'

const props = defineProps<{ opinion: Opinion }>()
const store = useDesign()
const { document, problems } = storeToRefs(store)
const blamed = computed(() => new Set(props.opinion.blame.lines))
const MPPT = [
  { value: 'none', title: '× 1, not counted' },
  { value: 'divided', title: '÷ 1.3' },
  { value: 'times', title: '× 0.7' },
]
const mppt = computed(() => {
  const line = props.opinion.lines.find((entry) => entry.key === 'mppt')
  return !line || line.value === 1 ? 'none' : line.value === 0.7 ? 'times' : 'divided'
})
/** Whether the lines of loads can be ticked: only the ledger asks which stay off on dark days. */
const isTicked = computed(() => props.opinion.info.method === 'ledger')

function set(line: OpinionLine, value: number | null): void {
  if (line.path) store.set(line.path, value)
}

/** Tick a load off or on for dark days; the first tick writes down what followed from the audit until then. */
function tick(line: OpinionLine): void {
  const off = new Set(props.opinion.lines.filter((entry) => entry.is_off).map((entry) => entry.load_id ?? ''))
  if (line.is_off) off.delete(line.load_id ?? '')
  else off.add(line.load_id ?? '')
  store.set('opinions.ledger.left_out', [...off])
}
const isByHand = computed(() => valueAt(document.value, 'opinions.ledger.left_out') != null)
const rightText = (line: OpinionLine) => {
  if (line.right == null || Math.abs(line.right / (line.value || 1) - 1) < 0.005) return ''
  return `${shown(line, line.right)}${unitOf(line) ? ` ${unitOf(line)}` : ''}`
}
</script>

<template>
  <section class="sheet" :data-test="`sheet-${opinion.info.method}`">
    <h2>{{ opinion.info.title }}</h2>
    <p class="lesser">{{ opinion.info.leaves_out }} {{ opinion.info.basis }}.</p>
    <WideTable :label="`Sheet of ${opinion.info.title}`">
      <table class="ledger lines">
        <thead>
          <tr>
            <th scope="col">Line</th>
            <th scope="col" class="number value">Value</th>
            <th scope="col" class="unit"><span class="visually-hidden">Unit</span></th>
            <th scope="col" class="number right">The model</th>
            <th scope="col">How</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="line in opinion.lines"
            :key="line.key"
            :class="{ sum: line.is_sum, missing: line.is_left_out, load: line.load_id }"
            :data-test="`line-${line.key}`"
          >
            <td class="label">
              <label v-if="line.load_id && isTicked" class="tick" title="Whether it runs on dark days">
                <input
                  type="checkbox"
                  :checked="!line.is_off"
                  :aria-label="`${line.label} on dark days`"
                  @change="tick(line)"
                />
                <span :class="{ off: line.is_off }">{{ line.label }}</span>
              </label>
              <span v-else :class="{ blamed: blamed.has(line.key) }">{{ line.label }}</span>
            </td>
            <td class="number">
              <select
                v-if="line.key === 'mppt'"
                class="choice"
                aria-label="How a converting controller is counted"
                data-test="mppt"
                :value="mppt"
                @change="store.set('opinions.ledger.mppt', ($event.target as HTMLSelectElement).value)"
              >
                <option v-for="choice in MPPT" :key="choice.value" :value="choice.value">
                  {{ choice.title }}
                </option>
              </select>
              <QuantityCell
                v-else-if="isTyped(line)"
                :value="typedAt(document, line.path, line.value)"
                :fault="problems.some((problem) => problem.field === line.path)"
                :label="line.label"
                :unit="isPart(line) ? asPercent : plain(line.unit)"
                may-be-empty
                @change="(value) => set(line, value)"
              />
              <template v-else>{{ line.is_left_out ? '–' : shown(line, line.value) }}</template>
            </td>
            <td class="unit">{{ unitOf(line) }}</td>
            <td class="number lesser">{{ rightText(line) }}</td>
            <td class="lesser how">
              {{ line.formula }}<template v-if="line.note">. {{ unbroken(line.note) }}</template>
              <HourCells
                v-if="line.path?.endsWith('night_hours')"
                class="night"
                :hours="
                  document?.opinions?.overnight?.night_hours ?? [
                    [0, 7],
                    [19, 24],
                  ]
                "
                tier="keep"
                label="Hours of the night"
                :pinned-hour="null"
                data-test="night-hours"
                @change="(spans) => store.set('opinions.overnight.night_hours', spans)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p v-if="isTicked" class="lesser">
      A load without its tick stays off on dark days<template v-if="isByHand"
        >, as ticked here.
        <button
          type="button"
          class="link"
          data-test="follow-audit"
          @click="store.set('opinions.ledger.left_out', null)"
        >
          Follow the audit again
        </button></template
      ><template v-else>, as the audit has it.</template>
    </p>
    <p class="lesser">
      A habit that is emptied goes back to what is usual. “The model” is what the planned outage makes of the
      line. The method asks for {{ figure(opinion.answer.bank_wh, 'Wh') }} Wh of bank,
      {{ figure(opinion.answer.array_w, 'W') }} W of array and {{ figure(opinion.answer.inverter_w, 'W') }} W
      of inverter, before the next size sold.
    </p>
  </section>
</template>

<style scoped>
.sheet {
  margin-top: 18px;
}

h2 {
  margin: 0 0 4px;
}

.lesser {
  max-width: 96ch;
}

.value {
  width: 104px;
}

.unit {
  width: 34px;
  padding-left: 0;
  color: var(--slate);
}

th.right {
  width: 92px;
}

.how {
  font-size: 13px;
}

.label {
  width: 34%;
  min-width: 130px;
  overflow-wrap: anywhere;
}

.load .label {
  padding-left: 18px;
}

.sum td {
  font-weight: 700;
  border-top: 1px solid var(--ink);
}

.sum .how {
  font-weight: 400;
}

.missing td {
  color: var(--slate);
}

.blamed {
  text-decoration: underline;
  text-decoration-color: var(--wine);
  text-decoration-thickness: 2.5px;
  text-underline-offset: 3px;
}

.tick {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}

.off {
  color: var(--slate);
  text-decoration: line-through;
}

.choice {
  font: inherit;
  text-align: right;
  max-width: 104px;
}

.night {
  margin-top: 3px;
}

.link {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
}
</style>
