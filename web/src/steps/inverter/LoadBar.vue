<script setup lang="ts">
/** What is asked against what is held. */
import { computed } from 'vue'

import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count } from '@/shared/format'

const props = defineProps<{
  title: string
  figure: string
  asked_w: number
  held_w: number
  remark: string
}>()
const scale = computed(() => Math.max(props.asked_w, props.held_w, 1) * 1.05)
const isOver = computed(() => props.asked_w > props.held_w)
</script>

<template>
  <div>
    <div class="line">
      <h2>{{ title }}</h2>
      <span class="figures">
        <ExplainedFigure :figure="figure">{{ count(asked_w) }} W</ExplainedFigure> of {{ count(held_w) }} W
      </span>
    </div>
    <svg viewBox="0 0 100 12" preserveAspectRatio="none" width="100%" height="14" aria-hidden="true">
      <rect class="held" x="0" y="0" :width="Math.max((100 * held_w) / scale, 0)" height="12" />
      <rect :class="isOver ? 'over' : 'fits'" x="0" y="3" :width="(100 * asked_w) / scale" height="6" />
      <rect class="limit" :x="Math.max((100 * held_w) / scale - 0.3, 0)" y="0" width="0.6" height="12" />
    </svg>
    <p class="lesser">{{ remark }}{{ isOver ? ': it does not fit' : '' }}</p>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}

.held {
  fill: var(--idle);
}

.fits {
  fill: var(--pine);
}

.over {
  fill: var(--wine);
}

.limit {
  fill: var(--ink);
}

p {
  margin: 2px 0 0;
  font-size: 12.5px;
  overflow-wrap: anywhere;
}
</style>
