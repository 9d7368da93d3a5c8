<script setup lang="ts">
/**
 * The outage drawn along its own hours, painted: sky, air and wind of each day, who is at home, whether fuel or a car can be
 * reached, and when the grid is back for a while.
 */
import { useElementSize } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, useTemplateRef } from 'vue'

import { useDesign } from '@/design/store'
import { hours } from '@/shared/format'

import LevelLane from './LevelLane.vue'
import PaintLane from './PaintLane.vue'
import SpanLane from './SpanLane.vue'
import { useLanes, type Painted } from './useLanes'

const store = useDesign()
const { assessment, isOffGrid } = storeToRefs(store)
const { outage, days, dayNamed, sky, levels, there } = useLanes()
const back_h = computed(() => assessment.value?.outage.grid_back_h ?? 0)

function setSpan(change: Record<string, string | number>): void {
  store.setAll(Object.entries(change).map(([field, value]) => ({ path: `outage.${field}`, value })))
}
/** What a painted lane is given. */
const paintProps = (lane: Painted) => ({
  label: lane.label,
  cells: lane.cells,
  values: lane.values,
  choices: lane.choices,
  duration_h: outage.value?.duration_h ?? 0,
  named: lane.named,
  fixed: lane.fixed ?? false,
  'data-test': `lane-${lane.key}`,
})
const axis = useTemplateRef('axis')
const { width } = useElementSize(axis)
const ticks = computed(() => days.value.map((cell, index) => ({ at: cell.from_h, label: dayNamed(index) })))
/** Labels that would run into the next one or out of the lane are left out. */
const shownTicks = computed(() => {
  const duration = Math.max(outage.value?.duration_h ?? 1, 1e-9)
  const every = Math.max(1, Math.ceil((ticks.value.length * 74) / Math.max(width.value, 74)))
  const kept = ticks.value.filter((_, index) => index % every === 0)
  return kept.filter(
    (tick, index) => (((kept[index + 1]?.at ?? duration) - tick.at) / duration) * width.value > 66,
  )
})
</script>

<template>
  <div v-if="outage" class="timeline" data-test="timeline">
    <span class="name">Storm</span>
    <SpanLane
      :start="outage.start"
      :warning_h="outage.warning_h ?? 0"
      :duration_h="outage.duration_h"
      :has-warning="!isOffGrid"
      @change="setSpan"
    />
    <span />
    <p ref="axis" class="days lesser" aria-hidden="true">
      <span
        v-for="tick in shownTicks"
        :key="tick.at"
        :style="{ left: `${(100 * tick.at) / outage.duration_h}%` }"
        >{{ tick.label }}</span
      >
    </p>
    <template v-for="lane in [sky]" :key="lane.key">
      <span class="name">{{ lane.name }}</span>
      <PaintLane v-bind="paintProps(lane)" @change="lane.set" />
    </template>
    <template v-for="lane in levels" :key="lane.key">
      <span class="name">{{ lane.name }}</span>
      <LevelLane
        :label="lane.label"
        :cells="days"
        :values="lane.values"
        :unit="lane.unit"
        :least="lane.least"
        :most="lane.most"
        :duration_h="outage.duration_h"
        :named="dayNamed"
        :data-test="`lane-${lane.key}`"
        @change="lane.set"
      />
    </template>
    <template v-for="lane in there" :key="lane.key">
      <span class="name" :title="lane.hint">{{ lane.name }}</span>
      <PaintLane v-bind="paintProps(lane)" @change="lane.set" />
    </template>
    <span />
    <p class="lesser">
      Drag to paint, air up and down; by keys: arrows, Space, Shift with an arrow.
      <template v-if="back_h">
        The grid is back for {{ hours(back_h) }} of {{ hours(outage.duration_h) }}: it carries the house then,
        and its charger the bank.
        <button type="button" class="clear" data-test="grid-out" @click="store.set('outage.grid_back', [])">
          Out throughout
        </button>
      </template>
    </p>
  </div>
</template>

<style scoped>
.timeline {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  gap: 1px 8px;
  margin-bottom: 12px;
}

.name {
  align-self: center;
  font-size: 12.5px;
  color: var(--slate);
}

.days {
  position: relative;
  height: 16px;
  font-size: 11.5px;
}

.days span {
  position: absolute;
  white-space: nowrap;
}

p {
  margin: 0;
  font-size: 12.5px;
}

.clear {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
