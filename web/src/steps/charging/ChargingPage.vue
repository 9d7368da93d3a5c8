<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { useDesign } from '@/design/store'
import { kilowattHours, kilowatts } from '@/shared/format'
import { freshId } from '@/shared/ids'
import NumberField from '@/shared/NumberField.vue'
import TabRow from '@/shared/TabRow.vue'

import ControllerCard from './ControllerCard.vue'
import GeneratorPanel from './GeneratorPanel.vue'
import SunDays from './SunDays.vue'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const MOST_CONTROLLERS = 8
const PARTS = [
  { key: 'sun', title: 'Sun' },
  { key: 'generator', title: 'Generator' },
  { key: 'grid', title: 'Grid' },
] as const
const part = ref('sun')
const controllers = computed(() => document.value?.charging.controllers ?? [])

function addController(): void {
  const ids = controllers.value.map((controller) => controller.id)
  const made = {
    id: freshId('controller', ids),
    name: `Controller ${ids.length + 1}`,
    kind: 'mppt' as const,
    output_a: 30,
    efficiency_frac: null,
    max_input_v: null,
    max_input_a: null,
    start_margin_v: 5,
    arrays: [],
  }
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
          <dd>{{ kilowatts(assessment.charging.stc_w) }}</dd>
        </div>
        <div>
          <dt>Sun offered in this outage</dt>
          <dd>{{ kilowattHours(assessment.charging.offered_wh) }}</dd>
        </div>
        <div>
          <dt>Beyond the controllers</dt>
          <dd>{{ kilowattHours(assessment.charging.clipped_wh) }}</dd>
        </div>
        <div>
          <dt>Generator gave</dt>
          <dd>{{ kilowattHours(assessment.outage.ledger_wh.generator) }}</dd>
        </div>
        <div>
          <dt>Spilled in all</dt>
          <dd>{{ kilowattHours(assessment.outage.ledger_wh.spilled) }}</dd>
        </div>
      </dl>
    </section>
    <TabRow v-model="part" :parts="PARTS" label="Parts of charging" />
    <template v-if="part === 'sun'">
      <ControllerCard
        v-for="(controller, index) in controllers"
        :key="controller.id"
        :controller="controller"
        :index="index"
        @remove="removeController(index)"
      />
      <p v-if="!controllers.length" class="lesser">No sun yet: add a controller, then its arrays.</p>
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
    <GeneratorPanel v-else-if="part === 'generator'" />
    <template v-else>
      <section class="grid-charger">
        <h2>Grid charger</h2>
        <div class="fields">
          <NumberField path="charging.grid_charger.output_w" label="Into the bank" unit="W" />
          <p class="lesser">Fills the bank before a storm and after it; 0 W means none.</p>
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.top {
  display: flex;
  gap: 26px;
  margin-bottom: 16px;
}

.facts {
  flex: 1;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  align-content: start;
}

.grid-charger {
  margin-top: 20px;
}

.grid-charger h2 {
  margin-bottom: 10px;
}

.fields {
  display: grid;
  grid-template-columns: 160px 1fr;
  gap: 14px;
  align-items: end;
}

.fields p {
  margin: 0 0 6px;
  font-size: 13px;
}
</style>
