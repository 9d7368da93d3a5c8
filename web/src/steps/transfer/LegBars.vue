<script setup lang="ts">
/**
 * The legs as two facing bars with the neutral between them: a bar a circuit, dragged across or moved by Left and Right.
 * What both legs carry stands across the middle.
 */
import { computed, ref } from 'vue'

import { api, outcome, type Circuit } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { count } from '@/shared/format'

import type { Panel } from './usePanel'

const props = defineProps<{ panel: Panel; mayMove: boolean }>()
const store = useDesign()
const report = computed(() => props.panel.assessment.value?.transfer ?? null)
const dragged = ref('')
const over = ref('')
const said = ref('')

interface Bar {
  circuit: Circuit
  leg: string
  running_w: number
}

const bars = computed<Bar[]>(() =>
  props.panel.circuits.value.flatMap((circuit) => {
    const state = props.panel.stateOf(circuit.id)
    return circuit.backed_up && state
      ? [{ circuit, leg: state.backup_legs.join('+'), running_w: state.running_w }]
      : []
  }),
)
const most = computed(() => Math.max(1, ...bars.value.map((bar) => bar.running_w)))
const rows = computed(() => {
  const on = (leg: string) =>
    bars.value.filter((bar) => bar.leg === leg).sort((a, b) => b.running_w - a.running_w)
  const [left, right] = [on('A'), on('B')]
  return Array.from({ length: Math.max(left.length, right.length) }, (_, at) => ({
    A: left[at],
    B: right[at],
  }))
})
const both = computed(() => bars.value.filter((bar) => bar.leg === 'A+B'))
const legs = computed(() => report.value?.legs ?? [])
const sum = (leg: string) => legs.value.find((entry) => entry.leg === leg)
const part = (bar: Bar) => `${Math.max(1, (100 * bar.running_w) / most.value)}%`

function put(id: string, leg: 'A' | 'B'): void {
  if (props.mayMove) props.panel.change(id, { backup_leg: leg })
  dragged.value = over.value = ''
}

