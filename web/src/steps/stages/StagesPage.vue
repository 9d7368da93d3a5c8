<script setup lang="ts">
/** The design as it grows: each stage assessed whole, what must be bought large now, what will not mix later. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { api, outcome } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import { freshId } from '@/shared/ids'
import { unbroken } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import LaidStrips from '@/strip/LaidStrips.vue'

import StageCard from './StageCard.vue'
import StageTable from './StageTable.vue'

const MOST_STAGES = 6
const TITLES = ['Next year', 'Some day']
const store = useDesign()
const { document } = storeToRefs(store)
const { value: report, trouble } = useAnswer({
  ask: () => document.value && outcome(api.POST('/api/growth', { body: document.value })),
  on: document,
  wait: 150,
})
const stages = computed(() => document.value?.growth ?? [])
const strips = computed(() =>
  (report.value?.stages ?? []).map((stage) => ({ ...stage, key: stage.stage_id || 'now' })),
)

function add(): void {
  const id = freshId(
    'stage',
    stages.value.map((stage) => stage.id),
  )
  const last = stages.value.at(-1)?.in_years ?? 0
  const title = TITLES[stages.value.length] ?? `Stage ${stages.value.length + 1}`
  store.set('growth', [...stages.value, { id, title, in_years: last + (stages.value.length ? 2 : 1) }])
}

function remove(at: number): void {
  store.set(
    'growth',
    stages.value.filter((_, index) => index !== at),
  )
}
</script>

<template>
  <div v-if="document" class="stages-page">
    <p class="lesser intro">
      The design on the other pages is the first stage. Each stage ahead adds to those before it and is
      assessed whole, in the planned outage; dates and prices are today’s.
    </p>
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <template v-if="report && stages.length">
      <StageTable :stages="report.stages" />
      <h2>Buy large now</h2>
      <p v-if="!report.large_now.length" class="lesser" data-test="nothing-large">
        Nothing that is bought now is outgrown by a later stage.
      </p>
      <WideTable v-else label="Buy large now">
        <table class="ledger" data-test="large-now">
          <thead>
            <tr>
              <th scope="col">What</th>
              <th scope="col">Now</th>
              <th scope="col">Then</th>
              <th scope="col">From</th>
              <th scope="col">Why</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="item in report.large_now" :key="item.key" :data-test="`large-${item.key}`">
              <td>{{ item.label }}</td>
              <td>{{ item.now }}</td>
              <td>
                <b>{{ item.then }}</b>
              </td>
              <td>{{ item.stage }}</td>
              <td class="lesser why">{{ unbroken(item.why) }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <h2>What will not mix later</h2>
      <p v-if="!report.not_mixed.length" class="lesser" data-test="all-mixes">
        Everything that a later stage adds goes with what is there.
      </p>
      <ul v-else class="mix" data-test="not-mixed">
        <li v-for="item in report.not_mixed" :key="`${item.stage}${item.title}`">
          <b>{{ item.stage }}: {{ item.title }}.</b> {{ unbroken(item.message) }}
        </li>
      </ul>
      <p class="lesser">
        Wiring to a house, and a bank that grows, are for a licensed electrician and the maker’s own limits.
      </p>
      <h2>The outage at each stage</h2>
      <LaidStrips :laid="strips" label="Strips of the stages" />
    </template>
    <h2 v-if="stages.length">Stages ahead</h2>
    <StageCard
      v-for="(stage, index) in stages"
      :key="stage.id"
      :stage="stage"
      :index="index"
      @remove="remove(index)"
    />
    <v-btn
      v-if="stages.length < MOST_STAGES"
      variant="outlined"
      size="small"
      color="pine"
      data-test="add-stage"
      @click="add"
      >{{ stages.length ? 'Another stage' : 'Add a stage' }}</v-btn
    >
  </div>
</template>

<style scoped>
.intro {
  max-width: 96ch;
  margin: 0 0 8px;
}

.trouble {
  color: var(--wine);
}

h2 {
  margin: 16px 0 4px;
}

td {
  overflow-wrap: anywhere;
}

.why {
  font-size: 13px;
}

.mix {
  margin: 0;
  padding-left: 18px;
  max-width: 100ch;
}
</style>
