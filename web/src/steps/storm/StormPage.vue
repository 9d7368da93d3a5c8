<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Design } from '@/api/client'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { elevation, temperature } from '@/fields/units'
import WordsField from '@/fields/WordsField.vue'

import MakeItLast from './MakeItLast.vue'
import PlaceField from './PlaceField.vue'
import PolicyPanel from './PolicyPanel.vue'
import SkyTable from './SkyTable.vue'
import StartField from './StartField.vue'
import StormTimeline from './StormTimeline.vue'
import UsualStorms from './UsualStorms.vue'

const store = useDesign()
const { document, isOffGrid } = storeToRefs(store)
const metres = computed(() => (document.value ? elevation(document.value) : 'm'))

const degrees = computed(() => (document.value ? temperature(document.value) : '°C'))

const services = [
  { value: '120', title: '120 V' },
  { value: '120/240', title: '120/240 V split phase' },
  { value: '230', title: '230 V' },
]
const grids = [
  { value: false, title: 'From the grid' },
  { value: true, title: 'None: off the grid for good' },
]
const practices = [
  { value: 'north_american', title: 'North American: AWG, °F, 120/240 V' },
  { value: 'metric_230', title: 'Metric: mm², °C, 230 V' },
]
const kinds = [
  { value: 'home', title: 'Home' },
  { value: 'portable', title: 'Portable unit' },
]
const steps = [5, 15, 30, 60].map((value) => ({ value, title: `${value} min` }))

/** A service of one line has no leg B: what circuits say of it goes with it. */
function setService(service: Design['site']['service']): void {
  const circuits = service === '120/240' ? [] : (document.value?.transfer?.circuits ?? [])
  store.setAll([
    { path: 'site.service', value: service },
    ...circuits.flatMap((circuit, at) =>
      (['leg', 'backup_leg'] as const)
        .filter((field) => circuit[field] === 'B')
        .map((field) => ({ path: `transfer.circuits.${at}.${field}`, value: null })),
    ),
  ])
}
</script>

<template>
  <div v-if="document" class="storm">
    <section>
      <h2>{{ isOffGrid ? 'Dark spell' : 'Outage' }}</h2>
      <p v-if="isOffGrid" class="alone lesser" data-test="off-grid">
        Normal life is the outage: planned here is a spell of dark days and bad luck; Trials prove the year.
      </p>
      <UsualStorms />
      <div class="fields">
        <StartField class="wide" />
        <QuantityField path="outage.duration_h" label="Lasts" unit="h" />
        <QuantityField v-if="!isOffGrid" path="outage.warning_h" label="Warning before" unit="h" />
        <QuantityField path="outage.people" label="People" whole />
        <ChoiceField path="simulation.time_step_min" label="Time step" :choices="steps" />
      </div>
      <StormTimeline />
      <SkyTable />
    </section>
    <PolicyPanel />
    <MakeItLast />
    <section>
      <h2>Site</h2>
      <div class="fields">
        <PlaceField class="wide" />
        <QuantityField path="site.latitude_deg" label="Latitude, north +" unit="°" />
        <QuantityField path="site.longitude_deg" label="Longitude, east +" unit="°" />
        <QuantityField path="site.elevation_m" label="Elevation" :unit="metres" />
        <QuantityField path="site.utc_offset_h" label="Standard time, UTC" unit="h" />
        <QuantityField path="site.record_low_c" label="Record low" :unit="degrees" empty-means="not said" />
        <QuantityField path="site.record_high_c" label="Record high" :unit="degrees" empty-means="not said" />
        <ChoiceField
          class="wide"
          path="site.off_grid"
          label="Service"
          :choices="grids"
          data-test="off-grid-choice"
        />
        <ChoiceField
          class="wide"
          label="House wired for"
          :value="document.site.service"
          :choices="services"
          data-test="service"
          @change="setService"
        />
        <ChoiceField class="wide" path="kind" label="Design of" :choices="kinds" />
        <ChoiceField class="wider" path="practice" label="Practice and units" :choices="practices" />
        <WordsField
          class="whole"
          path="outage.notes"
          label="Who is there, what they fear, who can act"
          :most="2000"
          lines
          may-be-empty
        />
      </div>
    </section>
  </div>
</template>

<style scoped>
.alone {
  margin: 0 0 8px;
}

.storm {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 20px;
}

h2 {
  margin-bottom: 10px;
}

.fields {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 12px 10px;
  margin-bottom: 12px;
}

.wide {
  grid-column: span 2;
}

.wider {
  grid-column: span 3;
}

.whole {
  grid-column: 1 / -1;
}

@media (max-width: 1150px) {
  .fields {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}

@media (max-width: 640px) {
  .wider {
    grid-column: 1 / -1;
  }
}
</style>
