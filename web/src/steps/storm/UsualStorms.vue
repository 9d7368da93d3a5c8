<script setup lang="ts">
/** Storms to start from: one press puts a whole outage into the design, as one edit. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { api, outcome, type UsualStorm } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'

const store = useDesign()
const { document, isOffGrid } = storeToRefs(store)
const asked = computed(() => {
  if (!document.value) return null
  return {
    latitude_deg: document.value.site.latitude_deg,
    year: Number(document.value.outage.start.slice(0, 4)),
  }
})
const { value: all } = useAnswer<UsualStorm[]>({
  ask: () => asked.value && outcome(api.GET('/api/usual-storms', { params: { query: { ...asked.value } } })),
  // A text, so that an edit of anything else asks nothing.
  on: () => JSON.stringify(asked.value),
})

/** Without a grid none comes back. */
const storms = computed(
  () => all.value?.filter((storm) => !isOffGrid.value || !storm.grid_back.length) ?? null,
)

/** What a storm sets; who is at home and the notes stay. */
const fieldsOf = (storm: Pick<UsualStorm, 'start' | 'duration_h' | 'warning_h' | 'days' | 'grid_back'>) => ({
  start: storm.start,
  duration_h: storm.duration_h,
  warning_h: storm.warning_h,
  days: storm.days,
  grid_back: storm.grid_back,
})
const planned = computed(() => {
  const outage = document.value?.outage
  return outage?.sky_from === 'by_hand'
    ? JSON.stringify(
        fieldsOf({ ...outage, warning_h: outage.warning_h ?? 0, grid_back: outage.grid_back ?? [] }),
      )
    : ''
})
const isPlanned = (storm: UsualStorm) => JSON.stringify(fieldsOf(storm)) === planned.value

function take(storm: UsualStorm): void {
  if (isPlanned(storm)) return
  store.setAll([
    ...Object.entries(fieldsOf(storm)).map(([field, value]) => ({ path: `outage.${field}`, value })),
    { path: 'outage.sky_from', value: 'by_hand' },
  ])
}
</script>

<template>
  <!-- Its line is kept free from the start, so that what stands below does not move when the names arrive. -->
  <div class="storms" role="group" aria-label="Storms to start from" data-test="usual-storms">
    <span class="lesser">Start from</span>
    <button
      v-for="storm in storms ?? []"
      :key="storm.key"
      type="button"
      :aria-pressed="isPlanned(storm)"
      :title="`${storm.meaning} Invented: edit any of it. Undo brings back what stood here.`"
      @click="take(storm)"
    >
      {{ storm.title }}
    </button>
  </div>
</template>

<style scoped>
.storms {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
  min-height: 20px;
  margin-bottom: 10px;
}

button {
  white-space: nowrap;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

button[aria-pressed='true'] {
  color: var(--ink);
  text-decoration-color: var(--ember);
  text-decoration-thickness: 3px;
  text-underline-offset: 4px;
}

@media (max-width: 640px) {
  button {
    min-height: 40px;
  }
}
</style>
