<script setup lang="ts">
/** The worst starts of the year: each drawn small, opened on the strip, and taken as the planned storm. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Trials, WorstStart } from '@/api/client'
import { useDesign } from '@/design/store'
import { plain, volume } from '@/fields/units'
import { calendarMoment, hours, percent } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'
import { useLooking } from '@/strip/looking'

import LookAndPlan from './LookAndPlan.vue'
import SmallStripPicture from './SmallStripPicture.vue'

const props = defineProps<{ trials: Trials }>()
const store = useDesign()
const { document } = storeToRefs(store)

const { shown, isLooking, trouble } = storeToRefs(useLooking())
const unit = computed(() => (document.value ? volume(document.value) : plain('L')))
const burns = computed(() => props.trials.worst.some((start) => start.fuel_l > 0))
const isShown = (start: WorstStart) => isLooking.value && shown.value?.outage.start === start.start
const said = (start: WorstStart) =>
  `From ${calendarMoment(start.start)}: carried ${hours(start.carried_h)} of ${hours(props.trials.planned_h)}, ` +
  `dark for ${hours(start.dark_for_h)}, lowest charge ${percent(start.lowest_frac)}`

function take(start: WorstStart): void {
  store.setAll([
    { path: 'outage.start', value: start.start },
    { path: 'outage.sky_from', value: 'year' },
  ])
}
</script>

<template>
  <div>
    <p class="lesser">
      An outage of {{ hours(trials.planned_h) }} from each; none of them overlap. Shaded: night. At the foot:
      Life or Keep dark.
    </p>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <WideTable label="Worst starts">
      <table class="ledger" data-test="worst">
        <thead>
          <tr>
            <th scope="col">Begins</th>
            <th scope="col" class="picture">Charge</th>
            <th scope="col" class="number">Carried</th>
            <th scope="col" class="number">Dark for</th>
            <th scope="col" class="number">Lowest</th>
            <th v-if="burns" scope="col" class="number">Fuel, {{ unit.label }}</th>
            <th scope="col"><span class="visually-hidden">What to do with it</span></th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="start in trials.worst"
            :key="start.start"
            :class="{ shown: isShown(start) }"
            :data-test="`worst-${start.start}`"
          >
            <td class="when">{{ calendarMoment(start.start) }}</td>
            <td class="picture">
              <SmallStripPicture :strip="start.strip" :duration_h="trials.planned_h" :said="said(start)" />
            </td>
            <td class="number">{{ hours(start.carried_h) }}</td>
            <td class="number">{{ hours(start.dark_for_h) }}</td>
            <td class="number">{{ percent(start.lowest_frac) }}</td>
            <td v-if="burns" class="number">
              {{ unit.show(start.fuel_l).toFixed(1) }}
            </td>
            <td><LookAndPlan :start="start.start" :duration_h="trials.planned_h" @plan="take(start)" /></td>
          </tr>
        </tbody>
      </table>
    </WideTable>
  </div>
</template>

<style scoped>
p {
  margin: 0 0 6px;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

.ledger td {
  height: 33px;
}

.picture {
  width: 38%;
  min-width: 120px;
}

.when {
  white-space: nowrap;
}

.shown td {
  background: var(--sheet);
}
</style>
