<script setup lang="ts">
/** The unit's life in cycles at one depth after another, as its sheet gives them. */
import { storeToRefs } from 'pinia'

import { useDesign } from '@/design/store'
import QuantityField from '@/fields/QuantityField.vue'
import { asPercent } from '@/fields/units'

const store = useDesign()
const { document } = storeToRefs(store)

/** A new point stands deeper than the others, with fewer cycles. */
function addCycles(): void {
  const points = document.value?.bank.unit?.cycle_points ?? []
  const last = points.at(-1)
  const next = last
    ? {
        depth_frac: Math.min(1, Math.round((last.depth_frac + 0.2) * 100) / 100),
        cycles: Math.round(last.cycles * 0.6),
      }
    : { depth_frac: 0.5, cycles: 1000 }
  store.set('bank.unit.cycle_points', [...points, next])
}

function removeCycles(index: number): void {
  const points = document.value?.bank.unit?.cycle_points ?? []
  store.set(
    'bank.unit.cycle_points',
    points.filter((_, at) => at !== index),
  )
}
</script>

<template>
  <div v-if="document?.bank.unit" class="cycles">
    <template v-for="(_, index) in document.bank.unit.cycle_points" :key="index">
      <QuantityField
        :path="`bank.unit.cycle_points.${index}.depth_frac`"
        label="At a depth of"
        :unit="asPercent"
      />
      <QuantityField :path="`bank.unit.cycle_points.${index}.cycles`" label="cycles" />
      <v-btn size="small" color="wine" :aria-label="`Remove cycles ${index + 1}`" @click="removeCycles(index)"
        >Remove</v-btn
      >
      <span />
    </template>
    <v-btn class="add" size="small" color="pine" @click="addCycles">Add cycles at a depth</v-btn>
  </div>
</template>

<style scoped>
.cycles {
  display: grid;
  grid-template-columns: 130px 130px auto 1fr;
  gap: 8px 10px;
  align-items: end;
  justify-items: start;
}

.add {
  grid-column: 1 / 3;
}

@media (max-width: 640px) {
  .cycles {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  }

  .cycles > span {
    display: none;
  }
}
</style>
