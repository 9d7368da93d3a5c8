<script setup lang="ts">
/** From the design to one of its alternatives: each difference a step in hours, which together make the whole change. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'

import PictureTools from '@/charts/PictureTools.vue'
import RowsTable from '@/charts/RowsTable.vue'
import type { Worth } from '@/api/client'
import { hours, hoursChange } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

const props = defineProps<{ worth: Worth; baseTitle: string; otherTitle: string; mayTake: boolean }>()
const emit = defineEmits<{ take: [part: string] }>()
const ROW = 26
const TOP = 8
const plot = useTemplateRef('plot')
const { width } = useElementSize(plot)
const at = ref<number | null>(null)
const label = computed(() => `What makes the difference: ${props.otherTitle}`)

/** From the one design to the other, the largest step first. */
const steps = computed(() => {
  let from = props.worth.base_h
  const parts = [...props.worth.parts].sort((one, two) => Math.abs(two.worth_h) - Math.abs(one.worth_h))
  return parts.map((part) => {
    const step = { part, from_h: from, to_h: from + part.worth_h }
    from = step.to_h
    return step
  })
})
const ends = computed(() => {
  const all = [
    0,
    props.worth.base_h,
    props.worth.other_h,
    ...steps.value.flatMap((step) => [step.from_h, step.to_h]),
  ]
  return { low: Math.min(...all), high: Math.max(...all, 1) }
})
const titleWidth = computed(() => Math.min(Math.max(width.value * 0.3, 110), 260))
const barEnd = computed(() => width.value - 84)
const x = (time_h: number) =>
  titleWidth.value +
  8 +
  ((barEnd.value - titleWidth.value - 8) * (time_h - ends.value.low)) /
    (ends.value.high - ends.value.low || 1)
const y = (row: number) => TOP + row * ROW
const bar = (from_h: number, to_h: number) => ({
  x: x(Math.min(from_h, to_h)),
  width: Math.max(Math.abs(x(to_h) - x(from_h)), 1.5),
})
const reading = computed(() => (at.value === null ? null : (steps.value[at.value]?.part ?? null)))

function move(event: PointerEvent): void {
  const box = plot.value?.getBoundingClientRect()
  if (!box) return
  const row = Math.floor((event.clientY - box.top - TOP) / ROW) - 1
  at.value = row >= 0 && row < steps.value.length ? row : null
}

function onKey(event: KeyboardEvent): void {
  const last = steps.value.length - 1
  if (event.key === 'ArrowDown') at.value = Math.min((at.value ?? -1) + 1, last)
  else if (event.key === 'ArrowUp') at.value = Math.max((at.value ?? 1) - 1, 0)
  else if (event.key === 'Escape') at.value = null
  else return
  event.preventDefault()
}

const tableRows = () => [
  ['Difference', 'In the design', 'In the alternative', 'Worth, h', 'Made first, h', 'Made last, h'],
  ...steps.value.flatMap(({ part }) =>
    part.differences.map((one, index) => [
      one.title,
      one.base,
      one.other,
      index ? '' : Math.round(part.worth_h * 1000) / 1000,
      index ? '' : Math.round(part.first_h * 1000) / 1000,
      index ? '' : Math.round(part.last_h * 1000) / 1000,
    ]),
  ),
]
</script>

