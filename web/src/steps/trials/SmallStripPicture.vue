<script setup lang="ts">
/** One start drawn small: the charge, the nights, and what was dark. */
import { computed } from 'vue'

import type { SmallStrip } from '@/api/client'

const props = defineProps<{ strip: SmallStrip; duration_h: number; said: string }>()
const WIDTH = 300
const HEIGHT = 30
const x = (time_h: number) => (WIDTH * time_h) / props.duration_h
const y = (part: number) => HEIGHT * (1 - part)
const charge = computed(() =>
  props.strip.time_h.map((time_h, at) => `${x(time_h)} ${y(props.strip.stored_frac[at] ?? 0)}`).join('L'),
)
const spans = (pairs: readonly (readonly number[])[]) =>
  pairs.map(([from = 0, to = 0]) => ({ x: x(from), width: x(to) - x(from) }))
</script>

<template>
  <svg
    class="small"
    :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
    preserveAspectRatio="none"
    role="img"
    :aria-label="said"
  >
    <title>{{ said }}</title>
    <rect
      v-for="span in spans(strip.nights_h)"
      :key="span.x"
      class="night"
      v-bind="span"
      y="0"
      :height="HEIGHT"
    />
    <path class="charge" :d="`M0 ${HEIGHT}L${charge}L${WIDTH} ${HEIGHT}z`" />
    <path class="line" :d="`M${charge}`" />
    <rect
      v-for="span in spans(strip.dark_h)"
      :key="span.x"
      class="dark"
      v-bind="span"
      :y="HEIGHT - 6"
      height="6"
    />
    <rect class="frame" x="0" y="0" :width="WIDTH" :height="HEIGHT" />
  </svg>
</template>

<style scoped>
.small {
  display: block;
  width: 100%;
  height: 26px;
}

.night {
  fill: var(--dusk);
}

.charge {
  fill: var(--ember);
  opacity: 0.3;
}

.line,
.frame {
  fill: none;
  stroke: var(--ember);
  vector-effect: non-scaling-stroke;
}

.frame {
  stroke: var(--rule);
}

.dark {
  fill: var(--wine);
}
</style>
