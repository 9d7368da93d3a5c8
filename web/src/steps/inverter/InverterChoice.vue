<script setup lang="ts">
/** The library's inverters in this one's place, best first, with a line on why the smaller do not do. */
import { computed, ref } from 'vue'

import { api, outcome, type Design, type LibraryInverter } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import UnitLibrary from '@/library/UnitLibrary.vue'
import { amount, count, hours } from '@/shared/format'
import TakeButton from '@/shared/TakeButton.vue'
import WideTable from '@/shared/WideTable.vue'

const props = defineProps<{ design: Design }>()
const emit = defineEmits<{ take: [unit: LibraryInverter] }>()
const isOpen = ref(false)
const {
  value: ranked,
  trouble: unranked,
  askNow,
} = useAnswer({
  ask: () => outcome(api.POST('/api/library/rank-inverters', { body: props.design })),
  on: () => props.design,
  wait: 150,
})
const rows = computed(() => ranked.value ?? [])
const trouble = computed(() =>
  unranked.value ? 'The library could not be ranked; the list shows the last answer.' : '',
)
/** After the library has changed the ranking is asked anew. */
function close(): void {
  isOpen.value = false
  void askNow()
}

function takeFrom(unit: LibraryInverter): void {
  emit('take', unit)
  close()
}

const columns = [
  { title: 'Gives', value: (unit: LibraryInverter) => `${unit.output.replace('_', ' ')} V`, words: true },
  { title: 'Bank, V', value: (unit: LibraryInverter) => amount(unit.system_v) },
  { title: 'Rated, W', value: (unit: LibraryInverter) => count(unit.rated_w) },
  { title: 'Surge, W', value: (unit: LibraryInverter) => count(unit.surge_w) },
  { title: 'Idle, W', value: (unit: LibraryInverter) => amount(unit.idle_w) },
  { title: 'Price', value: (unit: LibraryInverter) => (unit.price == null ? '–' : count(unit.price)) },
]
const find = (words: string) => outcome(api.GET('/api/library/inverter', { params: { query: { words } } }))
</script>

<template>
  <div>
    <p v-if="trouble" class="lesser" role="alert">{{ trouble }}</p>
    <WideTable label="Inverters of the library, ranked">
      <table class="ledger" data-test="ranked">
        <thead>
          <tr>
            <th scope="col">Of the library, for this bank’s volts</th>
            <th scope="col" class="number">Rated</th>
            <th scope="col" class="number">Surge</th>
            <th scope="col" class="number">Carried</th>
            <th scope="col" class="number">Idle</th>
            <th scope="col" class="number">Price</th>
            <th scope="col">In one line</th>
            <th scope="col"><span class="visually-hidden">Take</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.unit.library_id" :class="{ unfit: !row.fits }">
            <td>{{ row.unit.name }}</td>
            <td class="number">{{ count(row.unit.rated_w) }} W</td>
            <td class="number">{{ count(row.unit.surge_w) }} W</td>
            <td class="number">{{ hours(row.hours_carried_h) }}</td>
            <td class="number">{{ amount(row.unit.idle_w) }} W</td>
            <td class="number">{{ row.unit.price == null ? '–' : count(row.unit.price) }}</td>
            <td class="remark">{{ row.fits ? '' : 'No: ' }}{{ row.remark }}</td>
            <td>
              <TakeButton
                label="Take"
                brief
                :carried_h="row.hours_carried_h"
                :aria-label="`Take ${row.unit.name}`"
                @take="emit('take', row.unit)"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <v-btn
      class="mt-2"
      variant="outlined"
      color="pine"
      size="small"
      data-test="open-inverters"
      @click="isOpen = true"
      >The whole library</v-btn
    >
    <UnitLibrary
      v-if="isOpen"
      kind="inverter"
      title="Inverters of the library"
      :columns="columns"
      :find="find"
      :chosen="design.inverter.sheet?.library_id ?? null"
      @take="takeFrom"
      @close="close"
    />
    <p v-if="!rows.length" class="lesser">The library holds no inverter for this bank’s voltage.</p>
  </div>
</template>

<style scoped>
.unfit td {
  color: var(--slate);
}

.remark {
  font-size: 12.5px;
}
</style>
