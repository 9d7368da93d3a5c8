<script setup lang="ts">
/** What the battery monitor counts and the inverter does not show: idle, conversion, phantom. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import { api, outcome, type KeptEntry, type Unexplained, type WattPair } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { useBuild } from './build'

const { document } = storeToRefs(useDesign())
const build = useBuild()
const { current, kept } = storeToRefs(build)
const empty = () => ({
  monitor_w: null as number | null,
  output_w: null as number | null,
  inverter_on: true,
  direct_w: 0,
})
const typed = ref(empty())
const fresh = ref<WattPair[]>([])
const refused = ref('')
const past = ref<KeptEntry[]>([])
watch([current, kept], async () => (past.value = await build.entries(['watts'])), { immediate: true })
const pairs = computed<WattPair[]>(() => [
  ...past.value.map(({ body }) => {
    const { monitor_w, output_w, inverter_on, direct_w } = body as unknown as WattPair
    return { monitor_w, output_w, inverter_on, direct_w }
  }),
  ...fresh.value,
])
const { value: answer, trouble } = useAnswer<{ found: Unexplained | null }>({
  ask: () =>
    document.value && pairs.value.length
      ? outcome(api.POST('/api/building/watts', { body: { design: document.value, pairs: pairs.value } }))
      : null,
  on: [pairs, () => document.value?.inverter],
})
const found = computed(() => (pairs.value.length ? (answer.value?.found ?? null) : null))

async function add(): Promise<void> {
  const { monitor_w, output_w, inverter_on, direct_w } = typed.value
  if (monitor_w === null || output_w === null) return
  const pair = { monitor_w, output_w, inverter_on, direct_w }
  if (current.value) refused.value = await build.keep({ kind: 'watts', ...pair })
  else fresh.value = [...fresh.value, pair]
  if (!refused.value) typed.value = empty()
}
</script>

<template>
  <section v-if="document && document.inverter.rated_w > 0" class="watts" aria-label="Unexplained watts">
    <h2>Watts between monitor and inverter</h2>
    <p class="lesser">
      Chargers off. Several loads, from nothing on to a heavy one, tell a phantom from a poor conversion.
    </p>
    <div class="entry">
      <QuantityField
        label="Monitor, drawn"
        may-be-empty
        :value="typed.monitor_w"
        unit="W"
        data-test="watts-monitor"
        @change="typed.monitor_w = $event"
      />
      <QuantityField
        label="Inverter gives"
        may-be-empty
        :value="typed.output_w"
        unit="W"
        data-test="watts-output"
        @change="typed.output_w = $event"
      />
      <ChoiceField
        label="Inverter"
        :value="typed.inverter_on"
        :choices="[
          { value: true, title: 'on' },
          { value: false, title: 'off' },
        ]"
        @change="typed.inverter_on = $event"
      />
      <QuantityField
        label="Known DC loads"
        :value="typed.direct_w"
        unit="W"
        @change="typed.direct_w = $event ?? 0"
      />
      <v-btn
        color="pine"
        :disabled="typed.monitor_w === null || typed.output_w === null"
        data-test="add-watts"
        @click="add"
        >Add</v-btn
      >
    </div>
    <p v-if="refused || trouble" class="bad" role="alert">{{ refused || trouble }}</p>
    <template v-if="found">
      <p class="said" data-test="watts-said">
        <ExplainedFigure :figure="found.figure">{{ found.sentence }}</ExplainedFigure>
      </p>
      <WideTable label="Watts between monitor and inverter">
        <table class="ledger">
          <thead>
            <tr>
              <th scope="col" class="number">Monitor W</th>
              <th scope="col" class="number">Given W</th>
              <th scope="col" class="number">Idle W</th>
              <th scope="col" class="number">Conversion W</th>
              <th scope="col" class="number">DC loads W</th>
              <th scope="col" class="number">Unexplained W</th>
              <th scope="col">So</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, at) in found.parts" :key="at">
              <td class="number">{{ count(row.monitor_w) }}</td>
              <td class="number">{{ count(row.output_w) }}</td>
              <td class="number">{{ count(row.idle_w) }}</td>
              <td class="number">{{ count(row.conversion_w) }}</td>
              <td class="number">{{ count(row.direct_w) }}</td>
              <td class="number" :class="{ bad: !row.is_explained }">{{ count(row.phantom_w) }}</td>
              <td>{{ row.is_explained ? 'explained' : 'not explained' }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
    </template>
  </section>
</template>

<style scoped>
.watts {
  margin-top: 20px;
  border-top: 1px solid var(--ink);
  padding-top: 10px;
}

.entry {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr)) auto;
  gap: 12px;
  align-items: end;
  margin-bottom: 8px;
}

.said {
  font-weight: 600;
}

.bad {
  color: var(--wine);
}

@media (max-width: 640px) {
  .entry {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
