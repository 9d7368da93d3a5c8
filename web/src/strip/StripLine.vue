<script setup lang="ts">
/** The strip as one line: how long Life and Keep are carried, of how long, and what the last edit changed. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import { calendarMoment, hours, hoursChange } from '@/shared/format'
import { STEPS } from '@/steps/steps'

import { useLooking } from './looking'

const emit = defineEmits<{ open: [] }>()
const { lastChange_h, problems } = storeToRefs(useDesign())
const { shown, isLooking } = storeToRefs(useLooking())
const outage = computed(() => shown.value?.outage ?? null)
const isEmpty = computed(() => outage.value?.is_asked === false)
/** What is missing next, while there is nothing to carry. */
const next = computed(() => {
  const first = shown.value?.missing[0]
  return first ? `Next: ${STEPS.find((step) => step.name === first.step)?.title}, ${first.what}` : ''
})
const part = computed(() =>
  outage.value && !isEmpty.value ? (100 * outage.value.hours_carried_h) / outage.value.duration_h : 0,
)
const change = computed(() => (lastChange_h.value === null ? null : hoursChange(lastChange_h.value)))
</script>

<template>
  <button
    v-if="outage"
    type="button"
    class="line"
    data-test="strip-line"
    title="Open the strip ( S )"
    @click="emit('open')"
  >
    <b class="figures" data-test="hours-carried" :data-hours="isEmpty ? 0 : outage.hours_carried_h">{{
      isEmpty ? '–' : hours(outage.hours_carried_h)
    }}</b>
    <span>{{ isEmpty ? next : `of ${hours(outage.duration_h)} carried` }}</span>
    <span v-if="isLooking" class="lesser">from {{ calendarMoment(outage.start) }}, not the plan</span>
    <span v-else-if="problems.length" class="loss">last usable state</span>
    <span v-else-if="change" class="change" :class="{ loss: (lastChange_h ?? 0) < 0 }">{{ change }}</span>
    <i class="bar" aria-hidden="true"><i :style="{ width: `${part}%` }" /></i>
  </button>
</template>

<style scoped>
.line {
  position: relative;
  flex: none;
  display: flex;
  align-items: baseline;
  gap: 8px;
  min-height: 44px;
  padding: 9px 14px 12px;
  background: var(--sheet);
  border-top: 2px solid var(--ink);
  text-align: left;
  white-space: nowrap;
  overflow: hidden;
}

b {
  font-size: 20px;
}

.change {
  margin-left: auto;
  font-weight: 700;
  color: var(--pine);
}

.loss {
  margin-left: auto;
  font-weight: 700;
  color: var(--wine);
}

.bar {
  position: absolute;
  inset: auto 0 0;
  height: 5px;
  background: var(--idle);
}

.bar i {
  display: block;
  height: 100%;
  background: var(--ember);
}
</style>
