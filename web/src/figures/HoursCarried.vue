<script setup lang="ts">
/** Hours carried of those planned, opening to their working, with a bar that is laid beside others of one scale. */
import type { Figure } from '@/api/client'
import { hours } from '@/shared/format'

import ExplainedFigure from './ExplainedFigure.vue'

defineProps<{
  of: {
    is_asked: boolean
    hours_carried_h: number
    duration_h: number
    figures: Record<string, Figure | undefined>
  }
  /** What the whole width stands for [h]. */
  longest_h: number
}>()
</script>

<template>
  <b :class="of.hours_carried_h < of.duration_h ? 'short' : 'whole'"
    >{{ of.is_asked ? '' : '–'
    }}<ExplainedFigure v-if="of.is_asked && of.figures['hours']" :figure="of.figures['hours']">{{
      hours(of.hours_carried_h)
    }}</ExplainedFigure></b
  >
  <span class="lesser"> of {{ hours(of.duration_h) }}</span>
  <span class="bar" aria-hidden="true"
    ><i :style="{ width: `${(100 * of.hours_carried_h) / longest_h}%` }"
  /></span>
</template>

<style scoped>
.bar {
  display: block;
  height: 9px;
  margin: 3px 0 5px;
  background: var(--idle);
}

.bar i {
  display: block;
  height: 100%;
  background: var(--ember);
}

.whole {
  color: var(--pine);
}

.short {
  color: var(--wine);
}
</style>
