<script setup lang="ts">
/** What the bank drives into a fault and what breaks it; volts at the inverter; shunt, precharge and surge protection. */
import { computed } from 'vue'

import type { WiringSheet } from '@/api/client'
import { YES_NO } from '@/fields/choices'
import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent, temperature, type Unit } from '@/fields/units'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { amount, count } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import type { Wiring } from './useWiring'

const props = defineProps<{ sheet: WiringSheet; wiring: Wiring }>()
const design = computed(() => props.wiring.document.value)
const sums = computed(() => props.wiring.assessment.value?.wiring ?? null)
const guarded = computed(() =>
  props.sheet.runs.filter((run) => run.fault_a != null || run.device_kind === 'none'),
)
const precharge = computed(() => sums.value?.precharge ?? null)
const MILLIFARAD: Unit = { label: 'mF', show: (value) => value * 1000, keep: (value) => value / 1000 }
const WHAT: Record<string, string> = { peak: 'Peak of the audit', start: 'Worst start' }
const STATE: Record<string, string> = { full: 'bank full', low: 'bank at its floor' }
const tenth = (value: number) => amount(Math.round(value * 10) / 10)
</script>

<template>
  <div v-if="design && sums">
    <h2>Fault current at each device</h2>
    <WideTable label="Fault current at each device">
      <table class="ledger" data-test="faults">
        <thead>
          <tr>
            <th scope="col">Run</th>
            <th scope="col">Device</th>
            <th scope="col" class="number">Fault A</th>
            <th scope="col" class="number">It breaks A</th>
            <th scope="col">So</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="run in guarded" :key="run.key">
            <td>{{ run.label }}</td>
            <td>{{ run.device || '–' }}</td>
            <td class="number">
              <ExplainedFigure
                :figure="run.figures.find((figure) => figure.label.startsWith('Fault')) ?? ''"
                >{{ run.fault_a == null ? '–' : count(run.fault_a) }}</ExplainedFigure
              >
            </td>
            <td class="number">{{ run.interrupt_a == null ? '–' : count(run.interrupt_a) }}</td>
            <td :class="{ bad: run.device_kind === 'none' || (run.fault_a ?? 0) > (run.interrupt_a ?? 0) }">
              {{
                run.unknown.includes('device')
                  ? 'not known'
                  : run.device_kind === 'none'
                    ? 'nothing breaks it'
                    : (run.fault_a ?? 0) > (run.interrupt_a ?? 0)
                      ? 'it cannot break that'
                      : 'it holds'
              }}
            </td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p class="lesser">
      {{ count(sums.short_a) }} A at the bank's terminals. Further on, cable holds it down. What a device
      breaks is usual for its kind; its own sheet decides.
    </p>
    <h2>Volts at the inverter</h2>
    <WideTable v-if="sums.volts" label="Volts at the inverter">
      <table class="ledger volts" data-test="volts">
        <thead>
          <tr>
            <th scope="col">While</th>
            <th scope="col" class="number">Taken W</th>
            <th scope="col" class="number">Current A</th>
            <th scope="col" class="number">At the bank V</th>
            <th scope="col" class="number">At the inverter V</th>
            <th scope="col">Cut-off {{ amount(sums.volts.cutoff_v) }} V</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in sums.volts.cases" :key="entry.what + entry.state">
            <td>{{ WHAT[entry.what] }}, {{ STATE[entry.state] }}</td>
            <td class="number">{{ count(entry.power_w) }}</td>
            <td class="number">{{ tenth(entry.current_a) }}</td>
            <td class="number">{{ tenth(entry.bank_v) }}</td>
            <td class="number">
              <ExplainedFigure :figure="`wiring.volts.${entry.what}.${entry.state}`">{{
                tenth(entry.inverter_v)
              }}</ExplainedFigure>
            </td>
            <td :class="{ bad: !entry.holds }">{{ entry.holds ? 'holds' : 'cuts off' }}</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <p v-else class="lesser">No inverter, or the size of its leads is not known.</p>
    <h2>Beside the bank</h2>
    <dl class="facts">
      <div>
        <dt>Shunt asked, in the negative</dt>
        <dd>
          <ExplainedFigure figure="wiring.shunt_a">{{ count(sums.shunt.asked_a) }} A</ExplainedFigure>
          <span class="lesser">carries {{ tenth(sums.shunt.carries_a) }} A</span>
        </dd>
      </div>
      <div v-if="precharge">
        <dt>Precharge of one inverter</dt>
        <dd data-test="precharge">
          <ExplainedFigure figure="wiring.precharge_s"
            >{{ amount(precharge.resistor_ohm) }} Ω, {{ amount(precharge.seconds_s) }} s</ExplainedFigure
          >
          <span class="lesser"
            >{{ tenth(precharge.energy_j) }} J in the resistor, {{ count(precharge.first_w) }} W at first{{
              precharge.is_needed ? '' : '; so little that none is needed'
            }}</span
          >
        </dd>
      </div>
      <div v-if="precharge">
        <dt>Its capacitors</dt>
        <dd>
          {{ tenth(1000 * precharge.capacitance_f) }} mF
          <span class="lesser">{{ precharge.is_known ? 'as entered' : 'usual for its size' }}</span>
        </dd>
      </div>
    </dl>
    <div class="fields">
      <ChoiceField path="wiring.has_shunt" label="A shunt is there" :choices="YES_NO" />
      <QuantityField path="wiring.shunt_a" label="Shunt" unit="A" :empty-means="count(sums.shunt.asked_a)" />
      <QuantityField
        path="wiring.inverter_capacitance_f"
        label="Inverter's capacitors"
        :unit="MILLIFARAD"
        :empty-means="precharge ? tenth(1000 * precharge.capacitance_f) : '–'"
      />
      <ChoiceField path="wiring.surge_dc" label="Surge protection, sun" :choices="YES_NO" />
      <ChoiceField path="wiring.surge_ac" label="Surge protection, panel" :choices="YES_NO" />
    </div>
    <h2>What all runs are held to</h2>
    <div class="fields">
      <QuantityField path="wiring.ambient_c" label="Around the runs" :unit="temperature(design)" />
      <QuantityField path="wiring.bank_drop_frac" label="Drop, bank leads" :unit="asPercent" />
      <QuantityField path="wiring.solar_drop_frac" label="Drop, solar" :unit="asPercent" />
      <QuantityField path="wiring.branch_drop_frac" label="Drop, others" :unit="asPercent" />
      <QuantityField
        path="wiring.loss_frac"
        label="Flat loss instead"
        :unit="asPercent"
        empty-means="by the runs"
      />
    </div>
  </div>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
}

h2:first-child {
  margin-top: 0;
}

p {
  font-size: 13px;
  margin: 6px 0;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

.facts {
  grid-template-columns: repeat(3, minmax(0, 1fr));
  margin-bottom: 10px;
}

.facts dd .lesser {
  white-space: normal;
  font-family: var(--hk-text);
}

.fields {
  display: grid;
  grid-template-columns: repeat(5, minmax(0, 1fr));
  gap: 8px 10px;
}

@media (max-width: 1150px) {
  .fields {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}
</style>
