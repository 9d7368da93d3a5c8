<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count } from '@/shared/format'
import TabRow from '@/shared/TabRow.vue'

import AdvisorPanel from './AdvisorPanel.vue'
import DevicePanel from './DevicePanel.vue'
import SwitchingPanel from './SwitchingPanel.vue'
import OrderPanel from './OrderPanel.vue'
import PanelTab from './PanelTab.vue'
import { fateWord } from './words'

const { document, assessment, problems, isOffGrid } = storeToRefs(useDesign())
const PARTS = [
  { key: 'arrangement', title: 'Arrangement' },
  { key: 'device', title: 'Device and bonds' },
  { key: 'panel', title: 'Panel' },
  { key: 'order', title: 'Energy order' },
  { key: 'switching', title: 'Switching' },
] as const
const part = ref('arrangement')
const report = computed(() => assessment.value?.transfer ?? null)
const carried = computed(() => report.value?.loads.filter((load) => load.fate === 'carried') ?? [])
const dead = computed(() => report.value?.loads.filter((load) => load.fate === 'dead') ?? [])
const onGrid = computed(() => report.value?.loads.filter((load) => load.fate === 'on_grid') ?? [])
const leftOut = computed(() => fateWord('on_grid', isOffGrid.value))
const names = (loads: readonly { name: string }[]) =>
  loads
    .slice(0, 2)
    .map((load) => load.name)
    .join(', ') + (loads.length > 2 ? ` and ${loads.length - 2} more` : '')
/** Circuits that cannot stand as they are said to, each by its name. */
const misplaced = computed(() =>
  problems.value.flatMap((problem) => {
    const [, at, field] = /^transfer\.circuits\.(\d+)\.(\w+)$/.exec(problem.field) ?? []
    const circuit = document.value?.transfer?.circuits?.[Number(at)]
    return circuit
      ? [`${circuit.name}, ${field?.replace('_', ' ')}: ${problem.accepted} (got ${problem.value})`]
      : []
  }),
)
const restarts = computed(() => report.value?.rides.filter((ride) => !ride.rides_through).length ?? 0)
</script>

<template>
  <div v-if="document && report">
    <dl class="facts">
      <div>
        <dt>Carried</dt>
        <dd data-test="carried">
          {{ carried.length }} of {{ report.loads.length }} AC loads
          <span class="lesser">{{
            onGrid.length
              ? `${leftOut}: ${names(onGrid)}`
              : isOffGrid
                ? 'none left off'
                : 'none left on the grid'
          }}</span>
        </dd>
      </div>
      <div>
        <dt>Dead</dt>
        <dd :class="{ bad: dead.length }" data-test="dead">
          {{ dead.length || 'none' }}
          <span class="lesser">{{ dead.length ? names(dead) : 'switched over and fed' }}</span>
        </dd>
      </div>
      <div>
        <dt>Gap at the change-over</dt>
        <dd>
          <ExplainedFigure figure="transfer.gap_s">{{ report.gap || '–' }}</ExplainedFigure>
          <span class="lesser">{{
            report.gap_s == null
              ? 'no arrangement yet'
              : restarts
                ? `${restarts} do not ride through`
                : 'all ride through'
          }}</span>
        </dd>
      </div>
      <div v-if="report.legs.length > 1">
        <dt>Legs apart by</dt>
        <dd>
          <ExplainedFigure figure="transfer.imbalance_w">{{ count(report.imbalance_w) }} W</ExplainedFigure>
          <span class="lesser">{{
            report.across ? 'true 120/240 V' : report.bridged ? 'one 120 V on both' : 'one leg live'
          }}</span>
        </dd>
      </div>
      <div v-else>
        <dt>Lines</dt>
        <dd>{{ report.line_v }} V <span class="lesser">one line and neutral</span></dd>
      </div>
    </dl>
    <p v-for="line in misplaced" :key="line" class="bad" role="alert" data-test="misplaced">{{ line }}</p>
    <TabRow v-model="part" :parts="PARTS" label="Parts of the transfer" />
    <AdvisorPanel v-if="part === 'arrangement'" />
    <DevicePanel v-else-if="part === 'device'" />
    <PanelTab v-else-if="part === 'panel'" />
    <OrderPanel v-else-if="part === 'order'" />
    <SwitchingPanel v-else />
  </div>
</template>

<style scoped>
.facts {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  margin-bottom: 14px;
}

.facts dd .lesser {
  white-space: normal;
  font-family: var(--hk-text);
}

.bad {
  color: var(--wine);
}
</style>
