<script setup lang="ts">
/** The strip drawn: nights, when the grid is back, sources, the house, what goes unserved, the energy in the bank, levels, events and the hours. */
import type { StripShape } from './geometry'

defineProps<{
  shape: StripShape
  width: number
  height: number
  /** Above the frame, for the labels of events. */
  flagRoom: number
  cursorX: number | null
}>()
</script>

<template>
  <svg :width="width" :height="height + flagRoom + 22" aria-hidden="true">
    <g :transform="`translate(0 ${flagRoom})`">
      <rect
        v-for="night in shape.nights"
        :key="night.x"
        class="night"
        :x="night.x"
        y="0"
        :width="night.width"
        :height="height"
      />
      <rect
        v-for="span in shape.grid"
        :key="`grid ${span.x}`"
        class="grid"
        :x="span.x"
        y="0"
        :width="span.width"
        height="6"
      />
      <path class="sun-area" :d="shape.sunArea" />
      <path class="energy-area" :d="shape.energyArea" />
      <path class="generator-area" :d="shape.generatorArea" />
      <path class="generator" :d="shape.generatorLine" />
      <path class="other" :d="shape.otherLine" />
      <path class="unserved" :d="shape.unservedArea" />
      <path class="served" :d="shape.servedLine" />
      <path class="sun-line" :d="shape.sunLine" />
      <path class="energy" :d="shape.energyLine" />
      <g v-for="level in shape.levels" :key="level.label">
        <line class="level" x1="0" :x2="width" :y1="level.y" :y2="level.y" />
        <text class="level-text" x="4" :y="level.labelBelow ? level.y + 11 : level.y - 4">
          {{ level.label }}
        </text>
      </g>
      <rect class="frame" x="0.5" y="0.5" :width="width - 1" :height="height - 1" />
      <g v-for="flag in shape.flags" :key="flag.key" :class="{ dark: flag.isDark }" class="flag">
        <line :x1="flag.x" :x2="flag.x" :y1="-flagRoom + 2" :y2="height" />
        <text
          v-if="flag.lane !== null"
          :x="flag.anchor === 'start' ? flag.x + 4 : flag.x - 4"
          :y="-4 + flag.lane * 14"
          :text-anchor="flag.anchor"
        >
          {{ flag.label }}
        </text>
      </g>
      <g v-for="tick in shape.ticks" :key="tick.x" class="tick">
        <line :x1="tick.x" :x2="tick.x" :y1="height" :y2="height + 4" />
        <text :x="tick.x" :y="height + 16" :text-anchor="tick.anchor">{{ tick.label }}</text>
      </g>
      <line v-if="cursorX !== null" class="cursor" :x1="cursorX" :x2="cursorX" y1="0" :y2="height" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  overflow: visible;
}

text {
  font-size: 11.5px;
  fill: var(--slate);
}

.night {
  fill: var(--dusk);
}

.grid {
  fill: var(--pine);
}

.energy-area {
  fill: var(--ember);
  opacity: 0.17;
}

.energy {
  fill: none;
  stroke: var(--ember);
  stroke-width: 2;
}

.sun-area {
  fill: var(--sun);
  opacity: 0.2;
}

.sun-line {
  fill: none;
  stroke: var(--sun);
  stroke-width: 1.5;
}

.served {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
  stroke-dasharray: 3 2;
}

.unserved {
  fill: var(--wine);
  opacity: 0.35;
}

.level {
  stroke: var(--wine);
  stroke-dasharray: 5 3;
  opacity: 0.8;
}

.level-text {
  fill: var(--wine);
  font-size: 11px;
}

.frame {
  fill: none;
  stroke: var(--rule);
}

.flag line {
  stroke: var(--slate);
  stroke-dasharray: 2 3;
}

.flag text {
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}

.flag.dark line {
  stroke: var(--wine);
  stroke-width: 1.5;
  stroke-dasharray: none;
}

.flag.dark text {
  fill: var(--wine);
  font-weight: 700;
}

.tick line {
  stroke: var(--slate);
}

.cursor {
  stroke: var(--ink);
}

/* Straight steps in slate, so that the generator is not taken for the sun. */
.generator-area {
  fill: var(--slate);
  opacity: 0.22;
}

.generator {
  fill: none;
  stroke: var(--slate);
  stroke-width: 1.4;
}

/* Alternator, wind and bench charger: dotted, below the sun. */
.other {
  fill: none;
  stroke: var(--pine);
  stroke-width: 1.6;
  stroke-dasharray: 1.5 2.5;
}
</style>
