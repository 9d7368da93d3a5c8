<script setup lang="ts">
/** A load's 24 hours under a plan: kept, given up, and those in which it never ran. */
import { computed } from 'vue'

import { cellsFrom, hoursText, spansFrom, type Spans } from '@/fields/hours'

const props = defineProps<{ now: readonly (readonly number[])[]; then: readonly (readonly number[])[] }>()
const before = computed(() => cellsFrom(props.now))
const after = computed(() => cellsFrom(props.then))
const cells = computed(() =>
  before.value.map((ran, hour) => ({
    hour,
    x: hour * 7 + (hour % 6 === 5 ? 0 : 0.5),
    state: after.value[hour] ? 'kept' : ran ? 'given' : 'never',
  })),
)
const givenUp = computed<Spans>(() => spansFrom(before.value.map((ran, hour) => ran && !after.value[hour])))
const said = computed(() => `On ${hoursText(props.then)}; given up ${hoursText(givenUp.value)}`)
</script>

<template>
  <svg class="hours" width="168" height="15" viewBox="0 0 168 15" role="img" :aria-label="said">
    <title>{{ said }}</title>
    <g v-for="cell in cells" :key="cell.hour">
      <rect :class="cell.state" :x="cell.x" y="0.5" width="6" height="14" />
      <path v-if="cell.state === 'given'" class="slash" :d="`M${cell.x} 11l6 -7`" />
    </g>
  </svg>
</template>

<style scoped>
.hours {
  display: block;
}

.kept {
  fill: var(--ember);
}

.never {
  fill: var(--idle);
}

.given {
  fill: none;
  stroke: var(--ember);
  stroke-width: 0.8;
}

.slash {
  stroke: var(--ember);
}
</style>