<template>
  <figure class="stairs">
    <p v-if="!steps.length" class="lesser">The two are the same in everything that is lived.</p>
    <template v-else>
      <p class="lesser" aria-live="polite" data-test="stairs-reading">
        <template v-if="reading"
          ><b>{{ reading.title }}</b
          >: {{ hoursChange(reading.worth_h) }} on the mean of all orders;
          {{ hoursChange(reading.first_h) }} where it is changed first,
          {{ hoursChange(reading.last_h) }} where it is changed last.</template
        ><template v-else>
          Each difference’s hours, averaged over every order of making them, so that they make up the whole
          change.<template v-if="worth.is_other_storm">
            The two live different storms: compare with care.</template
          ></template
        >
      </p>
      <div
        ref="plot"
        tabindex="0"
        role="group"
        :aria-label="`${label}; arrow keys read it`"
        data-test="stairs"
        @pointermove="move"
        @pointerdown="move"
        @pointerleave="at = null"
        @keydown="onKey"
        @blur="at = null"
      >
        <svg v-if="width > 80" :width="width" :height="y(steps.length + 2) + 4" aria-hidden="true">
          <text x="0" :y="y(0) + 17" class="end">{{ baseTitle }}</text>
          <rect class="whole" v-bind="bar(ends.low, worth.base_h)" :y="y(0) + 5" :height="ROW - 10" />
          <text :x="width - 2" :y="y(0) + 17" text-anchor="end" class="figures">
            {{ hours(worth.base_h) }}
          </text>
          <g v-for="(step, row) in steps" :key="step.part.title" :class="{ at: at === row }">
            <rect class="ground" x="0" :y="y(row + 1)" :width="width" :height="ROW" />
            <text x="0" :y="y(row + 1) + 17">{{ step.part.title }}</text>
            <line
              class="join"
              :x1="x(step.from_h)"
              :x2="x(step.from_h)"
              :y1="y(row) + 5"
              :y2="y(row + 2) - 5"
            />
            <rect
              :class="step.part.worth_h < 0 ? 'loss' : 'gain'"
              v-bind="bar(step.from_h, step.to_h)"
              :y="y(row + 1) + 5"
              :height="ROW - 10"
            />
            <text :x="width - 2" :y="y(row + 1) + 17" text-anchor="end" class="figures">
              {{ hoursChange(step.part.worth_h) }}
            </text>
          </g>
          <text x="0" :y="y(steps.length + 1) + 17" class="end">{{ otherTitle }}</text>
          <rect
            class="whole"
            v-bind="bar(ends.low, worth.other_h)"
            :y="y(steps.length + 1) + 5"
            :height="ROW - 10"
          />
          <text :x="width - 2" :y="y(steps.length + 1) + 17" text-anchor="end" class="figures">
            {{ hours(worth.other_h) }}
          </text>
        </svg>
      </div>
      <PictureTools :label="label" :picture="() => plot?.querySelector('svg')" :rows="tableRows">
        <RowsTable :rows="tableRows()" />
      </PictureTools>
      <WideTable label="Differences">
        <table class="ledger" data-test="differences">
          <thead>
            <tr>
              <th scope="col">Difference</th>
              <th scope="col">{{ baseTitle }}</th>
              <th scope="col">{{ otherTitle }}</th>
              <th scope="col" class="number">Worth</th>
              <th scope="col"><span class="visually-hidden">Swap it</span></th>
            </tr>
          </thead>
          <tbody>
            <template v-for="{ part } in steps" :key="part.title">
              <tr
                v-for="(one, index) in part.differences"
                :key="one.key"
                :data-test="`difference-${one.key}`"
              >
                <td>{{ one.title }}</td>
                <td class="words">{{ one.base }}</td>
                <td class="words">{{ one.other }}</td>
                <td class="number">{{ index ? '' : hoursChange(part.worth_h) }}</td>
                <td>
                  <button
                    v-if="mayTake && !one.key.startsWith('load:')"
                    type="button"
                    class="take"
                    :title="`Put this part into the design that is open`"
                    :data-test="`take-${one.key}`"
                    @click="emit('take', one.key)"
                  >
                    Take it over
                  </button>
                </td>
              </tr>
            </template>
          </tbody>
        </table>
      </WideTable>
    </template>
  </figure>
</template>

<style scoped>
.stairs {
  margin: 0;
}

p {
  margin: 0 0 4px;
}

text {
  fill: var(--ink);
  font-size: 13px;
}

.figures {
  font-family: var(--hk-figures);
}

.end {
  font-weight: 600;
}

.whole {
  fill: var(--slate);
}

.gain {
  fill: var(--pine);
}

.loss {
  fill: var(--wine);
}

.join {
  stroke: var(--slate);
  stroke-dasharray: 2 2;
}

.ground {
  fill: transparent;
}

.at .ground {
  fill: var(--sheet);
}

.words {
  font-size: 13px;
  overflow-wrap: anywhere;
}

.take {
  white-space: nowrap;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
