<script setup lang="ts">
/** The panel's circuits: typed, pasted or read from a file; picked in the panel, and given their legs. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome, type CircuitEntry, type Outcome, type PanelRow, type SheetSource } from '@/api/client'
import { useDesign } from '@/design/store'
import TypedLine from '@/fields/TypedLine.vue'
import { amount } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import SheetTools from '@/sheets/SheetTools.vue'

import CircuitDetail from './CircuitDetail.vue'
import FurtherPanels from './FurtherPanels.vue'
import LegBars from './LegBars.vue'
import PanelPicture from './PanelPicture.vue'
import ScheduleDialog from './ScheduleDialog.vue'
import { MOST_SLOTS, usePanel } from './usePanel'
import { fateWord } from './words'

const { isOffGrid } = storeToRefs(useDesign())
const panel = usePanel()
const { document, circuits, further, houseLoads } = panel
const placed = computed(
  () =>
    new Set(
      [...circuits.value, ...further.value.flatMap((each) => each.circuits ?? [])].map((each) => each.id),
    ),
)
const picked = ref('')
const sheet = ref<SheetSource | null>(null)
const view = ref<'before' | 'after'>('before')
const kind = computed(() => document.value?.transfer?.arrangement ?? null)
const mayMove = computed(() => panel.assessment.value?.transfer.has_positions ?? false)
const unplaced = computed(() =>
  houseLoads.value.filter((load) => !load.circuit || !placed.value.has(load.circuit)),
)
const after = computed(() =>
  circuits.value
    .flatMap((circuit) => {
      const state = panel.stateOf(circuit.id)
      return state?.positions.length ? [{ circuit, state }] : []
    })
    .sort((one, other) => (one.state.positions[0] ?? 0) - (other.state.positions[0] ?? 0)),
)
const most = computed(() => document.value?.transfer?.device?.positions ?? null)
const usedPositions = computed(() => after.value.reduce((sum, row) => sum + row.state.positions.length, 0))

function understood(text: string): Promise<Outcome<CircuitEntry>> {
  const design = document.value
  if (!design) return Promise.resolve({ kind: 'silent' })
  return outcome(
    api.POST('/api/transfer/read-line', {
      body: {
        line: text,
        practice: design.practice,
        service: design.site.service,
        slots: panel.slots.value,
        circuits: circuits.value,
        loads: houseLoads.value.map((load) => ({ id: load.id, name: load.name, placed: !!load.circuit })),
      },
    }),
  )
}

function enter(entry: CircuitEntry): void {
  if (entry.circuit) picked.value = panel.add(entry.circuit, entry.loads)
}

function take(rows: PanelRow[]): void {
  panel.take(rows)
  sheet.value = null
}
</script>

<template>
  <div v-if="document">
    <div class="entry">
      <TypedLine
        :read="understood"
        :makes="(entry: CircuitEntry) => entry.circuit != null"
        :full="circuits.length >= MOST_SLOTS ? `A panel holds at most ${MOST_SLOTS} circuits.` : ''"
        :placeholder="
          document.practice === 'metric_230'
            ? 'type a circuit: 3 B16 kitchen sockets 2.5 mm²'
            : 'type a circuit: 14 20A 1p fridge and kitchen lights 12 AWG'
        "
        label="New circuit in one line"
        @enter="enter"
        @sheet="(text) => (sheet = { text })"
      />
      <SheetTools
        class="tools"
        :design="document"
        label="Panel schedule"
        export-at="/api/transfer/export"
        file-name="panel"
        @sheet="(found) => (sheet = found)"
      />
    </div>
    <p v-if="kind === 'cords' || kind === 'portable_metric'" class="lesser">
      In this arrangement cords touch no circuit of the house; the panel counts for the others.
    </p>
    <ScheduleDialog v-if="sheet" :sheet="sheet" :design="document" @take="take" @close="sheet = null" />
    <div class="columns">
      <div>
        <div class="views" role="group" aria-label="Panel before or after">
          <button type="button" :aria-pressed="view === 'before'" @click="view = 'before'">Main panel</button>
          <button type="button" :aria-pressed="view === 'after'" data-test="after" @click="view = 'after'">
            After{{ after.length ? `: ${usedPositions}${most ? ` of ${most}` : ''} positions` : '' }}
          </button>
          <span v-if="unplaced.length" class="unplaced" data-test="unplaced">
            {{ unplaced.length === 1 ? '1 load hangs' : `${unplaced.length} loads hang` }} on no circuit
          </span>
        </div>
        <PanelPicture v-if="view === 'before'" v-model="picked" :panel="panel" />
        <WideTable v-else label="Backed-up side">
          <table class="ledger" data-test="after-table">
            <thead>
              <tr>
                <th scope="col" class="number">Position</th>
                <th scope="col">Leg</th>
                <th scope="col">Circuit</th>
                <th scope="col" class="number">Breaker</th>
                <th scope="col" class="number">W</th>
                <th scope="col">From slot</th>
                <th scope="col"></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="row in after" :key="row.circuit.id">
                <td class="number">{{ row.state.positions.join(', ') }}</td>
                <td>{{ panel.stacked.value ? row.state.backup_legs.join('+') : '–' }}</td>
                <td>{{ row.circuit.name }}</td>
                <td class="number">{{ amount(row.circuit.breaker_a) }} A</td>
                <td class="number">{{ amount(row.state.running_w) }}</td>
                <td>{{ row.state.slots.join(', ') }}</td>
                <td :class="{ dead: row.state.fate === 'dead' }">
                  {{ fateWord(row.state.fate, isOffGrid) }}
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="!after.length" class="lesser">
            In this arrangement the backed-up circuits stay in the main panel, or none is backed up yet.
          </p>
        </WideTable>
        <p v-if="view === 'before' && circuits.length" class="lesser keys">
          Arrows, Enter picks, <kbd>B</kbd> backs up, <kbd>Alt</kbd> with arrows moves a breaker,
          <kbd>Delete</kbd> takes it out. An ember edge is backed up; the last figure counts the loads.
        </p>
      </div>
      <div class="side">
        <CircuitDetail
          v-if="picked && circuits.some((entry) => entry.id === picked)"
          :id="picked"
          :panel="panel"
          @removed="picked = ''"
        />
        <p v-else-if="circuits.length" class="lesser">Pick a slot to see its circuit.</p>
        <p v-else>
          Type the first circuit above: slot, breaker, poles, what hangs on it and its wire, in any order
          after the slot. Rows copied from a panel schedule can be pasted there; loads whose names it holds
          are hung on it.
        </p>
        <LegBars v-if="circuits.length" :panel="panel" :may-move="mayMove" />
      </div>
    </div>
    <FurtherPanels v-if="view === 'before'" :panel="panel" />
  </div>
</template>

<style scoped>
.entry {
  position: relative;
}

.tools {
  position: absolute;
  right: 0;
  top: 38px;
  padding-left: 12px;
}

.entry :deep(.reading) {
  padding-right: 230px;
}

.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 284px;
  gap: 18px;
  align-items: start;
  margin-top: 8px;
}

.views {
  display: flex;
  gap: 16px;
  margin-bottom: 6px;
  font-size: 13px;
}

.views button {
  color: var(--slate);
  font-weight: 600;
}

.views button[aria-pressed='true'] {
  color: var(--ink);
  text-decoration: underline;
  text-decoration-color: var(--ember);
  text-decoration-thickness: 3px;
  text-underline-offset: 4px;
}

.unplaced {
  margin-left: auto;
  color: var(--sun-ink);
}

.keys {
  font-size: 12.5px;
  margin-top: 6px;
}

.dead {
  color: var(--wine);
  font-weight: 700;
}

.side {
  display: grid;
  gap: 16px;
}

@media (max-width: 1050px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
