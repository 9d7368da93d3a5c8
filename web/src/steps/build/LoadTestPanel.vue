<script setup lang="ts">
/** The load test: steps of a plain heater, each against the model. */
import { useLocalStorage } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome, type LoadTest } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import SeverityMark from '@/checks/SeverityMark.vue'
import { useDesign } from '@/design/store'
import QuantityField from '@/fields/QuantityField.vue'
import { temperature } from '@/fields/units'
import { amount, unbroken, worked } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { useBuild } from './build'
import CorrectionCards from './CorrectionCards.vue'

const MOST_STEPS = 24
/** A step as it is typed: whole once load and volts are there. */
interface Typed {
  load_w: number | null
  bank_v: number | null
  bank_a: number | null
  inverter_v: number | null
  warmest_c: number | null
}
type Column = keyof Typed

const { document, id } = storeToRefs(useDesign())
const build = useBuild()
const { moment, current } = storeToRefs(build)
const all = useLocalStorage<Record<string, Typed[]>>('hearthkeep.load-test', {})
const refused = ref('')
const said = ref('')
const empty = (): Typed => ({ load_w: null, bank_v: null, bank_a: null, inverter_v: null, warmest_c: null })
/** Those begun, and one to go on with. */
const rows = computed(() => {
  const begun = all.value[id.value] ?? []
  return begun.length < MOST_STEPS ? [...begun, empty()] : begun
})
const isWhole = (row: Typed): row is Typed & { load_w: number; bank_v: number } =>
  row.load_w !== null && row.bank_v !== null
const steps = computed(() => (all.value[id.value] ?? []).filter(isWhole))
const { value: found, trouble } = useAnswer<LoadTest>({
  ask: () =>
    document.value && moment.value
      ? outcome(
          api.POST('/api/building/load-test', {
            body: { design: document.value, moment: moment.value, steps: steps.value },
          }),
        )
      : null,
  on: [document, moment, steps],
})
/** What each row came to, by its place among the whole ones. */
const results = computed(() => {
  let at = 0
  return rows.value.map((row) => (isWhole(row) ? (found.value?.steps[at++] ?? null) : null))
})

function put(at: number, column: Column, value: number | null): void {
  const next = rows.value.map((row, index) => (index === at ? { ...row, [column]: value } : row))
  all.value = {
    ...all.value,
    [id.value]: next.filter((row) => Object.values(row).some((each) => each !== null)),
  }
}

async function keep(): Promise<void> {
  said.value = ''
  refused.value = await build.keep({ kind: 'load_test', moment: moment.value, steps: steps.value })
  if (!refused.value) said.value = 'Kept in the record.'
}

const hot = computed(() => {
  const unit = document.value ? temperature(document.value) : null
  return unit && found.value ? unbroken(`${unit.show(found.value.hot_c)} ${unit.label}`) : 'its limit'
})
const windowOf = (window: readonly number[], digits: number) =>
  `${window[1]?.toFixed(digits)}–${window[2]?.toFixed(digits)}`
</script>

<template>
  <section v-if="document && document.inverter.rated_w > 0" aria-label="Load test">
    <h2>Load test</h2>
    <p class="lesser">
      Begin at rest, then a plain heater in steps, ten minutes each. Sun and chargers off. Stop where
      something smells or passes {{ hot }}.
    </p>
    <WideTable label="Load test">
      <table class="ledger">
        <thead>
          <tr>
            <th scope="col">Load</th>
            <th scope="col">Bank, posts</th>
            <th scope="col" class="number">Expect V</th>
            <th scope="col">From the bank</th>
            <th scope="col" class="number">Expect A</th>
            <th scope="col">At the inverter</th>
            <th scope="col">Warmest lug</th>
            <th scope="col">So</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, at) in rows" :key="at" :data-test="`load-step-${at + 1}`">
            <td class="read">
              <QuantityField
                :label="`Step ${at + 1}: load`"
                quiet
                may-be-empty
                :value="row.load_w"
                unit="W"
                @change="put(at, 'load_w', $event)"
              />
            </td>
            <td class="read">
              <QuantityField
                :label="`Step ${at + 1}: volts at the bank`"
                quiet
                may-be-empty
                :value="row.bank_v"
                unit="V"
                @change="put(at, 'bank_v', $event)"
              />
            </td>
            <td class="number">{{ results[at] ? windowOf(results[at]!.expected_v, 1) : '' }}</td>
            <td class="read">
              <QuantityField
                :label="`Step ${at + 1}: amps`"
                quiet
                may-be-empty
                :value="row.bank_a"
                unit="A"
                @change="put(at, 'bank_a', $event)"
              />
            </td>
            <td class="number">{{ results[at] ? windowOf(results[at]!.expected_a, 1) : '' }}</td>
            <td class="read">
              <QuantityField
                :label="`Step ${at + 1}: volts at the inverter`"
                quiet
                may-be-empty
                :value="row.inverter_v"
                unit="V"
                @change="put(at, 'inverter_v', $event)"
              />
            </td>
            <td class="read">
              <QuantityField
                :label="`Step ${at + 1}: warmest lug`"
                quiet
                may-be-empty
                :value="row.warmest_c"
                :unit="temperature(document)"
                @change="put(at, 'warmest_c', $event)"
              />
            </td>
            <td class="so">
              <template v-if="results[at]?.remark"
                ><SeverityMark :severity="results[at]?.is_hot ? 'stop' : 'mend'" />
                {{ results[at]?.remark }}</template
              >
              <template v-else-if="results[at]"><SeverityMark severity="good" /> as it should be</template>
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <template v-if="found">
      <p class="said" data-test="load-test-said">{{ found.sentence }}</p>
      <p v-if="found.bank_mohm != null" class="lesser">
        The bank falls by {{ worked(found.bank_mohm) }} ± {{ worked(found.bank_doubt_mohm ?? 0) }} mV an
        ampere; by the design {{ worked(found.design_bank_mohm) }}.
        <template v-if="found.efficiency_frac != null">
          The inverter takes {{ amount(found.idle_w ?? 0) }} W with nothing on, and gives
          {{ (100 * found.efficiency_frac).toFixed(1) }} % at its rating.</template
        >
      </p>
      <CorrectionCards :corrections="found.corrections" />
    </template>
    <v-btn size="small" :disabled="!steps.length || !current" data-test="keep-load-test" @click="keep"
      >Keep in the record</v-btn
    >
    <span class="lesser" role="status"> {{ said }}</span>
    <p v-if="refused" class="bad" role="alert">{{ refused }}</p>
  </section>
</template>

<style scoped>
.read {
  min-width: 96px;
  padding: 3px 4px;
}

.so {
  min-width: 150px;
  font-size: 13px;
}

.said {
  font-weight: 600;
}

.bad {
  color: var(--wine);
}
</style>
