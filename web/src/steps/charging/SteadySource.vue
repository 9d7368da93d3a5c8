<script setup lang="ts">
/** One kind of steady source, its fields as the core names them, and what it gave. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { SteadySum } from '@/api/client'
import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import { kilowattHours } from '@/shared/format'
import HourCells from '@/fields/HourCells.vue'
import QuantityField from '@/fields/QuantityField.vue'
import OptionalPart from '@/fields/OptionalPart.vue'
import PriceTag from '@/shared/PriceTag.vue'
import { asPercent, plain, windSpeed, type Unit } from '@/fields/units'

const props = defineProps<{ source: SteadySum }>()
const store = useDesign()
const { document, assessment } = storeToRefs(store)
const path = computed(() => `charging.${props.source.key}`)

function unitOf(name: SteadySum['fields'][number]['unit']): Unit {
  if (name === 'speed') return document.value ? windSpeed(document.value) : plain('m/s')
  if (name === 'percent') return asPercent
  return plain(name === 'money' ? '' : name)
}

const hoursAt = (field: string) => (valueAt(document.value, `${path.value}.${field}`) ?? []) as number[][]
</script>

<template>
  <OptionalPart :path="path" :label="source.question" :start="source.start">
    <template v-for="entry in source.fields" :key="entry.field">
      <FieldFrame
        v-if="entry.unit === 'hours'"
        class="wide"
        :label="entry.label"
        :for="`${source.key}-${entry.field}`"
      >
        <HourCells
          :id="`${source.key}-${entry.field}`"
          :hours="hoursAt(entry.field)"
          tier="keep"
          :label="`${source.label}: ${entry.label.toLowerCase()}, hour by hour`"
          :pinned-hour="null"
          @change="(spans) => store.set(`${path}.${entry.field}`, spans)"
        />
      </FieldFrame>
      <QuantityField
        v-else
        :path="`${path}.${entry.field}`"
        :label="entry.label"
        :unit="unitOf(entry.unit)"
        :empty-means="entry.unit === 'money' ? 'not said' : ''"
      />
    </template>
    <p class="gave">
      gave
      <ExplainedFigure :figure="`charging.source.${source.key}`">{{
        kilowattHours(source.given_wh)
      }}</ExplainedFigure>; without it
      <PriceTag :price="assessment?.prices.without_source[source.key]" />
    </p>
  </OptionalPart>
</template>

<style scoped>
.wide {
  grid-column: span 2;
}

.gave {
  grid-column: span 2;
  align-self: end;
  margin: 0 0 7px;
  font-size: 13px;
  color: var(--slate);
}
</style>
