<script setup lang="ts">
/** The grid: its charger, the set point of normal times, and whether the bank gets full between warning and storm. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { hours, kilowattHours, percent } from '@/shared/format'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent } from '@/fields/units'

const { document, assessment } = storeToRefs(useDesign())
const fill = computed(() => assessment.value?.charging.fill ?? null)
const keeps = computed(() => document.value?.charging.grid_charger.top_up_soc_frac != null)
</script>

<template>
  <div v-if="document && assessment && fill" class="grid">
    <div class="fields">
      <QuantityField path="charging.grid_charger.output_w" label="Into the bank" unit="W" />
      <QuantityField
        path="charging.grid_charger.efficiency_frac"
        label="Charger efficiency"
        :unit="asPercent"
      />
      <QuantityField
        path="charging.grid_charger.top_up_soc_frac"
        label="Kept at, in normal times"
        :unit="asPercent"
        empty-means="Bank page"
      />
      <QuantityField path="outage.warning_h" label="Warning before" unit="h" />
    </div>
    <p class="lesser">
      0 W means no charger. Kept below full, a lithium bank ages less; when a storm is announced it is filled
      up. Left empty, the outage begins with the charge of the Bank page.
    </p>
    <dl class="facts" data-test="fill">
      <div>
        <dt>When the warning comes</dt>
        <dd>{{ percent(fill.from_frac) }}</dd>
      </div>
      <div>
        <dt>As the outage begins</dt>
        <dd :class="{ short: keeps && !fill.is_full }">
          <ExplainedFigure figure="charging.fill">{{ percent(fill.reached_frac) }}</ExplainedFigure>
          <span v-if="keeps" class="lesser">{{ fill.is_full ? 'full in time' : 'not full in time' }}</span>
        </dd>
      </div>
      <div>
        <dt>From there to full</dt>
        <dd>
          <ExplainedFigure figure="charging.needed_h">{{
            fill.needed_h == null ? 'never' : hours(fill.needed_h)
          }}</ExplainedFigure>
          <span class="lesser">of {{ hours(fill.warning_h) }} warning</span>
        </dd>
      </div>
      <div>
        <dt>Taken from the grid</dt>
        <dd>
          <ExplainedFigure figure="charging.grid_wh">{{ kilowattHours(fill.grid_wh) }}</ExplainedFigure>
        </dd>
      </div>
      <div>
        <dt>Back to full after the outage</dt>
        <dd>
          <ExplainedFigure figure="charging.back_to_full_h">{{
            assessment.outage.hours_back_to_full_h == null
              ? `over ${hours(assessment.outage.refill_followed_h)}`
              : hours(assessment.outage.hours_back_to_full_h)
          }}</ExplainedFigure>
          <span class="lesser">charger and sun</span>
        </dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 10px;
}

p {
  margin: 10px 0 14px;
  font-size: 13px;
}

.facts {
  grid-template-columns: repeat(3, minmax(0, 1fr));
}

.short {
  color: var(--wine);
  font-weight: 700;
}
</style>
