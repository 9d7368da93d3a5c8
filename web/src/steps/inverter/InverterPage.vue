<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import type { LibraryInverter } from '@/api/client'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import ChoiceField from '@/fields/ChoiceField.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import { count, hours, percent } from '@/shared/format'
import HourCells from '@/fields/HourCells.vue'
import QuantityField from '@/fields/QuantityField.vue'
import PriceTag from '@/shared/PriceTag.vue'
import TakeButton from '@/shared/TakeButton.vue'
import TabRow from '@/shared/TabRow.vue'
import { asPercent } from '@/fields/units'

import InverterChoice from './InverterChoice.vue'
import LoadBar from './LoadBar.vue'

const store = useDesign()
const { document, assessment } = storeToRefs(store)
const PARTS = [
  { key: 'unit', title: 'Unit' },
  { key: 'choice', title: 'Choice from the library' },
] as const
const part = ref('unit')
const OUTPUTS = [
  { value: null, title: 'as the service' },
  { value: '120', title: '120 V' },
  { value: '120/240', title: '120/240 V, one unit' },
  { value: '120/240_pair', title: '120/240 V, a pair' },
  { value: '230', title: '230 V' },
]
const BUILDS = [
  { value: 'separate', title: 'Inverter alone' },
  { value: 'inverter_charger', title: 'With a charger' },
  { value: 'all_in_one', title: 'All-in-one, with sun' },
]
const DATA_CABLE = [
  { value: false, title: 'none' },
  { value: true, title: 'reads its board' },
]
const WAVEFORMS = [
  { value: 'pure_sine', title: 'Pure sine' },
  { value: 'modified_sine', title: 'Modified sine' },
]
const failedWords = computed(() => {
  const tiers = assessment.value?.one_failed?.tiers_carried ?? []
  return tiers.length ? `${tiers.join(', ')} fit` : 'no tier fits'
})

/** The unit's whole sheet as one edit; how many there are, headroom and strategies stay. */
function take(found: LibraryInverter): void {
  const inverter = document.value?.inverter
  if (!inverter) return
  const { rated_w, surge_w, surge_s, idle_w, efficiency_frac, low_cutoff_v, output, build, waveform } = found
  const { library_id, name, price, mass_kg, width_mm, height_mm, depth_mm } = found
  store.set('inverter', {
    ...inverter,
    ...{ rated_w, surge_w, surge_s, idle_w, efficiency_frac, low_cutoff_v, output, build, waveform },
    sheet: {
      library_id,
      name,
      price: price ?? null,
      mass_kg: mass_kg ?? null,
      width_mm: width_mm ?? null,
      height_mm: height_mm ?? null,
      depth_mm: depth_mm ?? null,
    },
  })
}

const clock = (hour: number) => `${String(hour).padStart(2, '0')}:00`
const sums = computed(() => assessment.value?.inverter)
const loads = computed(() => assessment.value?.loads)
const start = computed(() =>
  assessment.value?.wiring.volts?.cases.find((entry) => entry.what === 'start' && entry.state === 'low'),
)
</script>

