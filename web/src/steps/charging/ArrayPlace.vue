<script setup lang="ts">
/** Where an array stands: its shade by hour, its snow, what heat takes, and how it is moved and set out through the day. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { PanelArray } from '@/api/client'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import { percent } from '@/shared/format'
import HourCells from '@/fields/HourCells.vue'
import { hoursText } from '@/fields/hours'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent } from '@/fields/units'

import ShadeCells from './ShadeCells.vue'
import { SAID } from './words'

const props = defineProps<{ path: string; array: PanelArray }>()
const store = useDesign()
const { assessment } = storeToRefs(store)
const MOST_STANDS = 8
const SNOW = [
  { value: 'lies', title: 'Lies until it thaws' },
  { value: 'slides', title: 'Slides off, steep' },
  { value: 'swept', title: 'Cleared by hand' },
]
const MOUNTINGS = [
  { value: null, title: 'Not said' },
  { value: 'building', title: 'A building' },
  { value: 'ground', title: 'The ground' },
  { value: 'vehicle', title: 'A vehicle or cart' },
]
const MOUNTED = { building: 'on a building', ground: 'on the ground', vehicle: 'on a vehicle' }
const lost = computed(
  () =>
    assessment.value?.charging.curve.arrays.find((entry) => entry.array_id === props.array.id)
      ?.shade_loss_frac ?? 0,
)
const stands = computed(() => props.array.stands ?? [])
const summary = computed(() =>
  [
    props.array.shade_frac?.length ? `shade takes ${percent(lost.value)} of a clear day` : 'no shade',
    { lies: 'snow lies', slides: 'snow slides off', swept: `snow cleared at ${props.array.swept_hour}:00` }[
      props.array.snow ?? 'lies'
    ],
    props.array.mounting ? MOUNTED[props.array.mounting] : '',
    stands.value.length ? `moved ${stands.value.length} times a day` : 'fixed',
    props.array.out_hours ? `set out ${hoursText(props.array.out_hours)}` : '',
  ]
    .filter(Boolean)
    .join(', '),
)

function addStand(): void {
  const last = stands.value.at(-1)
  const from_hour = Math.min((last?.from_hour ?? 9) + 3, 23)
  const azimuth_deg = Math.min((last?.azimuth_deg ?? props.array.azimuth_deg) + 50, 359)
  store.set(`${props.path}.stands`, [
    ...stands.value,
    { from_hour, tilt_deg: last?.tilt_deg ?? props.array.tilt_deg, azimuth_deg },
  ])
}

function removeStand(at: number): void {
  store.set(
    `${props.path}.stands`,
    stands.value.filter((_, index) => index !== at),
  )
}
</script>

<template>
  <details class="place" :data-test="`place-${array.id}`">
    <summary>
      Place, shade, snow, heat, moving: <span class="lesser">{{ summary }}</span>
    </summary>
    <div class="parts">
      <FieldFrame label="Taken by trees, a hill, a wall" :for="`shade-${array.id}`">
        <ShadeCells
          :id="`shade-${array.id}`"
          :shade="array.shade_frac ?? []"
          :label="`Shade on ${array.name} by hour`"
          @change="(shade) => store.set(`${path}.shade_frac`, shade)"
        />
      </FieldFrame>
      <div>
        <label class="set-out">
          <input
            type="checkbox"
            :checked="!!array.out_hours"
            :data-test="`out-${array.id}`"
            @change="store.set(`${path}.out_hours`, array.out_hours ? null : [[9, 15]])"
          />
          set out for some hours only
        </label>
        <HourCells
          v-if="array.out_hours"
          :hours="array.out_hours"
          tier="keep"
          :label="`Hours in which ${array.name} is set out`"
          :pinned-hour="null"
          @change="(spans) => store.set(`${path}.out_hours`, spans)"
        />
      </div>
      <div class="fields">
        <ChoiceField :path="`${path}.snow`" label="Snow and ice" :choices="SNOW" />
        <QuantityField
          v-if="array.snow === 'swept'"
          :path="`${path}.swept_hour`"
          label="Cleared at"
          unit="o’clock"
          whole
        />
        <ChoiceField :path="`${path}.mounting`" label="Stands on" :choices="MOUNTINGS" />
        <ChoiceField
          v-if="array.mounting === 'building'"
          :path="`${path}.rapid_shutdown`"
          label="Rapid shutdown"
          :choices="SAID"
        />
        <QuantityField :path="`${path}.power_temp_coeff_per_c`" label="Power, each °C" :unit="asPercent" />
        <QuantityField :path="`${path}.noct_c`" label="NOCT of its cells" unit="°C" />
      </div>
    </div>
    <div v-for="(stand, at) in stands" :key="at" class="stand">
      <QuantityField :path="`${path}.stands.${at}.from_hour`" label="Moved at" unit="o’clock" whole />
      <QuantityField :path="`${path}.stands.${at}.tilt_deg`" label="Tilt" unit="°" />
      <QuantityField :path="`${path}.stands.${at}.azimuth_deg`" label="Faces, N 0" unit="°" />
      <v-btn
        size="small"
        color="wine"
        :aria-label="`Leave out the move at ${stand.from_hour}`"
        @click="removeStand(at)"
        >Remove</v-btn
      >
    </div>
    <div class="foot">
      <v-btn size="small" color="pine" :disabled="stands.length >= MOST_STANDS" @click="addStand"
        >Add a move</v-btn
      >
    </div>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  font-size: 13.5px;
}

.parts {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 8px 18px;
  align-items: start;
  margin: 8px 0;
}

.fields {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: 1.5fr repeat(3, minmax(0, 1fr));
  gap: 8px;
}

.set-out {
  display: flex;
  gap: 7px;
  align-items: center;
  margin: 16px 0 8px;
}

.set-out input {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}

.foot {
  display: flex;
}

.stand {
  display: grid;
  grid-template-columns: repeat(3, 120px) auto;
  justify-content: start;
  gap: 10px;
  align-items: end;
  margin-bottom: 8px;
}

@media (max-width: 640px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
  }

  .stand {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
