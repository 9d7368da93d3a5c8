<script setup lang="ts">
/** Make it last: what to leave off and when, found by search over the outage model, and taken as one edit. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import { hoursText } from '@/fields/hours'
import { count, hours, hoursChange, kilowattHours } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { useRation } from './ration'
import RationHours from './RationHours.vue'

const store = useDesign()
const { assessment } = storeToRefs(store)
const ration = useRation()
const { value: plan, isCurrent, isBusy, trouble } = storeToRefs(ration)
const shown = computed(() => (isCurrent.value ? plan.value : null))
const isCarried = computed(
  () =>
    assessment.value !== null &&
    assessment.value.outage.hours_carried_h >= assessment.value.outage.duration_h,
)
const TIERS: Record<string, string> = { keep: 'Keep', ease: 'Ease' }

function take(): void {
  store.setAll((shown.value?.loads ?? []).map((load) => ({ path: load.path, value: load.hours_then })))
}
</script>

<template>
  <section data-test="make-it-last">
    <div class="head">
      <h2>Make it last</h2>
      <button v-if="!shown" type="button" class="find" :disabled="isBusy" @click="ration.ask()">
        {{ isBusy ? 'Searching …' : 'Find what to leave off, and when' }}
      </button>
      <button
        v-if="shown?.loads.length"
        type="button"
        class="find"
        data-test="try-ration"
        :title="`One edit; undo brings back today’s hours`"
        @click="take"
      >
        Try it, {{ hoursChange(shown.carried_then_h - shown.carried_now_h) }}
      </button>
    </div>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <p v-else-if="!shown" class="lesser">
      {{
        isCarried
          ? 'The planned outage is carried as it is.'
          : 'The hours of Ease and Keep that have to be given up so that Life, and then Keep, are carried to the end.'
      }}
    </p>
    <template v-else>
      <p data-test="ration-said">
        <template v-if="!shown.loads.length && shown.is_carried"
          >Life and Keep are carried to the end as it is: nothing has to be given up.</template
        >
        <template v-else-if="shown.is_carried"
          >Carried {{ hours(shown.carried_then_h) }} instead of {{ hours(shown.carried_now_h) }}, by giving up
          {{ kilowattHours(shown.given_up_keep_wh) }} of Keep and
          {{ kilowattHours(shown.given_up_ease_wh) }} of Ease over the outage, the least that was
          found.</template
        >
        <template v-else
          ><b class="bad">Nothing carries Life to the end.</b> With everything else left off it goes dark
          after {{ hours(shown.carried_then_h) }}; missing are {{ kilowattHours(shown.missing_wh) }} in all,
          and {{ count(shown.missing_w) }} W at a time.</template
        >
      </p>
      <WideTable v-if="shown.loads.length" label="The plan, load by load">
        <table class="ledger" data-test="ration">
          <thead>
            <tr>
              <th scope="col">Load</th>
              <th scope="col">Tier</th>
              <th scope="col">Hours, midnight to midnight</th>
              <th scope="col">On</th>
              <th scope="col" class="number">Given up</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="load in shown.loads" :key="load.load_id" :data-test="`ration-${load.load_id}`">
              <td class="name" :title="load.name">{{ load.name }}</td>
              <td>{{ TIERS[load.tier] }}</td>
              <td><RationHours :now="load.hours_now" :then="load.hours_then" /></td>
              <td class="lesser">{{ hoursText(load.hours_then) }}</td>
              <td class="number">{{ kilowattHours(load.given_up_wh) }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p v-if="shown.loads.length" class="lesser">
        Filled: on. Slashed: given up, on every day of the outage. What is off has a cost the model does not
        know: food that warms, a room or pipe that freezes. Repaint any hour on the Loads page.
      </p>
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
}

p {
  margin: 4px 0 8px;
  max-width: 96ch;
}

.find {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

td {
  white-space: nowrap;
}

.name {
  max-width: 210px;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
