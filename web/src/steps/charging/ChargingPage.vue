<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count, kilowattHours, kilowatts, percent } from '@/shared/format'
import { freshId } from '@/shared/ids'
import TabRow from '@/shared/TabRow.vue'
import WideTable from '@/shared/WideTable.vue'

import ControllerCard from './ControllerCard.vue'
import DayPanel from './DayPanel.vue'
import GeneratorPanel from './GeneratorPanel.vue'
import GridPanel from './GridPanel.vue'
import OthersPanel from './OthersPanel.vue'
import StagesPanel from './StagesPanel.vue'
import SunDays from './SunDays.vue'
import YearPanel from './YearPanel.vue'

const store = useDesign()
const { document, assessment, isOffGrid } = storeToRefs(store)
const MOST_CONTROLLERS = 8
const PARTS = [
  { key: 'sun', title: 'Sun' },
  { key: 'day', title: 'Daily curve' },
  { key: 'year', title: 'Year' },
  { key: 'generator', title: 'Generator' },
  { key: 'grid', title: 'Grid' },
  { key: 'others', title: 'Other sources' },
  { key: 'stages', title: 'Set points' },
] as const
const parts = computed(() => PARTS.filter((entry) => entry.key !== 'grid' || !isOffGrid.value))
const part = ref('sun')
const controllers = computed(() => document.value?.charging.controllers ?? [])

const onPanel = computed(() => {
  const direct = assessment.value?.charging.panel_loads
  return (document.value?.loads ?? [])
    .filter((load) => direct && load.id in direct.asked_wh)
    .map((load) => ({
      id: load.id,
      name: load.name,
      asked_wh: direct?.asked_wh[load.id] ?? 0,
      served_wh: direct?.served_wh[load.id] ?? 0,
    }))
})

function addController(): void {
  const ids = controllers.value.map((controller) => controller.id)
  const usual = assessment.value?.usual
  if (!usual) return
  const made = { ...usual.controller, id: freshId('controller', ids), name: `Controller ${ids.length + 1}` }
  store.set('charging.controllers', [...controllers.value, made])
}

function removeController(index: number): void {
  store.set(
    'charging.controllers',
    controllers.value.filter((_, at) => at !== index),
  )
}
</script>

<template>
  <div v-if="document && assessment">
    <section class="top">
      <SunDays :days_wh="assessment.charging.daily_wh" :start="document.outage.start" />
      <dl class="facts">
        <div>
          <dt>Panels</dt>
          <dd>
            <ExplainedFigure figure="charging.stc_w">{{
              kilowatts(assessment.charging.stc_w)
            }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>Sun offered</dt>
          <dd>
            <ExplainedFigure figure="charging.offered_wh">{{
              kilowattHours(assessment.charging.offered_wh)
            }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>Beyond the controllers</dt>
          <dd>
            <ExplainedFigure figure="charging.clipped_wh">{{
              kilowattHours(assessment.charging.clipped_wh)
            }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>Generator</dt>
          <dd>
            <ExplainedFigure figure="charging.generator_wh">{{
              kilowattHours(assessment.outage.ledger_wh.generator)
            }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>Other sources</dt>
          <dd>
            <ExplainedFigure figure="charging.other_wh">{{
              kilowattHours(assessment.outage.ledger_wh.other)
            }}</ExplainedFigure>
          </dd>
        </div>
        <div>
          <dt>Spilled</dt>
          <dd>
            <ExplainedFigure figure="charging.spilled">{{
              kilowattHours(assessment.outage.ledger_wh.spilled)
            }}</ExplainedFigure>
            <span class="lesser">{{ percent(assessment.charging.spilled_frac) }} of it</span>
          </dd>
        </div>
      </dl>
    </section>
    <TabRow v-model="part" :parts="parts" label="Parts of charging" />
    <template v-if="part === 'sun'">
      <ControllerCard
        v-for="(controller, index) in controllers"
        :key="controller.id"
        :controller="controller"
        :index="index"
        @remove="removeController(index)"
      />
      <WideTable v-if="onPanel.length" label="Loads straight from a panel"
        ><table class="ledger straight" data-test="straight">
          <thead>
            <tr>
              <th scope="col">Loads straight from a panel</th>
              <th scope="col" class="number">Asked in this outage</th>
              <th scope="col" class="number">Run by the sun</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="load in onPanel" :key="load.id">
              <td>{{ load.name }}</td>
              <td class="number">{{ count(load.asked_wh) }} Wh</td>
              <td class="number">{{ count(load.served_wh) }} Wh</td>
            </tr>
          </tbody>
        </table></WideTable
      >
      <p v-if="document.charging.grid_tied" class="lesser">
        The array on a grid-tied inverter stands on Transfer, under Device and bonds.
      </p>
      <p v-else-if="!controllers.length" class="lesser">No sun yet: add a controller, then its arrays.</p>
      <v-btn
        color="pine"
        variant="outlined"
        :disabled="controllers.length >= MOST_CONTROLLERS"
        data-key="new"
        @click="addController"
      >
        Add a controller
      </v-btn>
    </template>
    <DayPanel v-else-if="part === 'day'" />
    <YearPanel v-else-if="part === 'year'" />
    <GeneratorPanel v-else-if="part === 'generator'" />
    <GridPanel v-else-if="part === 'grid' && !isOffGrid" />
    <OthersPanel v-else-if="part === 'others'" />
    <StagesPanel v-else />
  </div>
</template>

<style scoped>
.top {
  display: grid;
  grid-template-columns: minmax(0, 0.62fr) minmax(0, 1fr);
  gap: 26px;
  margin-bottom: 16px;
}

.straight {
  margin: 4px 0 14px;
}

.facts {
  flex: 1;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  align-content: start;
}

@media (max-width: 640px) {
  .top {
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
}
</style>
