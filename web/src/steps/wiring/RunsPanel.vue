<script setup lang="ts">
/** Every run as a row, grouped as the current flows; the picked one with all that can be set on it. */
import { computed, nextTick, ref } from 'vue'

import type { RunRow, WiringSheet } from '@/api/client'
import { cableLength } from '@/fields/units'
import { amount, count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import BuiltPanel from './BuiltPanel.vue'
import RunDetail from './RunDetail.vue'
import type { Wiring } from './useWiring'
import { LENGTHS } from './words'

const props = defineProps<{ sheet: WiringSheet; wiring: Wiring }>()
const marked = defineModel<string>('marked', { required: true })
const picked = ref(marked.value)
const unit = computed(() => (props.wiring.document.value ? cableLength(props.wiring.document.value) : null))
const groups = computed(() => {
  const found = new Map<string, RunRow[]>()
  for (const run of props.sheet.runs) found.set(run.group, [...(found.get(run.group) ?? []), run])
  return [...found]
})
const long = (metres: number) => amount(Math.round((unit.value?.show(metres) ?? metres) * 10) / 10)
const isThin = (run: RunRow) => run.ampacity_a != null && run.ampacity_a < run.least_a - 1e-9
/** Links among the strings have none to be missed; that nothing parts the strings is said beside. */
const isBare = (run: RunRow) => run.unguarded_from.length > 0 && run.kind !== 'link'
const dropsTooMuch = (run: RunRow) => run.drop_frac != null && run.drop_frac > run.drop_limit_frac + 1e-9
const cannotBreak = (run: RunRow) =>
  run.fault_a != null &&
  run.device_a != null &&
  !run.limited_by &&
  (run.interrupt_a == null || run.interrupt_a < run.fault_a)

async function pick(key: string): Promise<void> {
  picked.value = picked.value === key ? '' : key
  marked.value = key
  await nextTick()
}

function onKey(event: KeyboardEvent, key: string): void {
  const keys = props.sheet.runs.map((run) => run.key)
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  if (event.key === 'Enter' || event.key === ' ') void pick(key)
  else if (by) {
    const next = keys[keys.indexOf(key) + by]
    if (!next) return
    window.document.querySelector<HTMLElement>(`[data-run="${next}"]`)?.focus()
  } else return
  event.preventDefault()
}
</script>

<template>
  <div>
    <BuiltPanel :wiring="wiring" />
    <WideTable label="Runs">
      <table class="ledger runs" role="treegrid" aria-label="Runs" data-test="runs">
        <thead>
          <tr>
            <th scope="col">Run</th>
            <th scope="col" class="number">Carries A</th>
            <th scope="col" class="number">{{ unit?.label === 'ft' ? 'Length ft' : 'Length m' }}</th>
            <th scope="col">Conductor</th>
            <th scope="col">Binds</th>
            <th scope="col" class="number">May A</th>
            <th scope="col" class="number">Drop %</th>
            <th scope="col">Device</th>
          </tr>
        </thead>
        <tbody v-for="[group, runs] in groups" :key="group">
          <tr class="group">
            <th scope="rowgroup" colspan="8">{{ group }}</th>
          </tr>
          <template v-for="run in runs" :key="run.key">
            <tr
              tabindex="0"
              :data-run="run.key"
              :class="{ marked: marked === run.key, picked: picked === run.key }"
              :aria-expanded="picked === run.key"
              @click="pick(run.key)"
              @mouseenter="marked = run.key"
              @focus="marked = run.key"
              @keydown="onKey($event, run.key)"
            >
              <th scope="row" class="name">
                {{ run.label }}<span v-if="run.count > 1" class="lesser"> × {{ run.count }}</span
                ><b v-if="run.is_set" class="by-hand"> set</b>
              </th>
              <td class="number">
                {{ run.kind === 'ground' ? '–' : amount(Math.round(run.current_a * 10) / 10) }}
              </td>
              <td class="number" :title="LENGTHS[run.length_from]">
                {{ long(run.length_m)
                }}<span v-if="run.length_from === 'usual'" class="lesser" aria-label="usual, not measured"
                  >~</span
                >
              </td>
              <td :class="{ bad: isThin(run) || run.unknown.includes('size') }">{{ run.conductor }}</td>
              <td>{{ run.binding }}</td>
              <td class="number" :class="{ bad: isThin(run) }">
                {{ run.ampacity_a == null ? '–' : count(run.ampacity_a) }}
              </td>
              <td class="number" :class="{ bad: dropsTooMuch(run) }">
                {{ run.drop_frac == null ? '–' : (100 * run.drop_frac).toFixed(1) }}
              </td>
              <td :class="{ bad: cannotBreak(run) || isBare(run) }" :title="run.guarded_by">
                {{ run.device || (isBare(run) ? 'none' : '–') }}
              </td>
            </tr>
            <tr v-if="picked === run.key" class="opened">
              <td colspan="8"><RunDetail :run="run" :wiring="wiring" @close="picked = ''" /></td>
            </tr>
          </template>
        </tbody>
      </table>
    </WideTable>
    <p v-if="sheet.left_over.length" class="note" data-test="left-over">
      Set on runs that are no longer there:
      <template v-for="key in sheet.left_over" :key="key">
        {{ key }} <button type="button" class="tool" @click="wiring.forget(key)">forget it</button>{{ ' ' }}
      </template>
    </p>
    <p class="lesser note">
      Enter opens a run. A length with ~ is a usual one, to be measured. Binds: what decides the conductor,
      heat or drop.
    </p>
  </div>
</template>

<style scoped>
.runs td,
.runs .name {
  font-size: 13.5px;
  padding: 2px 6px;
}

.runs .name {
  font-weight: 400;
  color: var(--ink);
  text-align: left;
  white-space: normal;
  border-bottom: 1px solid var(--rule);
  min-width: 150px;
}

.runs td:last-child {
  white-space: nowrap;
}

.group th {
  padding: 7px 6px 2px;
  color: var(--slate);
  font-weight: 700;
  border-bottom: 1px solid var(--rule);
}

.runs .opened td {
  padding: 0 0 10px;
  white-space: normal;
  cursor: default;
}

tbody tr:not(.group, .opened) {
  cursor: pointer;
}

tr.marked td,
tr.marked .name {
  background: color-mix(in srgb, var(--sun) 22%, transparent);
}

tr.picked .name {
  box-shadow: inset 3px 0 0 var(--ember);
}

.by-hand {
  font-size: 12px;
  color: var(--pine);
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

.tool {
  color: var(--pine);
  font-weight: 600;
}

.note {
  font-size: 13px;
  margin-top: 8px;
}
</style>