function onKey(event: KeyboardEvent, bar: Bar): void {
  const leg = event.key === 'ArrowLeft' ? 'A' : event.key === 'ArrowRight' ? 'B' : null
  if (!leg) return
  event.preventDefault()
  const id = bar.circuit.id
  put(id, leg)
  requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-bar="${CSS.escape(id)}"]`)?.focus())
}

async function takeBest(): Promise<void> {
  if (!store.document) return
  const answer = await outcome(api.POST('/api/transfer/balance', { body: store.document }))
  if (answer.kind !== 'answer') {
    said.value = 'The balance could not be worked out.'
    return
  }
  const { legs: found, imbalance_w, method } = answer.value
  store.setAll(
    props.panel.circuits.value.flatMap((circuit, at) =>
      found[circuit.id] && props.panel.stateOf(circuit.id)?.backup_legs[0] !== found[circuit.id]
        ? [{ path: `transfer.circuits.${at}.backup_leg`, value: found[circuit.id] }]
        : [],
    ),
  )
  said.value = `${count(imbalance_w)} W apart, by ${method}.`
}
</script>

<template>
  <section v-if="report && legs.length > 1" class="legs" data-test="legs">
    <h2>
      Legs
      <span class="lesser">
        apart by
        <ExplainedFigure figure="transfer.imbalance_w"
          >{{ count(report.imbalance_w) }} W</ExplainedFigure
        ></span
      >
      <button v-if="mayMove" type="button" class="best" data-test="balance" @click="takeBest">
        Balance them
      </button>
    </h2>
    <div class="heads">
      <span v-for="leg in ['A', 'B']" :key="leg">
        {{ leg }} <b class="figures">{{ count(sum(leg)?.running_w ?? 0) }} W</b>
        <span class="figures lesser">{{ (sum(leg)?.current_a ?? 0).toFixed(1) }} A</span>
        <span v-if="sum(leg)?.is_live === false" class="dead">dead</span>
      </span>
    </div>
    <div class="facing">
      <div
        v-for="leg in ['A', 'B'] as const"
        :key="leg"
        class="side"
        :class="[leg, { over: over === leg }]"
        @dragover.prevent="over = leg"
        @drop.prevent="put(dragged, leg)"
      >
        <template v-for="(row, at) in rows" :key="at">
          <div
            v-if="row[leg]"
            class="bar"
            :tabindex="mayMove ? 0 : -1"
            role="button"
            :title="`${row[leg].circuit.name}, ${count(row[leg].running_w)} W on leg ${leg}${mayMove ? '; Left and Right move it' : ''}`"
            :data-bar="row[leg].circuit.id"
            :draggable="mayMove"
            @dragstart="dragged = row[leg]?.circuit.id ?? ''"
            @dragend="dragged = over = ''"
            @keydown="onKey($event, row[leg])"
          >
            <i :style="{ width: part(row[leg]) }" />
            <span class="name">{{ row[leg].circuit.name }}</span>
            <span class="figures">{{ count(row[leg].running_w) }}</span>
          </div>
        </template>
      </div>
    </div>
    <p v-for="bar in both" :key="bar.circuit.id" class="across">
      {{ bar.circuit.name }} <span class="figures">{{ count(bar.running_w) }} W</span>, half on each
    </p>
    <p v-for="pair in report.neutrals" :key="pair.first" class="across" :class="{ bad: pair.adds_up }">
      Neutral of {{ panel.circuits.value.find((entry) => entry.id === pair.first)?.name }} and
      {{ panel.circuits.value.find((entry) => entry.id === pair.second)?.name }}:
      <span class="figures">{{ pair.carries_a.toFixed(1) }} A</span>,
      {{ pair.adds_up ? 'the sum' : 'the difference' }} of {{ pair.first_a.toFixed(1) }} and
      {{ pair.second_a.toFixed(1) }} A
    </p>
    <p v-if="said" class="lesser" role="status">{{ said }}</p>
    <p v-if="!mayMove" class="lesser">
      Choose an arrangement with positions of its own to move them; here the legs of the main panel count.
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin-bottom: 4px;
}

h2 .lesser {
  font-size: 13px;
  font-weight: 400;
}

.best {
  float: right;
  font-size: 13px;
  font-weight: 700;
  color: var(--pine);
  text-decoration: underline;
}

.heads,
.facing {
  display: grid;
  grid-template-columns: 1fr 1fr;
}

.heads {
  white-space: nowrap;
  font-size: 13px;
}

.heads .figures {
  margin-left: 3px;
}

.heads > :first-child {
  text-align: right;
  padding-right: 8px;
}

.heads > :last-child {
  padding-left: 8px;
}

.dead {
  color: var(--wine);
  font-weight: 700;
}

.side {
  min-width: 0;
  min-height: 40px;
  padding: 2px 0;
}

.side.A {
  border-right: 2px solid var(--ink);
}

.side.over {
  background: var(--rail);
}

.bar {
  position: relative;
  display: flex;
  justify-content: space-between;
  gap: 6px;
  padding: 1px 6px;
  margin-bottom: 2px;
  font-size: 12.5px;
  line-height: 19px;
  cursor: grab;
}

.A .bar {
  flex-direction: row-reverse;
}

.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: color-mix(in srgb, var(--ember) 30%, transparent);
}

.A .bar i {
  inset: 0 0 0 auto;
}

.bar .name {
  position: relative;
  min-width: 0;
  line-height: 14px;
  margin: 3px 0;
  /* A long name takes two lines. */
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
  overflow-wrap: anywhere;
}

.bar .figures {
  position: relative;
}

.across {
  margin: 2px 0 0;
  text-align: center;
  font-size: 13px;
}

.bad {
  color: var(--wine);
}

p {
  margin: 4px 0 0;
  font-size: 13px;
}
</style>
