<script setup lang="ts">
/** What one stage adds to those before it. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { GrowthStage, Load } from '@/api/client'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import OptionalPart from '@/fields/OptionalPart.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { LONGEST_NAME } from '@/fields/limits'
import { plain, volume } from '@/fields/units'
import WordsField from '@/fields/WordsField.vue'
import { freshId, idFromName } from '@/shared/ids'
import { amount } from '@/shared/format'
import EntryLine from '@/steps/loads/EntryLine.vue'

const props = defineProps<{ stage: GrowthStage; index: number }>()
const emit = defineEmits<{ remove: [] }>()
const MOST_LOADS = 40
const MOST_CONTROLLERS = 4
const CHEMISTRIES = [
  { value: 'lfp', title: 'Lithium iron phosphate' },
  { value: 'agm', title: 'AGM' },
  { value: 'gel', title: 'Gel' },
  { value: 'flooded', title: 'Flooded' },
]
const store = useDesign()
const { document, assessment } = storeToRefs(store)
const path = computed(() => `growth.${props.index}`)
const arrays = computed(() =>
  (document.value?.charging?.controllers ?? []).flatMap((controller) => controller.arrays ?? []),
)
const litres = computed(() => (document.value ? volume(document.value) : plain('L')))
const allLoads = computed(() => [
  ...(document.value?.loads ?? []),
  ...(document.value?.growth ?? []).flatMap((stage) => stage.loads ?? []),
])
const addedTo = (key: string) => props.stage.panels?.find((entry) => entry.array_id === key)?.stc_w ?? 0

function addPanels(key: string, watts: number | null): void {
  const others = (props.stage.panels ?? []).filter((entry) => entry.array_id !== key)
  store.set(`${path.value}.panels`, watts ? [...others, { array_id: key, stc_w: watts }] : others)
}

function addController(): void {
  const usual = assessment.value?.usual
  const design = document.value
  if (!usual || !design) return
  const controllers = [
    ...(design.charging?.controllers ?? []),
    ...(design.growth ?? []).flatMap((stage) => stage.controllers ?? []),
  ]
  const taken = [
    ...controllers.flatMap((controller) => controller.arrays ?? []),
    ...(design.charging?.grid_tied?.arrays ?? []),
  ]
  const made = {
    ...usual.controller,
    id: freshId(
      'controller',
      controllers.map((controller) => controller.id),
    ),
    name: `Controller ${controllers.length + 1}`,
    arrays: [
      {
        ...usual.array,
        id: freshId(
          'array',
          taken.map((array) => array.id),
        ),
        name: `Array ${taken.length + 1}`,
      },
    ],
  }
  store.set(`${path.value}.controllers`, [...(props.stage.controllers ?? []), made])
}

function dropController(at: number): void {
  store.set(
    `${path.value}.controllers`,
    (props.stage.controllers ?? []).filter((_, index) => index !== at),
  )
}

function addLoad(load: Load): void {
  const id = idFromName(
    load.name,
    allLoads.value.map((other) => other.id),
  )
  store.set(`${path.value}.loads`, [...(props.stage.loads ?? []), { ...load, id }])
}

function dropLoad(id: string): void {
  store.set(
    `${path.value}.loads`,
    (props.stage.loads ?? []).filter((load) => load.id !== id),
  )
}
</script>

<template>
  <section class="card" :data-test="`stage-${index}`">
    <div class="fields">
      <WordsField :path="`${path}.title`" label="Stage" :most="LONGEST_NAME" />
      <QuantityField :path="`${path}.in_years`" label="From now, in" unit="years" />
      <QuantityField :path="`${path}.inverter_units`" label="More inverters like it" whole />
      <button type="button" class="aside" :data-test="`remove-stage-${index}`" @click="emit('remove')">
        Take the stage out
      </button>
    </div>
    <OptionalPart
      v-if="assessment"
      :path="`${path}.battery`"
      label="More battery units"
      :start="assessment.usual.addition"
    >
      <QuantityField :path="`${path}.battery.parallel`" label="Strings" whole />
      <ChoiceField :path="`${path}.battery.chemistry`" label="Chemistry" :choices="CHEMISTRIES" />
      <QuantityField :path="`${path}.battery.unit_v`" label="One unit" unit="V" />
      <QuantityField :path="`${path}.battery.unit_ah`" label="One unit" unit="Ah" />
    </OptionalPart>
    <div v-if="arrays.length" class="fields">
      <QuantityField
        v-for="array in arrays"
        :key="array.id"
        :label="`More on ${array.name}`"
        unit="W"
        :value="addedTo(array.id)"
        may-be-empty
        @change="(watts: number | null) => addPanels(array.id, watts)"
      />
    </div>
    <div v-for="(controller, at) in stage.controllers ?? []" :key="controller.id" class="fields">
      <WordsField :path="`${path}.controllers.${at}.name`" label="Another controller" :most="LONGEST_NAME" />
      <QuantityField :path="`${path}.controllers.${at}.output_a`" label="It gives" unit="A" />
      <QuantityField :path="`${path}.controllers.${at}.arrays.0.stc_w`" label="Its array" unit="W" />
      <QuantityField :path="`${path}.controllers.${at}.arrays.0.tilt_deg`" label="Tilt" unit="°" />
      <QuantityField :path="`${path}.controllers.${at}.arrays.0.azimuth_deg`" label="Faces" unit="°" />
      <button type="button" class="aside" @click="dropController(at)">Take it out</button>
    </div>
    <button
      v-if="(stage.controllers ?? []).length < MOST_CONTROLLERS"
      type="button"
      class="more"
      @click="addController"
    >
      Another array with its own controller
    </button>
    <OptionalPart
      v-if="assessment"
      :path="`${path}.generator`"
      :label="document?.charging?.generator ? 'Another generator in the place of the first' : 'A generator'"
      :start="assessment.usual.generator"
    >
      <QuantityField :path="`${path}.generator.rated_w`" label="Rated" unit="W" />
      <QuantityField :path="`${path}.generator.charger_w`" label="Its charger gives" unit="W" />
      <QuantityField :path="`${path}.generator.stock_l`" label="Fuel on hand" :unit="litres" />
    </OptionalPart>
    <div class="loads">
      <span class="lesser">Loads that come with it</span>
      <ul v-if="stage.loads?.length">
        <li v-for="load in stage.loads" :key="load.id">
          {{ load.name }}, {{ amount(load.running_w) }} W, {{ load.tier }}
          <button
            type="button"
            class="aside"
            :aria-label="`Take it out: ${load.name}`"
            @click="dropLoad(load.id)"
          >
            Take it out
          </button>
        </li>
      </ul>
      <EntryLine
        v-if="document && assessment"
        :full="(stage.loads ?? []).length >= MOST_LOADS"
        :bank_v="assessment.bank.nominal_v"
        :practice="document.practice"
        @add="addLoad"
      />
    </div>
  </section>
</template>

<style scoped>
.card {
  padding: 10px 0 12px;
  border-top: 1px solid var(--ink);
}

.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 8px 12px;
  align-items: end;
  margin: 4px 0 8px;
}

.aside,
.more {
  justify-self: start;
  padding: 4px 0;
  color: var(--wine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.more {
  display: block;
  color: var(--pine);
}

.loads {
  margin-top: 8px;
}

ul {
  margin: 2px 0 4px;
  padding-left: 18px;
}

li {
  overflow-wrap: anywhere;
}
</style>
