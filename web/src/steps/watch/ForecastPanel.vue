<script setup lang="ts">
/** The days ahead as they are foretold: the plan's until somebody says otherwise. */
import { storeToRefs } from 'pinia'

import type { Sky, WatchView } from '@/api/client'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { temperature } from '@/fields/units'
import { calendarDay } from '@/shared/format'

import { SKIES } from '../build/words'
import { useWatch } from './watch'

defineProps<{ view: WatchView }>()
const store = useWatch()
const { document } = storeToRefs(useDesign())
const air = (value_c: number) => {
  if (!document.value) return ''
  const unit = temperature(document.value)
  return `${unit.show(value_c)} ${unit.label}`
}

async function foretell(on: string, sky: Sky, air_temp_c: number): Promise<void> {
  await store.tell({ kind: 'forecast', first: on, days: [{ sky, air_temp_c }] })
}
</script>

<template>
  <section>
    <h2>Forecast</h2>
    <table class="ledger" data-test="watch-days">
      <tbody>
        <tr v-for="day in view.days" :key="day.on">
          <th scope="row">{{ calendarDay(day.on + 'T00:00:00', 0) }}</th>
          <td>
            <ChoiceField
              label="Sky"
              class="sky"
              :name="`Sky of ${calendarDay(day.on + 'T00:00:00', 0)}`"
              :value="day.sky"
              :choices="SKIES"
              :data-test="`foretold-${day.on}`"
              @change="foretell(day.on, $event as Sky, day.air_temp_c)"
            />
          </td>
          <td class="number">{{ air(day.air_temp_c) }}</td>
          <td class="lesser">{{ day.is_told ? 'told' : 'as in the plan' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h2 {
  margin: 12px 0 2px;
}

.ledger th {
  border-bottom-color: var(--rule);
}

.sky :deep(label) {
  display: none;
}
</style>
