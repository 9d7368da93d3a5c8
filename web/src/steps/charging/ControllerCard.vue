<script setup lang="ts">
/** One controller and its arrays. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Controller, PanelArray } from '@/api/client'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { amount } from '@/shared/format'
import { freshId } from '@/shared/ids'
import QuantityField from '@/fields/QuantityField.vue'
import PriceTag from '@/shared/PriceTag.vue'
import { asPercent } from '@/fields/units'
import WordsField from '@/fields/WordsField.vue'

import ArrayPlace from './ArrayPlace.vue'
import StringPanel from './StringPanel.vue'
import { SAID } from './words'

const props = defineProps<{ controller: Controller; index: number }>()
const emit = defineEmits<{ remove: [] }>()
const store = useDesign()
const { document, assessment } = storeToRefs(store)

const MOST_ARRAYS = 12
const path = computed(() => `charging.controllers.${props.index}`)
const usual = computed(() => assessment.value?.usual)
const kinds = [
  { value: 'mppt', title: 'MPPT' },
  { value: 'pwm', title: 'PWM' },
  { value: 'panel_fed', title: 'No controller' },
]

function addArray(): void {
  const charging = document.value?.charging
  const used = [
    ...(charging?.controllers ?? []),
    ...(charging?.grid_tied ? [charging.grid_tied] : []),
  ].flatMap((entry) => (entry.arrays ?? []).map((array) => array.id))
  if (!usual.value) return
  const made = { ...usual.value.array, id: freshId('array', used), name: `Array ${used.length + 1}` }
  store.set(`${path.value}.arrays`, [...props.controller.arrays, made as unknown as PanelArray])
}

const isOnBuilding = computed(() => props.controller.arrays.some((array) => array.mounting === 'building'))

function removeArray(at: number): void {
  store.set(
    `${path.value}.arrays`,
    props.controller.arrays.filter((_, index) => index !== at),
  )
}
</script>

<template>
  <section class="controller">
    <div class="head">
      <WordsField :path="`${path}.name`" label="Controller" />
      <ChoiceField :path="`${path}.kind`" label="Kind" :choices="kinds" />
      <template v-if="controller.kind !== 'panel_fed'">
        <QuantityField :path="`${path}.output_a`" label="Output" unit="A" />
        <QuantityField
          :path="`${path}.efficiency_frac`"
          label="Efficiency"
          :unit="asPercent"
          :empty-means="amount(100 * (usual?.controller_frac[controller.kind] ?? 1))"
        />
        <QuantityField :path="`${path}.max_input_v`" label="Input up to" unit="V" empty-means="–" />
        <QuantityField :path="`${path}.max_input_a`" label="and up to" unit="A" empty-means="–" />
      </template>
      <v-btn size="small" color="wine" :aria-label="`Remove ${controller.name}`" @click="emit('remove')"
        >Remove</v-btn
      >
    </div>
    <div v-for="(array, at) in controller.arrays" :key="array.id" class="array">
      <WordsField class="array-name" :path="`${path}.arrays.${at}.name`" label="Array" />
      <QuantityField :path="`${path}.arrays.${at}.stc_w`" label="Panels" unit="W" />
      <QuantityField :path="`${path}.arrays.${at}.tilt_deg`" label="Tilt" unit="°" />
      <QuantityField :path="`${path}.arrays.${at}.azimuth_deg`" label="Faces, N 0" unit="°" />
      <QuantityField :path="`${path}.arrays.${at}.losses_frac`" label="Losses" :unit="asPercent" />
      <QuantityField
        :path="`${path}.arrays.${at}.vmp_v`"
        label="Vmp"
        unit="V"
        :empty-means="amount(usual?.array_vmp_v[array.id] ?? 0)"
      />
      <div class="prices">
        <div>Without <PriceTag :price="assessment?.prices.without_array[array.id]" /></div>
        <div>Half more <PriceTag :price="assessment?.prices.half_more_array[array.id]" /></div>
      </div>
      <v-btn size="small" color="wine" :aria-label="`Remove ${array.name}`" @click="removeArray(at)"
        >Remove</v-btn
      >
      <StringPanel class="strings" :path="`${path}.arrays.${at}`" :array="array" />
      <ArrayPlace class="strings" :path="`${path}.arrays.${at}`" :array="array" />
    </div>
    <div class="foot">
      <v-btn size="small" color="pine" :disabled="controller.arrays.length >= MOST_ARRAYS" @click="addArray"
        >Add an array</v-btn
      >
      <label v-if="controller.kind !== 'panel_fed'" class="built-in">
        <input
          type="checkbox"
          :checked="controller.built_in"
          :data-test="`built-in-${controller.id}`"
          @change="store.set(`${path}.built_in`, !controller.built_in)"
        />
        it is the all-in-one inverter’s own input
      </label>
      <template v-if="controller.kind !== 'panel_fed'">
        <QuantityField class="small" :path="`${path}.start_margin_v`" label="Margin to start" unit="V" />
        <QuantityField
          class="small"
          :path="`${path}.battery_min_v`"
          label="Banks from"
          unit="V"
          empty-means="–"
        />
        <QuantityField
          class="small"
          :path="`${path}.battery_max_v`"
          label="Banks to"
          unit="V"
          empty-means="–"
        />
      </template>
    </div>
    <div v-if="isOnBuilding" class="seen">
      <ChoiceField :path="`${path}.ground_fault`" label="Sees ground faults" :choices="SAID" />
      <ChoiceField :path="`${path}.arc_fault`" label="Sees arcs" :choices="SAID" />
    </div>
  </section>
</template>

<style scoped>
.seen {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(140px, 170px));
  gap: 10px;
  margin-top: 8px;
}

.controller {
  padding: 12px 0 8px;
  margin-bottom: 8px;
}

.controller + .controller {
  border-top: 1px solid var(--ink);
}

.head {
  display: grid;
  grid-template-columns: 1.7fr 1.5fr 1fr 1fr 1fr 1fr auto;
  gap: 10px;
  align-items: end;
  margin-bottom: 12px;
}

.array {
  display: grid;
  grid-template-columns: 1.7fr 1fr 0.8fr 0.9fr 0.8fr 0.9fr 1.35fr auto;
  gap: 8px;
  align-items: end;
  margin: 0 0 10px 18px;
}

.prices {
  font-size: 12.5px;
  color: var(--slate);
  white-space: nowrap;
}

.foot {
  display: flex;
  gap: 12px;
  align-items: end;
}

.small {
  width: 138px;
}

.built-in {
  display: flex;
  gap: 7px;
  align-items: center;
  font-size: 13.5px;
  margin: 0 auto 6px 0;
}

.built-in input {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}

.strings {
  grid-column: 1 / -1;
}

@media (max-width: 1150px) {
  .array {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}

@media (max-width: 640px) {
  .head,
  .array {
    grid-template-columns: repeat(2, minmax(0, 1fr));
    margin-left: 0;
  }

  .foot {
    flex-wrap: wrap;
  }

  .prices {
    white-space: normal;
  }
}
</style>
