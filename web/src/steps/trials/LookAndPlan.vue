<script setup lang="ts">
/** A start of the year, looked at on the strip and taken as the plan. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { useDesign } from '@/design/store'
import { useLooking } from '@/strip/looking'

const props = defineProps<{
  /** Local standard time. */
  start: string
  duration_h: number
  /** Charge with which it begins, where that is not the plan's. */
  begins_frac?: number
}>()
const emit = defineEmits<{ plan: [] }>()
const { document } = storeToRefs(useDesign())
const looking = useLooking()
const { shown, isLooking } = storeToRefs(looking)
const isShown = computed(() => isLooking.value && shown.value?.outage.start === props.start)
const isPlanned = computed(
  () => document.value?.outage.start === props.start && document.value.outage.sky_from === 'year',
)

function look(): void {
  if (isShown.value) looking.back()
  else void looking.lookAt(props.start, props.duration_h, props.begins_frac)
}
</script>

<template>
  <div class="acts">
    <button type="button" :aria-pressed="isShown" @click="look">
      {{ isShown ? 'Back to the plan' : 'On the strip' }}
    </button>
    <span v-if="isPlanned" class="lesser">planned</span>
    <button v-else type="button" @click="emit('plan')">Plan for it</button>
  </div>
</template>

<style scoped>
.acts {
  white-space: nowrap;
  text-align: right;
}

.acts button {
  margin-left: 14px;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.acts .lesser {
  margin-left: 14px;
}
</style>
