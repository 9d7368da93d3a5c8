<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import FieldFrame from '@/shared/FieldFrame.vue'
import { count, percent } from '@/shared/format'
import HourCells from '@/shared/HourCells.vue'
import NumberField from '@/shared/NumberField.vue'
import PriceTag from '@/shared/PriceTag.vue'
import { asPercent } from '@/shared/units'

import LoadBar from './LoadBar.vue'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const clock = (hour: number) => `${String(hour).padStart(2, '0')}:00`
const sums = computed(() => assessment.value?.inverter)
const loads = computed(() => assessment.value?.loads)
</script>

<template>
  <div v-if="document && assessment && sums && loads">
    <section class="bars">
      <LoadBar
        title="Coincident peak"
        figure="loads.peak_w"
        :asked_w="loads.peak_w"
        :held_w="document.inverter.rated_w"
        :remark="`at ${clock(loads.peak_hour)}, of the rated`"
      />
      <LoadBar
        title="Worst start"
        figure="loads.start_surge_w"
        :asked_w="loads.start_surge_w"
        :held_w="document.inverter.surge_w"
        :remark="`${loads.start_surge_load ?? 'no motor'}, at ${clock(loads.start_surge_hour)}, of the surge`"
      />
    </section>
    <dl class="facts">
      <div>
        <dt>Direct current at the peak</dt>
        <dd>
          <ExplainedFigure figure="inverter.peak_current_a"
            >{{ count(sums.peak_current_a) }} A</ExplainedFigure
          >
        </dd>
      </div>
      <div>
        <dt>Direct current at the worst start</dt>
        <dd>
          <ExplainedFigure figure="inverter.surge_current_a"
            >{{ count(sums.surge_current_a) }} A</ExplainedFigure
          >
        </dd>
      </div>
      <div>
        <dt>Idle, of all drawn from the bank</dt>
        <dd>
          <ExplainedFigure figure="inverter.idle_daily_wh"
            >{{ count(sums.idle_daily_wh) }} Wh a day</ExplainedFigure
          >
          <span class="lesser"> {{ percent(sums.idle_share_frac) }}</span>
        </dd>
      </div>
      <div>
        <dt>Without any idle draw</dt>
        <dd><PriceTag :price="assessment.prices.without_idle" /></dd>
      </div>
    </dl>
    <h2>Unit</h2>
    <div class="fields">
      <NumberField path="inverter.rated_w" label="Rated, continuous" unit="W" />
      <NumberField path="inverter.surge_w" label="Surge" unit="W" />
      <NumberField path="inverter.surge_s" label="Surge held for" unit="s" />
      <NumberField path="inverter.idle_w" label="Idle draw" unit="W" />
      <NumberField path="inverter.efficiency_frac" label="Efficiency, rated" :unit="asPercent" />
      <NumberField path="inverter.low_cutoff_v" label="Low cut-off" unit="V" />
      <NumberField path="wiring.loss_frac" label="Lost in wiring" :unit="asPercent" />
    </div>
    <h2>At rest</h2>
    <div class="fields">
      <NumberField path="inverter.search_threshold_w" label="Search mode wakes at" unit="W" />
      <NumberField path="inverter.search_w" label="Draw while it listens" unit="W" />
      <FieldFrame class="off" label="Switched off, only DC loads run" for="off-hours">
        <HourCells
          id="off-hours"
          :hours="document.inverter.off_hours"
          tier="spare"
          label="Hours in which the inverter is switched off"
          :pinned-hour="null"
          @change="(hours) => store.set('inverter.off_hours', hours)"
        />
      </FieldFrame>
    </div>
    <p class="lesser">
      A rating of 0 W means that there is no inverter: only loads on DC are served. Choose pure sine for
      motors and electronics.
    </p>
  </div>
</template>

<style scoped>
.bars {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 24px;
  margin-bottom: 16px;
}

.facts {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  margin-bottom: 16px;
}

h2 {
  margin: 4px 0 10px;
}

.fields {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 12px 10px;
  margin-bottom: 12px;
}

@media (max-width: 1150px) {
  .facts {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
