<script setup lang="ts">
/** The bank as it is wired: strings between two bars of links, the leads where they leave, each string's share. */
import { computed, useTemplateRef } from 'vue'

import PictureFiles from '@/charts/PictureFiles.vue'

const props = defineProps<{
  series: number
  parallel: number
  takeoff: 'one_end' | 'opposite_ends' | 'equal_leads'
  shares: readonly number[]
  tapUnits?: number | null
}>()

const MOST_STRINGS = 12
const MOST_SERIES = 8
const WIDTH = 440
const TOP = 34
const BOTTOM = 150
const strings = computed(() => Math.min(props.parallel, MOST_STRINGS))
const rows = computed(() => Math.min(props.series, MOST_SERIES))
const pitch = computed(() => Math.min(64, (WIDTH - 90) / strings.value))
const left = computed(() => 45 + (WIDTH - 90 - pitch.value * strings.value) / 2)
const at = (string: number) => left.value + pitch.value * (string + 0.5)
const last = computed(() => strings.value - 1)
const highest = computed(() => Math.max(...props.shares, 1e-9))
const cells = computed(() => {
  const height = (BOTTOM - TOP - 20) / rows.value
  const width = Math.min(pitch.value - 10, 44)
  return Array.from({ length: strings.value * rows.value }, (_, index) => {
    const string = index % strings.value
    const row = Math.floor(index / strings.value)
    return {
      key: index,
      string,
      x: at(string) - width / 2,
      y: TOP + 10 + row * height,
      width,
      height: height - 5,
      // Units are counted from the negative end, which is drawn below.
      isTapped: !!props.tapUnits && rows.value - row <= props.tapUnits,
      fill: (props.shares[string] ?? 0) / highest.value,
    }
  })
})
const labels = computed(() =>
  Array.from({ length: strings.value }, (_, string) => ({
    string,
    x: at(string),
    text: `${((props.shares[string] ?? 0) * 100).toFixed(props.parallel > 8 ? 0 : 1)} %`,
  })),
)
const plusX = computed(() => at(0))
const minusX = computed(() => (props.takeoff === 'one_end' ? at(0) : at(last.value)))
const picture = useTemplateRef<SVGSVGElement>('picture')
</script>

<template>
  <figure>
    <svg
      ref="picture"
      :viewBox="`0 0 ${WIDTH} 196`"
      width="440"
      height="196"
      role="img"
      :aria-label="`${series} in series, ${parallel} in parallel; shares ${labels.map((label) => label.text).join(', ')}`"
    >
      <g v-if="takeoff === 'equal_leads'" class="lead">
        <path v-for="label in labels" :key="`p${label.string}`" :d="`M${label.x} ${TOP + 6}V20`" />
        <path v-for="label in labels" :key="`n${label.string}`" :d="`M${label.x} ${BOTTOM - 8}V164`" />
        <path class="bar" :d="`M${at(0) - 12} 20H${at(last) + 12}`" />
        <path class="bar" :d="`M${at(0) - 12} 164H${at(last) + 12}`" />
        <path :d="`M${at(0) - 12} 20H14`" />
        <path :d="`M${at(0) - 12} 164H14`" />
      </g>
      <g v-else class="lead">
        <path :d="`M${at(0)} ${TOP}H${at(last)}`" />
        <path :d="`M${at(0)} ${BOTTOM}H${at(last)}`" />
        <path v-for="label in labels" :key="`p${label.string}`" :d="`M${label.x} ${TOP + 10}V${TOP}`" />
        <path v-for="label in labels" :key="`n${label.string}`" :d="`M${label.x} ${BOTTOM - 15}V${BOTTOM}`" />
        <path :d="`M${plusX} ${TOP}H14`" />
        <path :d="minusX === at(0) ? `M${minusX} ${BOTTOM}H14` : `M${minusX} ${BOTTOM}H${WIDTH - 14}`" />
      </g>
      <g v-for="cell in cells" :key="cell.key">
        <rect class="body" :x="cell.x" :y="cell.y" :width="cell.width" :height="cell.height" />
        <rect
          class="share"
          :x="cell.x + 2"
          :y="cell.y + 2 + (cell.height - 4) * (1 - cell.fill)"
          :width="cell.width - 4"
          :height="Math.max((cell.height - 4) * cell.fill, 0)"
        />
        <path v-if="cell.isTapped" class="tapped" :d="`M${cell.x - 4} ${cell.y}v${cell.height}`" />
      </g>
      <text class="pole" x="4" :y="takeoff === 'equal_leads' ? 15 : TOP - 6">+</text>
      <text
        class="pole"
        :x="takeoff === 'opposite_ends' && parallel > 1 ? WIDTH - 12 : 4"
        :y="takeoff === 'equal_leads' ? 180 : BOTTOM + 18"
      >
        −
      </text>
      <text v-for="label in labels" :key="label.string" class="label" :x="label.x" y="186">
        {{ label.text }}
      </text>
    </svg>
    <figcaption class="lesser">
      {{ series }} in series × {{ parallel }} in parallel; below each string its part of the current<template
        v-if="parallel > MOST_STRINGS || series > MOST_SERIES"
        >; not all are drawn</template
      >
    </figcaption>
    <p class="files"><PictureFiles label="Bank" :picture="() => picture" /></p>
  </figure>
</template>

<style scoped>
svg {
  max-width: 100%;
  height: auto;
}

figure {
  margin: 0;
}

figcaption {
  font-size: 12.5px;
}

.lead path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}

.lead .bar {
  stroke-width: 5;
}

.body {
  fill: var(--sheet);
  stroke: var(--ink);
}

.share {
  fill: var(--ember);
  opacity: 0.45;
}

.tapped {
  stroke: var(--wine);
  stroke-width: 3;
}

.pole {
  font-size: 16px;
  font-weight: 700;
  fill: var(--ink);
}

.label {
  font-size: 11.5px;
  text-anchor: middle;
  fill: var(--ink);
  font-family: var(--hk-figures);
}
</style>
