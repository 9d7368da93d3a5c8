<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, useTemplateRef, watch } from 'vue'

import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { dayAndTime, hours, hoursChange } from '@/shared/format'

import { useCursor } from './cursor'
import { shapeOf } from './geometry'
import StripLegend from './StripLegend.vue'

const HEIGHT = 116
const FLAG_ROOM = 16

const { assessment, lastChange_h, problems } = storeToRefs(useDesign())
const cursor = useCursor()
const plot = useTemplateRef('plot')
const { width } = useElementSize(plot)

const outage = computed(() => assessment.value?.outage ?? null)
const shape = computed(() =>
  assessment.value && width.value > 60 ? shapeOf(assessment.value, width.value, HEIGHT) : null,
)
const change = computed(() => (lastChange_h.value === null ? null : hoursChange(lastChange_h.value)))
const described = computed(() =>
  outage.value
    ? `Life and Keep are carried ${hours(outage.value.hours_carried_h)} of ${hours(outage.value.duration_h)}.`
    : '',
)

function timeAt(event: PointerEvent): number | null {
  const box = plot.value?.getBoundingClientRect()
  if (!box || !outage.value) return null
  const part = (event.clientX - box.left) / box.width
  return Math.min(Math.max(part, 0), 1) * outage.value.duration_h
}

function pin(event: PointerEvent): void {
  cursor.pinned_h = cursor.pinned_h === null ? timeAt(event) : null
}

function onKey(event: KeyboardEvent): void {
  if (!outage.value) return
  const stride = event.shiftKey ? 6 : 0.25
  const now = cursor.at_h ?? 0
  if (event.key === 'ArrowRight') cursor.hover_h = Math.min(now + stride, outage.value.duration_h)
  else if (event.key === 'ArrowLeft') cursor.hover_h = Math.max(now - stride, 0)
  else if (event.key === 'Enter') cursor.pinned_h = cursor.pinned_h === null ? now : null
  else if (event.key === 'Escape') cursor.pinned_h = cursor.hover_h = null
  else return
  event.preventDefault()
}

// The time from an edit to the strip redrawn, for the benchmarks.
watch(
  assessment,
  () =>
    requestAnimationFrame(() => {
      if (performance.getEntriesByName('hk-edit').length) {
        performance.measure('hk-edit-to-strip', 'hk-edit')
        performance.clearMarks('hk-edit')
      }
    }),
  { flush: 'post' },
)
</script>

<template>
  <section class="strip" aria-label="Endurance" data-test="strip">
    <div class="carried">
      <template v-if="outage">
        <ExplainedFigure figure="outage.hours_carried_h" class="big">
          <span data-test="hours-carried" :data-hours="outage.hours_carried_h">{{
            hours(outage.hours_carried_h)
          }}</span>
        </ExplainedFigure>
        <p class="lesser">
          of {{ hours(outage.duration_h) }} carried for <b class="life">Life</b> and <b class="keep">Keep</b>
        </p>
        <p v-if="change" class="change" :class="{ loss: (lastChange_h ?? 0) < 0 }" data-test="change">
          {{ change }} since last edit
        </p>
        <p v-if="problems.length" class="loss">Last usable state</p>
      </template>
    </div>
    <div
      ref="plot"
      class="plot"
      tabindex="0"
      role="slider"
      aria-label="Moment of the outage"
      :aria-valuemin="0"
      :aria-valuemax="outage?.duration_h ?? 0"
      :aria-valuenow="Math.round(cursor.at_h ?? 0)"
      :aria-valuetext="outage ? `${dayAndTime(outage.start, cursor.at_h ?? 0)}. ${described}` : ''"
      @pointermove="cursor.hover_h = timeAt($event)"
      @pointerleave="cursor.hover_h = null"
      @pointerdown="pin"
      @keydown="onKey"
      @blur="cursor.hover_h = null"
    >
      <svg v-if="shape && outage" :width="width" :height="HEIGHT + FLAG_ROOM + 22" aria-hidden="true">
        <g :transform="`translate(0 ${FLAG_ROOM})`">
          <rect
            v-for="night in shape.nights"
            :key="night.x"
            class="night"
            :x="night.x"
            y="0"
            :width="night.width"
            :height="HEIGHT"
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
          <rect class="frame" x="0.5" y="0.5" :width="width - 1" :height="HEIGHT - 1" />
          <g v-for="flag in shape.flags" :key="flag.key" :class="{ dark: flag.isDark }" class="flag">
            <line :x1="flag.x" :x2="flag.x" :y1="-FLAG_ROOM + 2" :y2="HEIGHT" />
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
            <line :x1="tick.x" :x2="tick.x" :y1="HEIGHT" :y2="HEIGHT + 4" />
            <text :x="tick.x" :y="HEIGHT + 16" :text-anchor="tick.anchor">{{ tick.label }}</text>
          </g>
          <line
            v-if="cursor.at_h !== null"
            class="cursor"
            :x1="shape.x(cursor.at_h)"
            :x2="shape.x(cursor.at_h)"
            y1="0"
            :y2="HEIGHT"
          />
        </g>
      </svg>
    </div>
    <StripLegend
      v-if="assessment"
      :assessment="assessment"
      :at_h="cursor.at_h"
      :pinned="cursor.pinned_h !== null"
    />
  </section>
</template>

<style scoped>
.strip {
  display: grid;
  grid-template-columns: 188px minmax(0, 1fr) 264px;
  height: 184px;
  flex: none;
  background: var(--sheet);
  border-top: 2px solid var(--ink);
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

.carried {
  padding: 10px 10px 0 16px;
}

.carried p {
  margin: 2px 0 0;
  font-size: 13px;
  line-height: 1.35;
}

.big {
  font-size: 29px;
  font-weight: 700;
  line-height: 1.1;
  white-space: nowrap;
}

.life {
  color: var(--wine);
}

.keep {
  color: var(--ember-ink);
}

.change {
  font-weight: 700;
  color: var(--pine);
}

.loss {
  font-weight: 700;
  color: var(--wine);
}

.plot {
  margin-top: 12px;
  min-width: 0;
  height: 156px;
  cursor: crosshair;
  touch-action: pan-y;
}

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

@media (max-width: 1150px) {
  .strip {
    grid-template-columns: 172px minmax(0, 1fr) 232px;
  }

  .big {
    font-size: 25px;
  }
}
</style>
