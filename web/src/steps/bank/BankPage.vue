<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count, hours, kilowattHours } from '@/shared/format'
import PriceTag from '@/shared/PriceTag.vue'
import TabRow from '@/shared/TabRow.vue'

import ArrangementPanel from './ArrangementPanel.vue'
import ChemistryPanel from './ChemistryPanel.vue'
import NeedPanel from './NeedPanel.vue'
import PlacePanel from './PlacePanel.vue'
import UnitPanel from './UnitPanel.vue'

const { document, assessment } = storeToRefs(useDesign())
const bank = computed(() => assessment.value?.bank)
const PARTS = [
  { key: 'unit', title: 'Unit' },
  { key: 'sheet', title: 'From need to bank' },
  { key: 'arrangement', title: 'Arrangement' },
  { key: 'chemistry', title: 'Chemistries' },
  { key: 'place', title: 'Place and life' },
] as const
const part = ref('unit')
</script>

<template>
  <div v-if="document && bank && assessment" class="bank">
    <dl class="facts">
      <div>
        <dt>Rated</dt>
        <dd>
          <ExplainedFigure figure="bank.rated_wh">{{ kilowattHours(bank.rated_wh) }}</ExplainedFigure>
          <span class="lesser"> {{ amount(bank.nominal_v) }} V × {{ amount(bank.rated_ah) }} Ah</span>
        </dd>
      </div>
      <div>
        <dt>Usable, to the floor</dt>
        <dd>
          <ExplainedFigure figure="bank.usable_wh">{{ kilowattHours(bank.usable_wh) }}</ExplainedFigure>
        </dd>
      </div>
      <div>
        <dt>Drawn a day, no sun</dt>
        <dd>
          <ExplainedFigure figure="bank.daily_drawn_wh">{{
            kilowattHours(bank.daily_drawn_wh)
          }}</ExplainedFigure>
          <span class="lesser"> {{ count(bank.daily_drawn_ah) }} Ah</span>
        </dd>
      </div>
      <div>
        <dt>Autonomy, no sun</dt>
        <dd>
          <ExplainedFigure figure="bank.autonomy_h">{{
            bank.autonomy_h == null ? '–' : hours(bank.autonomy_h)
          }}</ExplainedFigure>
        </dd>
      </div>
      <div>
        <dt>May give, may take</dt>
        <dd>{{ count(bank.discharge_limit_a) }} A, {{ count(bank.charge_limit_a) }} A</dd>
      </div>
      <div>
        <dt>One more, one less</dt>
        <dd>
          <PriceTag :price="assessment.prices.one_unit_more" /><span class="lesser"
            ><PriceTag :price="assessment.prices.one_unit_less"
          /></span>
        </dd>
      </div>
    </dl>
    <TabRow v-model="part" :parts="PARTS" label="Parts of the bank" />
    <UnitPanel v-if="part === 'unit'" />
    <NeedPanel v-else-if="part === 'sheet'" />
    <ArrangementPanel v-else-if="part === 'arrangement'" />
    <ChemistryPanel v-else-if="part === 'chemistry'" />
    <PlacePanel v-else-if="part === 'place'" />
  </div>
</template>

<style scoped>
.facts {
  grid-template-columns: repeat(6, minmax(0, auto));
  gap: 8px 14px;
  margin-bottom: 12px;
}

.facts > div {
  border-bottom: 0;
}

@media (max-width: 1150px) {
  .facts {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}
</style>
