<script setup lang="ts">
/** Build: commissioning gate by gate, instruments against each other, and the tests that correct the plan. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import { api, outcome, type BuildSheet } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import { counted } from '@/shared/format'
import TabRow from '@/shared/TabRow.vue'

import { useBuild } from './build'
import CrossPanel from './CrossPanel.vue'
import GateRow from './GateRow.vue'
import InstallationBar from './InstallationBar.vue'
import MomentPanel from './MomentPanel.vue'
import TestsPanel from './TestsPanel.vue'

const PARTS = [
  { key: 'gates', title: 'Gates' },
  { key: 'cross', title: 'Cross-reading' },
  { key: 'tests', title: 'Tests' },
] as const
const part = ref('gates')
const { document, id, assessment } = storeToRefs(useDesign())
const build = useBuild()
const { current, moment, readings, kept, trouble } = storeToRefs(build)
watch(id, () => void build.open(), { immediate: true })

const { value: sheet, trouble: sheetTrouble } = useAnswer<BuildSheet>({
  ask: () =>
    document.value && moment.value
      ? outcome(
          api.POST('/api/building/sheet', {
            body: {
              design: document.value,
              moment: moment.value,
              installation_id: current.value?.id ?? null,
              readings: readings.value,
            },
          }),
        )
      : null,
  on: [document, moment, readings, kept],
})
watch(sheet, (found) => (build.sheet = found))

/** The gate that is open on the page: the one chosen, else the next to be done. */
const chosen = ref<string | null>(null)
const next = computed(
  () =>
    sheet.value?.gates.find(({ progress }) => progress.stand === 'open' || progress.stand === 'changed')?.gate
      .key ?? null,
)
const shownGate = computed(() => chosen.value ?? next.value)
watch(current, () => (chosen.value = null))
const stops = computed(
  () => assessment.value?.findings.filter(({ severity }) => severity === 'stop').length ?? 0,
)
const summary = computed(() => {
  if (!sheet.value) return ''
  const { gates, passed, skipped, changed } = sheet.value
  return [
    `${passed} of ${counted(gates.length, 'gate')} passed`,
    ...(skipped ? [`${skipped} skipped`] : []),
    ...(changed ? [`${changed} signed for a design that has changed since`] : []),
  ].join(', ')
})

function toggle(key: string): void {
  chosen.value = shownGate.value === key ? '' : key
}

function signed(): void {
  chosen.value = null
}
</script>

<template>
  <div v-if="document && moment">
    <InstallationBar />
    <p v-if="trouble || sheetTrouble" class="bad" role="alert">{{ trouble || sheetTrouble }}</p>
    <p v-if="stops" class="bad" data-test="build-stops">
      {{ counted(stops, 'Stop') }} {{ stops === 1 ? 'stands' : 'stand' }} open in this design: settle
      {{ stops === 1 ? 'it' : 'them' }} before anything is built.
    </p>
    <TabRow v-model="part" :parts="PARTS" label="Parts of building" />
    <template v-if="part === 'gates'">
      <MomentPanel />
      <template v-if="sheet">
        <p class="summary" data-test="gates-summary">{{ summary }}.</p>
        <ol class="gates">
          <GateRow
            v-for="(gate, at) in sheet.gates"
            :key="gate.gate.key"
            :number="at + 1"
            :sheet="gate"
            :is-open="shownGate === gate.gate.key"
            @toggle="toggle(gate.gate.key)"
            @signed="signed"
          />
        </ol>
      </template>
      <p v-else-if="!sheetTrouble" class="lesser">Working out the gates</p>
    </template>
    <CrossPanel v-else-if="part === 'cross'" />
    <TestsPanel v-else />
    <p class="lesser caution">
      The order is that of careful practice; where a maker asks for another, the maker’s goes first. Anything
      wired to a house is work for a licensed electrician, by the code in force there.
    </p>
  </div>
</template>

<style scoped>
.summary {
  margin: 10px 0 4px;
  font-weight: 600;
}

.gates {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--ink);
}

.bad {
  color: var(--wine);
}

.caution {
  margin-top: 14px;
  font-size: 13px;
}
</style>
