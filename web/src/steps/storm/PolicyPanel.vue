<script setup lang="ts">
/** How the house behaves in the outage: who is dropped when and returns when, what is filled before, who starts what. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import FieldFrame from '@/fields/FieldFrame.vue'
import HourCells from '@/fields/HourCells.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent } from '@/fields/units'
import { kilowattHours, percent } from '@/shared/format'

const STARTERS = [
  { value: false, title: 'Starts by itself' },
  { value: true, title: 'Somebody at home starts it' },
]
const store = useDesign()
const { document, assessment, isOffGrid } = storeToRefs(store)
const generator = computed(() => document.value?.charging.generator ?? null)
const levels = computed(() => assessment.value?.levels ?? null)
const waiting = computed(() =>
  (document.value?.loads ?? []).filter((load) => load.flexible_h != null).map((load) => load.name),
)
</script>

<template>
  <section v-if="document" data-test="policy">
    <h2>Policy</h2>
    <div class="fields">
      <QuantityField path="policy.ease_level_frac" label="Ease dropped below" :unit="asPercent" />
      <QuantityField
        path="policy.keep_level_frac"
        label="Keep dropped below"
        :unit="asPercent"
        :empty-means="levels ? `floor, ${percent(levels.floor_frac)}` : 'floor'"
      />
      <QuantityField path="bank.cutoff_soc_frac" label="All cut off at" :unit="asPercent" />
      <QuantityField path="policy.return_margin_frac" label="Back above that by" :unit="asPercent" />
      <QuantityField
        v-if="!isOffGrid"
        path="charging.grid_charger.top_up_soc_frac"
        label="Kept before storms at"
        :unit="asPercent"
        empty-means="Bank page"
      />
      <FieldFrame label="Inverter off" for="policy-off">
        <HourCells
          id="policy-off"
          :hours="document.inverter.off_hours ?? []"
          tier="spare"
          label="Hours in which the inverter is off"
          :pinned-hour="null"
          @change="(spans) => store.set('inverter.off_hours', spans)"
        />
      </FieldFrame>
      <template v-if="generator">
        <ChoiceField
          class="wide"
          path="charging.generator.by_hand"
          label="The generator"
          :choices="STARTERS"
          data-test="generator-starter"
        />
        <FieldFrame class="wide" label="and stays off at" for="policy-quiet">
          <HourCells
            id="policy-quiet"
            :hours="generator.quiet_hours ?? []"
            tier="spare"
            label="Quiet hours of the generator"
            :pinned-hour="null"
            @change="(spans) => store.set('charging.generator.quiet_hours', spans)"
          />
        </FieldFrame>
      </template>
    </div>
    <p class="lesser" data-test="policy-said">
      <template v-if="levels">
        Between where Keep goes and where all does, {{ kilowattHours(levels.life_alone_wh) }} are Life’s
        alone.
      </template>
      {{
        waiting.length
          ? `${waiting.slice(0, 3).join(', ')}${waiting.length > 3 ? ` and ${waiting.length - 3} more` : ''} wait for the sun.`
          : 'No load waits for the sun; the Loads page says which may.'
      }}
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 10px;
}

.fields {
  display: grid;
  grid-template-columns: repeat(6, minmax(0, 1fr));
  gap: 12px 10px;
  margin-bottom: 6px;
  align-items: end;
}

.wide {
  grid-column: span 2;
}

p {
  margin: 0;
  overflow-wrap: anywhere;
}

@media (max-width: 1150px) {
  .fields {
    grid-template-columns: repeat(3, minmax(0, 1fr));
  }
}

@media (max-width: 640px) {
  .fields {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
