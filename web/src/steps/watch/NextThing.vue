<script setup lang="ts">
/** What to do next, one thing at a time: what it gains, why, and what comes of nothing. Done or refused it goes into the log. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import type { Instruction, WatchView } from '@/api/client'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { hours } from '@/shared/format'

import { useOutbox } from '../logbook/outbox'
import { useWatch } from './watch'
import { after, at, EVENT_WORDS, TIER_WORDS } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
const store = useWatch()
const { unsent } = storeToRefs(useOutbox())
const next = computed(() => props.view.instructions[0])
const then = computed(() => props.view.instructions.slice(1))
const said = ref('')
/** Nothing is asked twice: while the answer is on its way the keys rest. */
const isAnswered = computed(() =>
  unsent.value.some(({ body }) => body['kind'] === 'decision' && body['key'] === next.value?.key),
)
/** What is due later is done later; fuel may be fetched before its time. */
const EARLY = new Set(['fetch_fuel', 'use_sun'])
const mayBeDone = computed(() => next.value && (next.value.is_now || EARLY.has(next.value.key)))

const gain = (step: Instruction) => {
  if (step.gains_keep_h >= 0.02) return `+${hours(step.gains_keep_h)} of Life and Keep`
  return step.gains_life_h >= 0.02 ? `+${hours(step.gains_life_h)} of Life` : ''
}

/** What happens next by itself, or by the plan. */
const coming = computed(() => {
  const event = props.view.ahead.events[0]
  if (!event) return ''
  const words = EVENT_WORDS[event.kind] ?? event.kind
  const start = props.view.phase === 'before' ? props.view.begun : props.view.now
  return `${at(after(start, event.in_h), props.now)}: ${event.tier ? `${TIER_WORDS[event.tier]} ${words}` : words}`
})

async function answer(step: Instruction, isDone: boolean): Promise<void> {
  await store.tell({
    kind: 'decision',
    key: step.key,
    said: step.title.slice(0, 400),
    is_done: isDone,
    off: isDone ? step.off : [],
    on: isDone ? step.on : [],
    generator: isDone && step.starts_generator ? 'on' : null,
    until: isDone && step.starts_generator ? step.until : null,
    gains_h: Math.round(step.gains_keep_h * 100) / 100,
  })
  said.value = isDone ? 'Written into the log.' : `Not said again for ${hours(props.view.refused_for_h)}.`
}
</script>

<template>
  <section class="next" aria-label="What to do next" aria-live="polite">
    <template v-if="next">
      <h2 data-test="next-title">{{ next.title }}</h2>
      <p v-if="gain(next)" class="gain">
        <ExplainedFigure v-if="next.figure" :figure="next.figure">{{ gain(next) }}</ExplainedFigure>
      </p>
      <p data-test="next-why">{{ next.why }} {{ next.otherwise }}</p>
      <p v-if="next.caution" class="caution"><b>Caution.</b> {{ next.caution }}</p>
      <div class="keys">
        <button
          v-if="mayBeDone"
          type="button"
          class="done"
          :disabled="isAnswered"
          data-test="next-done"
          @click="answer(next, true)"
        >
          Done
        </button>
        <span v-else class="lesser">due at {{ at(next.at, now) }}</span>
        <button
          type="button"
          class="refuse"
          :disabled="isAnswered"
          data-test="next-refuse"
          @click="answer(next, false)"
        >
          Not now
        </button>
        <span v-if="said" class="lesser" role="status">{{ said }}</span>
      </div>
      <details v-if="then.length" class="then" data-test="next-then">
        <summary>Then: {{ then[0]?.title }}<template v-if="then.length > 1">, and more</template></summary>
        <ol>
          <li v-for="step in then" :key="step.key + step.at">
            <b>{{ step.title }}</b> <span class="figures">{{ gain(step) }}</span> {{ step.why }}
          </li>
        </ol>
      </details>
    </template>
    <template v-else>
      <h2 data-test="next-title">
        {{ view.nothing_keep_h === null ? 'Nothing to do' : 'Nothing that would gain hours' }}
      </h2>
      <p data-test="next-why">
        <template v-if="view.nothing_keep_h === null"
          >Life and Keep are carried as far as is looked at.</template
        >
        <template v-else>Keep goes dark in {{ hours(view.nothing_keep_h) }}.</template>
        <template v-if="coming"> Next, {{ coming }}.</template>
      </p>
    </template>
  </section>
</template>

<style scoped>
.next {
  border-left: 6px solid var(--pine);
  padding: 2px 0 4px 14px;
  margin-bottom: 12px;
}

h2 {
  font-size: 24px;
  line-height: 1.2;
  margin: 0 0 2px;
}

p {
  margin: 0 0 4px;
  font-size: 15px;
}

.gain {
  font-weight: 700;
  color: var(--pine);
}

.caution {
  color: var(--wine);
}

.keys {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  margin-top: 6px;
}

.keys button {
  min-height: 44px;
  min-width: 120px;
  padding: 0 18px;
  font-size: 16px;
  font-weight: 700;
  border: 1px solid var(--slate);
}

.keys .done {
  background: var(--pine);
  color: var(--paper);
}

.keys button:disabled {
  opacity: 0.5;
}

.then {
  margin-top: 8px;
}

.then summary {
  cursor: pointer;
}

.then ol {
  margin: 4px 0 0;
  padding-left: 22px;
}
</style>