<template>
  <div v-if="document && assessment && sums && loads">
    <section class="bars">
      <LoadBar
        title="Coincident peak"
        figure="loads.peak_w"
        :asked_w="loads.peak_w"
        :held_w="document.inverter.rated_w * document.inverter.units"
        :remark="`at ${clock(loads.peak_hour)}, of the rated`"
      />
      <LoadBar
        title="Worst start"
        figure="loads.start_surge_w"
        :asked_w="loads.start_surge_w"
        :held_w="document.inverter.surge_w * document.inverter.units"
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
          <span v-if="start" class="lesser" :class="{ bad: !start.holds }" data-test="start-volts"
            ><ExplainedFigure figure="wiring.volts.start.low"
              >{{ start.inverter_v.toFixed(1) }} V are left</ExplainedFigure
            >{{ start.holds ? '' : ', it cuts off' }}</span
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
      <div v-if="assessment.one_failed">
        <dt>With one unit failed</dt>
        <dd data-test="one-failed">
          {{ hours(assessment.one_failed.hours_carried_h) }}
          <span class="lesser">{{ failedWords }}</span>
        </dd>
      </div>
      <div>
        <dt>Without any idle draw</dt>
        <dd><PriceTag :price="assessment.prices.without_idle" /></dd>
      </div>
    </dl>
    <TabRow v-model="part" :parts="PARTS" label="Parts of the inverter" />
    <template v-if="part === 'unit'">
      <div class="fields">
        <QuantityField path="inverter.rated_w" label="Rated, one unit" unit="W" />
        <QuantityField
          path="inverter.rated_va"
          label="Apparent power, one unit"
          unit="VA"
          empty-means="as its watts"
        />
        <QuantityField path="inverter.surge_w" label="Surge, one unit" unit="W" />
        <QuantityField path="inverter.surge_s" label="Surge held for" unit="s" />
        <QuantityField path="inverter.idle_w" label="Idle draw, one unit" unit="W" />
        <QuantityField path="inverter.efficiency_frac" label="Efficiency, rated" :unit="asPercent" />
        <QuantityField path="inverter.low_cutoff_v" label="Low cut-off" unit="V" />
        <QuantityField path="inverter.headroom_frac" label="Headroom wanted" :unit="asPercent" />
        <QuantityField
          path="wiring.loss_frac"
          label="Lost in wiring"
          :unit="asPercent"
          empty-means="by the runs"
        />
        <QuantityField path="inverter.units" label="Units together" whole />
        <ChoiceField path="inverter.output" label="Gives" :choices="OUTPUTS" />
        <ChoiceField path="inverter.build" label="Built as" :choices="BUILDS" />
        <ChoiceField path="inverter.waveform" label="Waveform" :choices="WAVEFORMS" />
        <ChoiceField path="inverter.reads_bank" label="Data cable to the bank" :choices="DATA_CABLE" />
      </div>
      <h2>At rest</h2>
      <div class="fields">
        <QuantityField path="inverter.search_threshold_w" label="Search mode wakes at" unit="W" />
        <QuantityField path="inverter.search_w" label="Draw while it listens" unit="W" />
        <FieldFrame class="off" label="Off: DC loads only" for="off-hours">
          <HourCells
            id="off-hours"
            :hours="document.inverter.off_hours"
            tier="spare"
            label="Hours in which the inverter is switched off"
            :pinned-hour="null"
            @change="(hours) => store.set('inverter.off_hours', hours)"
          />
        </FieldFrame>
        <div class="night">
          Off from 22 to 6: <PriceTag :price="assessment.prices.off_at_night" />
          <TakeButton
            data-test="off-at-night"
            :change_h="document.inverter.off_hours.length ? undefined : assessment.prices.off_at_night.gain_h"
            :label="document.inverter.off_hours.length ? 'Leave it on' : 'Take it'"
            @take="
              store.set(
                'inverter.off_hours',
                document.inverter.off_hours.length
                  ? []
                  : [
                      [0, 6],
                      [22, 24],
                    ],
              )
            "
          />
        </div>
      </div>
      <p class="lesser">
        A rating of 0 W means that there is no inverter: only loads on DC are served. Makers allow only like
        units to work together, linked for it.
      </p>
    </template>
    <InverterChoice v-else :design="document" @take="take" />
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
  grid-template-columns: repeat(5, minmax(0, 1fr));
  margin-bottom: 16px;
}

.bad {
  color: var(--wine);
}

.facts dd .lesser {
  white-space: normal;
  font-family: var(--hk-text);
}

.night {
  align-self: end;
  padding-bottom: 4px;
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

@media (max-width: 640px) {
  .bars {
    grid-template-columns: minmax(0, 1fr);
    gap: 10px;
  }
}
</style>
