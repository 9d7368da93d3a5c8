<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, useTemplateRef, watch } from 'vue'
import { RouterLink } from 'vue-router'

import { placeAfter, placeAt } from '@/charts/reading'
import { measureEdit } from '@/design/measuring'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { STEPS } from '@/steps/steps'
import { calendarMoment, dayAndTime, hours, hoursChange } from '@/shared/format'
import PictureFiles from '@/charts/PictureFiles.vue'

import { useCursor } from './cursor'
import { shapeOf } from './geometry'
import { useLooking } from './looking'
import StripLegend from './StripLegend.vue'
import StripPicture from './StripPicture.vue'

const HEIGHT = 116
const FLAG_ROOM = 16

const { id, lastChange_h, problems } = storeToRefs(useDesign())
const missing = computed(() => shown.value?.missing ?? [])
const titleOf = (step: string) => STEPS.find((entry) => entry.name === step)?.title ?? step
const looking = useLooking()
const { shown, isLooking } = storeToRefs(looking)
const cursor = useCursor()
const plot = useTemplateRef('plot')
const { width } = useElementSize(plot)

const outage = computed(() => shown.value?.outage ?? null)
const shape = computed(() =>
  shown.value && width.value > 60 ? shapeOf(shown.value, width.value, HEIGHT) : null,
)
/** Switched over and not fed: neither asked nor served below. */
const dead = computed(() => shown.value?.dead ?? [])
const change = computed(() =>
  lastChange_h.value === null || isLooking.value ? null : hoursChange(lastChange_h.value),
)
const carriedFigure = computed(() => shown.value?.carried ?? 'outage.hours_carried_h')
const described = computed(() =>
  outage.value
    ? `Life and Keep are carried ${hours(outage.value.hours_carried_h)} of ${hours(outage.value.duration_h)}.`
    : '',
)

/** A quarter of an hour by an arrow key, six hours with Shift. */
const axis = computed(() => ({ from: 0, to: outage.value?.duration_h ?? 0, stride: 0.25, far: 6 }))

function timeAt(event: PointerEvent): number | null {
  const box = plot.value?.getBoundingClientRect()
  return box && outage.value ? placeAt(event.clientX, box, axis.value) : null
}

function pin(event: PointerEvent): void {
  cursor.pinned_h = cursor.pinned_h === null ? timeAt(event) : null
}

function onKey(event: KeyboardEvent): void {
  if (!outage.value) return
  const now = cursor.at_h ?? 0
  const next = placeAfter(event, now, axis.value)
  if (next !== null) cursor.hover_h = next
  else if (event.key === 'Enter') cursor.pinned_h = cursor.pinned_h === null ? now : null
  else if (event.key === 'Escape') cursor.pinned_h = cursor.hover_h = null
  else return
  event.preventDefault()
}

watch(shown, () => measureEdit('hk-edit-to-strip'), { flush: 'post' })
</script>

<template>
  <section class="strip" aria-label="Endurance" data-test="strip">
    <div class="carried">
      <div v-if="outage && !outage.is_asked" class="first" data-test="missing">
        <p class="big" data-test="hours-carried" :data-hours="0">–</p>
        <p class="lesser">Nothing to carry yet. Next:</p>
        <ol>
          <li v-for="entry in missing" :key="entry.step">
            <RouterLink :to="{ name: entry.step, params: { id } }">{{ titleOf(entry.step) }}</RouterLink>:
            {{ entry.what }}
          </li>
        </ol>
      </div>
      <template v-else-if="outage">
        <ExplainedFigure :figure="carriedFigure" class="big">
          <span data-test="hours-carried" :data-hours="outage.hours_carried_h">{{
            hours(outage.hours_carried_h)
          }}</span>
        </ExplainedFigure>
        <p class="lesser">
          of {{ hours(outage.duration_h) }} carried for <b class="life">Life</b> and <b class="keep">Keep</b>
        </p>
        <p v-if="isLooking" class="looking" data-test="looking">
          From {{ calendarMoment(outage.start) }}, not the plan.
          <button type="button" @click="looking.back()">Back to the plan</button>
        </p>
        <p v-if="change" class="change" :class="{ loss: (lastChange_h ?? 0) < 0 }" data-test="change">
          {{ change }} since last edit
        </p>
        <p v-if="problems.length" class="loss">Last usable state</p>
        <p
          v-if="dead.length"
          class="loss dead"
          :title="`Switched over and not fed: ${dead.join(', ')}`"
          data-test="strip-dead"
        >
          Dead: {{ dead[0] }}{{ dead.length > 1 ? ` and ${dead.length - 1} more` : '' }}
        </p>
        <p class="files"><PictureFiles label="Endurance" :picture="() => plot?.querySelector('svg')" /></p>
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
      <StripPicture
        v-if="shape && outage"
        :shape="shape"
        :width="width"
        :height="HEIGHT"
        :flag-room="FLAG_ROOM"
        :cursor-x="cursor.at_h === null ? null : shape.x(cursor.at_h)"
      />
    </div>
    <StripLegend v-if="shown" :endurance="shown" :at_h="cursor.at_h" :pinned="cursor.pinned_h !== null" />
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

.carried {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  padding: 10px 10px 4px 16px;
}

.carried p {
  margin: 2px 0 0;
  font-size: 13px;
  line-height: 1.35;
}

.carried .files {
  margin-top: auto;
}

.first ol {
  margin: 2px 0 0;
  padding-left: 16px;
  font-size: 12.5px;
  line-height: 1.3;
}

.first a {
  color: var(--pine);
  font-weight: 700;
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

.looking button {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}

.loss {
  font-weight: 700;
  color: var(--wine);
}

.carried .dead {
  overflow-wrap: anywhere;
}

.plot {
  margin-top: 12px;
  min-width: 0;
  height: 156px;
  cursor: crosshair;
  touch-action: pan-y;
}

/* In the hand: a pane of its own, one below the other. */
@media (max-width: 640px) {
  .strip {
    display: block;
    flex: 1;
    height: auto;
    min-height: 0;
    overflow-y: auto;
    padding-bottom: 12px;
  }

  .carried {
    padding: 12px 16px 4px;
  }

  .plot {
    margin: 12px 10px;
  }
}

@media (min-width: 641px) and (max-width: 1150px) {
  .strip {
    grid-template-columns: 172px minmax(0, 1fr) 232px;
  }

  .big {
    font-size: 25px;
  }
}
</style>
