<script setup lang="ts">
/** The design now and after each stage: what it has, costs and carries. */
import { computed } from 'vue'

import type { StageColumn } from '@/api/client'
import { count, kilowattHours, kilowatts, amount } from '@/shared/format'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import HoursCarried from '@/figures/HoursCarried.vue'
import WideTable from '@/shared/WideTable.vue'

const props = defineProps<{ stages: readonly StageColumn[] }>()
const longest_h = computed(() => Math.max(...props.stages.map((stage) => stage.duration_h), 1e-9))
const ROWS: readonly { key: string; title: string; value: (stage: StageColumn) => string }[] = [
  {
    key: 'when',
    title: 'From now',
    value: (stage) =>
      stage.stage_id ? `${amount(stage.in_years)} ${stage.in_years === 1 ? 'year' : 'years'}` : 'now',
  },
  { key: 'added', title: 'This stage costs', value: (stage) => count(stage.added_price) },
  { key: 'price', title: 'All units so far', value: (stage) => count(stage.price) },
  { key: 'bank', title: 'Bank', value: (stage) => kilowattHours(stage.bank_wh) },
  { key: 'array', title: 'Array', value: (stage) => (stage.array_w ? kilowatts(stage.array_w) : '–') },
  {
    key: 'inverter',
    title: 'Inverter',
    value: (stage) => (stage.inverter_w ? kilowatts(stage.inverter_w) : '–'),
  },
  {
    key: 'generator',
    title: 'Generator',
    value: (stage) => (stage.generator_w ? kilowatts(stage.generator_w) : '–'),
  },
  {
    key: 'loads',
    title: 'Loads',
    value: (stage) => `${stage.load_count}, ${kilowattHours(stage.daily_wh)} a day`,
  },
  { key: 'checks', title: 'Checks open', value: (stage) => `${stage.stops} stop, ${stage.mends} mend` },
]
</script>

<template>
  <WideTable label="Stages">
    <table class="ledger stages" :style="{ minWidth: `${120 + stages.length * 128}px` }" data-test="stages">
      <thead>
        <tr>
          <th scope="col"><span class="visually-hidden">Figure</span></th>
          <th v-for="stage in stages" :key="stage.stage_id" scope="col">{{ stage.title }}</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row">Hours carried</th>
          <td
            v-for="stage in stages"
            :key="stage.stage_id"
            :data-test="`stage-hours-${stage.stage_id || 'now'}`"
          >
            <HoursCarried :of="stage" :longest_h="longest_h" />
          </td>
        </tr>
        <tr v-for="row in ROWS" :key="row.key" :data-test="`stage-row-${row.key}`">
          <th scope="row">{{ row.title }}</th>
          <td v-for="stage in stages" :key="stage.stage_id" class="figures">
            <ExplainedFigure v-if="stage.figures[row.key]" :figure="stage.figures[row.key]!">{{
              row.value(stage)
            }}</ExplainedFigure>
            <template v-else>{{ row.value(stage) }}</template>
          </td>
        </tr>
        <tr>
          <th scope="row">What it brings to mend</th>
          <td v-for="stage in stages" :key="stage.stage_id" class="words">
            <span
              v-for="check in stage.new_checks"
              :key="check.title"
              class="check"
              :class="check.severity"
              >{{ check.title }}</span
            >
          </td>
        </tr>
      </tbody>
    </table>
  </WideTable>
</template>

<style scoped>
.stages {
  table-layout: fixed;
}

.stages thead th {
  white-space: normal;
  overflow-wrap: anywhere;
  vertical-align: bottom;
}

thead th:first-child,
th[scope='row'] {
  width: 118px;
  text-align: left;
  font-weight: 600;
  vertical-align: top;
  padding-top: 4px;
  white-space: normal;
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

.check {
  display: block;
}

.check.stop {
  color: var(--wine);
  font-weight: 700;
}
</style>
