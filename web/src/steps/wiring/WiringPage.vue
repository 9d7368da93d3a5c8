<script setup lang="ts">
import { computed, ref } from 'vue'

import { api, outcome, type WiringSheet } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count } from '@/shared/format'
import TabRow from '@/shared/TabRow.vue'

import BoardPanel from './BoardPanel.vue'
import FaultPanel from './FaultPanel.vue'
import ListsPanel from './ListsPanel.vue'
import OneLinePanel from './OneLinePanel.vue'
import RunsPanel from './RunsPanel.vue'
import { useWiring } from './useWiring'

const wiring = useWiring()
const { document, assessment } = wiring
const PARTS = [
  { key: 'runs', title: 'Runs' },
  { key: 'one-line', title: 'One-line' },
  { key: 'faults', title: 'Faults and volts' },
  { key: 'board', title: 'Layout board' },
  { key: 'lists', title: 'Lists' },
] as const
const part = ref('runs')
/** The run under the pointer or the focus, in picture and table alike. */
const marked = ref('')
const { value: sheet, trouble } = useAnswer<WiringSheet>({
  ask: () => (document.value ? outcome(api.POST('/api/wiring/sheet', { body: document.value })) : null),
  on: () => document.value,
  // The strip answers first.
  wait: 120,
})
const sums = computed(() => assessment.value?.wiring ?? null)
const start = computed(() =>
  sums.value?.volts?.cases.find((entry) => entry.what === 'start' && entry.state === 'low'),
)
const lost_wh = computed(
  () => assessment.value?.bank.daily_ledger.find((line) => line.key === 'wiring')?.wh ?? 0,
)
</script>

<template>
  <div v-if="document && assessment && sums">
    <dl class="facts">
      <div>
        <dt>Runs</dt>
        <dd data-test="run-count">
          {{ sums.run_count }}
          <span class="lesser"
            >{{ sums.set_count ? `${sums.set_count} set by hand` : 'all as worked out'
            }}{{ sums.unknown_count ? `, ${sums.unknown_count} not known` : '' }}</span
          >
        </dd>
      </div>
      <div>
        <dt>Short circuit at the bank</dt>
        <dd>
          <ExplainedFigure figure="wiring.short_a">{{ count(sums.short_a) }} A</ExplainedFigure>
          <span class="lesser">what the first device must break</span>
        </dd>
      </div>
      <div>
        <dt>Volts left at the worst start</dt>
        <dd :class="{ bad: start && !start.holds }">
          <ExplainedFigure v-if="start" figure="wiring.volts.start.low"
            >{{ amount(Math.round(start.inverter_v * 10) / 10) }} V</ExplainedFigure
          ><template v-else>–</template>
          <span class="lesser">{{
            start
              ? `cut-off ${amount(sums.volts?.cutoff_v ?? 0)} V, bank at its floor`
              : 'no inverter, or leads not known'
          }}</span>
        </dd>
      </div>
      <div>
        <dt>Lost in the wiring a day</dt>
        <dd>
          <ExplainedFigure figure="bank.ledger.wiring">{{ count(lost_wh) }} Wh</ExplainedFigure>
          <span class="lesser">{{
            document.wiring?.loss_frac == null ? 'drop of bank leads and branches' : 'by a flat loss'
          }}</span>
        </dd>
      </div>
    </dl>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <TabRow v-model="part" :parts="PARTS" label="Parts of the wiring" />
    <template v-if="sheet">
      <RunsPanel v-if="part === 'runs'" v-model:marked="marked" :sheet="sheet" :wiring="wiring" />
      <OneLinePanel
        v-else-if="part === 'one-line'"
        v-model:marked="marked"
        :sheet="sheet"
        :wiring="wiring"
        @open="part = 'runs'"
      />
      <FaultPanel v-else-if="part === 'faults'" :sheet="sheet" :wiring="wiring" />
      <BoardPanel v-else-if="part === 'board'" :sheet="sheet" :wiring="wiring" />
      <ListsPanel v-else :sheet="sheet" :wiring="wiring" />
    </template>
    <p v-else-if="!trouble" class="lesser">Working out the runs</p>
    <p class="lesser caution">
      Direct current does not let go: an arc burns on. A bank drives thousands of amps through a dropped
      spanner. Wiring to a house is for a licensed electrician, by the code in force there.
    </p>
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

.caution {
  margin-top: 14px;
  font-size: 13px;
}
</style>
