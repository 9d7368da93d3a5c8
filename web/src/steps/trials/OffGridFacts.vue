<script setup lang="ts">
/** What a year off the grid comes to. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { WholeYear } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { plain, volume } from '@/fields/units'
import { count, hours, percent } from '@/shared/format'

const props = defineProps<{ year: WholeYear }>()
const { document } = storeToRefs(useDesign())
const unit = computed(() => (document.value ? volume(document.value) : plain('L')))
const fuel = (volume_l: number) => `${count(unit.value.show(volume_l))} ${unit.value.label}`
const facts = computed(() => {
  const { year } = props
  return [
    {
      key: 'dark_days',
      title: 'Dark days',
      value: count(year.dark_days),
      more: `${hours(year.dark_h)} in all`,
    },
    {
      key: 'noon',
      title: 'Full by noon',
      value: `${count(year.full_by_noon_days)} days`,
      more: `of ${year.days.length}`,
    },
    {
      key: 'lowest',
      title: 'Lowest charge',
      value: percent(year.lowest_frac),
      more: `${percent(year.at_plan_frac)} where the planned spell begins`,
    },
    ...(year.has_generator
      ? [
          {
            key: 'generator',
            title: 'The generator runs',
            value: `${count(year.generator_h)} h`,
            more: `${fuel(year.fuel_l)} of fuel`,
          },
          {
            key: 'most_fuel',
            title: `Most fuel in ${year.fuel_days} days`,
            value: fuel(year.most_fuel_l),
            more: `${fuel(document.value?.charging.generator?.stock_l ?? 0)} on hand`,
          },
        ]
      : []),
  ]
})
</script>

<template>
  <div>
    <dl class="facts" data-test="year-facts">
      <div v-for="fact in facts" :key="fact.key">
        <dt>{{ fact.title }}</dt>
        <dd>
          <ExplainedFigure v-if="year.figures[fact.key]" :figure="year.figures[fact.key]!">{{
            fact.value
          }}</ExplainedFigure>
          <span class="lesser">{{ fact.more }}</span>
        </dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.facts {
  grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
  margin-bottom: 8px;
}

.facts dd .lesser {
  white-space: normal;
}
</style>
