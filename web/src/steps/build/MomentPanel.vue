<script setup lang="ts">
/** The moment of the readings: hour, sky, air, charge and test load, from which the windows follow. */
import { storeToRefs } from 'pinia'
import { computed, useId } from 'vue'

import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent, temperature } from '@/fields/units'

import { siteNow, useBuild } from './build'
import { SKIES } from './words'

const { document } = storeToRefs(useDesign())
const build = useBuild()
const { moment } = storeToRefs(build)
const ids = { day: useId(), time: useId() }
const day = computed(() => moment.value?.at.slice(0, 10) ?? '')
const time = computed(() => moment.value?.at.slice(11, 16) ?? '')

/** A day or an hour that is being typed is taken once it is whole. */
function setAt(newDay: string, newTime: string): void {
  const year = Number(newDay.slice(0, 4))
  if (/^\d{4}-\d{2}-\d{2}$/.test(newDay) && year >= 1950 && year <= 2100 && /^\d{2}:\d{2}$/.test(newTime))
    build.setMoment({ at: `${newDay}T${newTime}:00` })
}
</script>

<template>
  <fieldset v-if="document && moment" class="moment">
    <legend>The moment of the readings, local standard time</legend>
    <FieldFrame label="Day" :for="ids.day">
      <input
        :id="ids.day"
        class="plain"
        type="date"
        :value="day"
        data-test="moment-day"
        @change="setAt(($event.target as HTMLInputElement).value, time)"
      />
    </FieldFrame>
    <FieldFrame label="Hour" :for="ids.time">
      <input
        :id="ids.time"
        class="plain"
        type="time"
        :value="time"
        data-test="moment-time"
        @change="setAt(day, ($event.target as HTMLInputElement).value)"
      />
    </FieldFrame>
    <ChoiceField
      label="Sky"
      :value="moment.sky"
      :choices="SKIES"
      data-test="moment-sky"
      @change="build.setMoment({ sky: $event })"
    />
    <QuantityField
      label="Air"
      :value="moment.air_c"
      :unit="temperature(document)"
      data-test="moment-air"
      @change="build.setMoment({ air_c: $event ?? 20 })"
    />
    <QuantityField
      label="Sun, measured"
      :value="moment.sun_w_m2 ?? null"
      unit="W/m²"
      empty-means="by hour"
      @change="build.setMoment({ sun_w_m2: $event })"
    />
    <QuantityField
      label="Charge"
      :value="moment.soc_frac ?? null"
      :unit="asPercent"
      empty-means="any"
      data-test="moment-charge"
      @change="build.setMoment({ soc_frac: $event })"
    />
    <QuantityField
      label="Test load"
      :value="moment.test_load_w ?? null"
      unit="W"
      empty-means="a tenth"
      @change="build.setMoment({ test_load_w: $event })"
    />
    <button
      type="button"
      class="now"
      data-test="moment-now"
      @click="build.setMoment({ at: siteNow(document) })"
    >
      Now
    </button>
  </fieldset>
</template>

<style scoped>
.moment {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: 1.5fr 1.15fr 1.05fr 0.8fr 1.15fr 0.8fr 0.95fr auto;
  gap: 8px 12px;
  align-items: end;
}

legend {
  font-weight: 700;
  font-size: 15px;
  padding: 0 0 4px;
}

.plain {
  width: 100%;
  min-height: 32px;
  padding: 0 6px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  font-family: var(--hk-figures);
  font-size: 13px;
  color-scheme: light dark;
}

.now {
  color: var(--pine);
  font-weight: 600;
  min-height: 32px;
}

@media (max-width: 1150px) {
  .moment {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}

@media (max-width: 640px) {
  .moment {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
