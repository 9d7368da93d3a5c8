<script setup lang="ts">
/** Drawdown and capacity test: what the house really draws, what the bank really holds. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { api, outcome, type CapacityResult, type DrawdownResult } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent, temperature } from '@/fields/units'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count } from '@/shared/format'

import { useBuild } from './build'
import CorrectionCards from './CorrectionCards.vue'

const { document } = storeToRefs(useDesign())
const build = useBuild()
const { current } = storeToRefs(build)
const drawn = ref({ start: 1 as number | null, end: null as number | null, hours: null as number | null })
const capacity = ref({
  ah: null as number | null,
  hours: null as number | null,
  temp: null as number | null,
  end: 0 as number | null,
})
const told = ref({ drawdown: '', capacity: '' })
const refused = ref({ drawdown: '', capacity: '' })

const drawdownTest = computed(() => {
  const { start, end, hours } = drawn.value
  return start === null || end === null || hours === null
    ? null
    : { start_soc_frac: start, end_soc_frac: end, hours_h: hours, soc_doubt_frac: 0.01 }
})
const capacityTest = computed(() => {
  const { ah, hours, temp, end } = capacity.value
  return ah === null || hours === null
    ? null
    : { ah, hours_h: hours, temp_c: temp ?? 25, end_soc_frac: end ?? 0 }
})
const { value: drawnFound, trouble: drawnTrouble } = useAnswer<DrawdownResult>({
  ask: () =>
    document.value && drawdownTest.value
      ? outcome(
          api.POST('/api/building/drawdown', { body: { design: document.value, test: drawdownTest.value } }),
        )
      : null,
  on: [document, drawdownTest],
})
const { value: capacityFound, trouble: capacityTrouble } = useAnswer<CapacityResult>({
  ask: () =>
    document.value && capacityTest.value
      ? outcome(
          api.POST('/api/building/capacity', { body: { design: document.value, test: capacityTest.value } }),
        )
      : null,
  on: [document, capacityTest],
})

async function keep(kind: 'drawdown' | 'capacity'): Promise<void> {
  const test = kind === 'drawdown' ? drawdownTest.value : capacityTest.value
  told.value[kind] = ''
  refused.value[kind] = await build.keep({ kind, test })
  if (!refused.value[kind]) told.value[kind] = 'Kept in the record.'
}
</script>

<template>
  <template v-if="document">
    <section class="test" aria-label="Drawdown test">
      <h2>Drawdown test</h2>
      <p class="lesser">
        Sun and chargers off, the house as usual. Charge at the start, charge at the end, hours between.
      </p>
      <div class="entry">
        <QuantityField
          label="Charge, start"
          may-be-empty
          :value="drawn.start"
          :unit="asPercent"
          data-test="drawn-start"
          @change="drawn.start = $event"
        />
        <QuantityField
          label="Charge, end"
          may-be-empty
          :value="drawn.end"
          :unit="asPercent"
          data-test="drawn-end"
          @change="drawn.end = $event"
        />
        <QuantityField
          label="Hours between"
          may-be-empty
          :value="drawn.hours"
          unit="h"
          data-test="drawn-hours"
          @change="drawn.hours = $event"
        />
        <v-btn size="small" :disabled="!drawnFound || !drawdownTest || !current" @click="keep('drawdown')"
          >Keep in the record</v-btn
        >
        <span class="lesser" role="status">{{ told.drawdown }}</span>
      </div>
      <p v-if="drawnTrouble || refused.drawdown" class="bad" role="alert">
        {{ drawnTrouble || refused.drawdown }}
      </p>
      <template v-if="drawnFound && drawdownTest">
        <p class="said" data-test="drawn-said">
          <ExplainedFigure :figure="drawnFound.figure">{{ drawnFound.sentence }}</ExplainedFigure>
        </p>
        <p>
          At this draw {{ drawnFound.days_from_full.toFixed(1) }} days from full to the floor,
          {{ drawnFound.days_left.toFixed(1) }} days from where the test ended.
        </p>
        <CorrectionCards :corrections="drawnFound.corrections" />
      </template>
    </section>
    <section class="test" aria-label="Capacity test">
      <h2>Capacity test</h2>
      <p class="lesser">
        From full through the shunt, a steady load, down to the cut-off. Not below the maker’s last volts, and
        charged again the same day.
      </p>
      <div class="entry">
        <QuantityField
          label="Counted out"
          may-be-empty
          :value="capacity.ah"
          unit="Ah"
          data-test="capacity-ah"
          @change="capacity.ah = $event"
        />
        <QuantityField
          label="In"
          may-be-empty
          :value="capacity.hours"
          unit="h"
          data-test="capacity-hours"
          @change="capacity.hours = $event"
        />
        <QuantityField
          label="Cells"
          :value="capacity.temp"
          :unit="temperature(document)"
          :empty-means="`${temperature(document).show(25)} ${temperature(document).label}`"
          @change="capacity.temp = $event"
        />
        <QuantityField
          label="Left at the end"
          :value="capacity.end"
          :unit="asPercent"
          may-be-empty
          @change="capacity.end = $event"
        />
        <v-btn size="small" :disabled="!capacityFound || !capacityTest || !current" @click="keep('capacity')"
          >Keep in the record</v-btn
        >
        <span class="lesser" role="status">{{ told.capacity }}</span>
      </div>
      <p v-if="capacityTrouble || refused.capacity" class="bad" role="alert">
        {{ capacityTrouble || refused.capacity }}
      </p>
      <template v-if="capacityFound && capacityTest">
        <p class="said" data-test="capacity-said">
          <ExplainedFigure :figure="capacityFound.figure">{{ capacityFound.sentence }}</ExplainedFigure>
        </p>
        <p>
          {{ count(capacityFound.counted_ah) }} Ah as if at 25 °C, of {{ count(capacityFound.rated_ah) }} Ah
          rated.
        </p>
        <CorrectionCards :corrections="capacityFound.corrections" />
      </template>
    </section>
  </template>
</template>

<style scoped>
.test {
  margin-top: 18px;
  border-top: 1px solid var(--ink);
  padding-top: 10px;
}

.entry {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 150px)) auto auto;
  gap: 12px;
  align-items: end;
  justify-content: start;
}

.said {
  font-weight: 600;
  margin: 8px 0 2px;
}

.bad {
  color: var(--wine);
}

@media (max-width: 760px) {
  .entry {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
