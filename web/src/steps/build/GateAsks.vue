<script setup lang="ts">
/** What a gate asks to be measured, what is expected and what is read; and what may lie behind a reading outside. */
import { computed } from 'vue'

import type { Ask, GateSheet } from '@/api/client'
import SeverityMark from '@/checks/SeverityMark.vue'
import QuantityField from '@/fields/QuantityField.vue'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { sharePercent } from '@/shared/format'

import { shown, windowText } from './words'

const props = defineProps<{ sheet: GateSheet; values: Record<string, number> }>()
const emit = defineEmits<{ read: [key: string, value: number | null] }>()
const judged = computed(() => props.sheet.judged)

const barred = computed(() => judged.value.forbidden.map((each) => each.key))

/** What is said once, however many readings say it. */
const stops = computed(() =>
  judged.value.forbidden.filter((each, at, all) => all.findIndex((other) => other.why === each.why) === at),
)

function verdict(ask: Ask): 'inside' | 'outside' | 'never' | '' {
  if (barred.value.includes(ask.key)) return 'never'
  if (judged.value.inside.includes(ask.key)) return 'inside'
  return judged.value.outside.includes(ask.key) ? 'outside' : ''
}
</script>

<template>
  <table v-if="sheet.gate.asks.length" class="ledger asks">
    <thead>
      <tr>
        <th scope="col">Measure</th>
        <th scope="col" class="number">Expect</th>
        <th scope="col">Read</th>
        <th scope="col"><span class="visually-hidden">Verdict</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="ask in sheet.gate.asks" :key="ask.key" :class="verdict(ask)">
        <th scope="row">
          {{ ask.label }}<span v-if="ask.is_optional" class="lesser"> (if you can)</span>
          <span class="lesser where">{{ ask.where }}</span>
        </th>
        <td class="number">
          <ExplainedFigure :figure="ask.figure">{{ windowText(ask) }} {{ ask.unit }}</ExplainedFigure>
        </td>
        <td class="read">
          <QuantityField
            :label="`${ask.label}, read`"
            quiet
            may-be-empty
            :value="values[ask.key] ?? null"
            :unit="ask.unit"
            :data-test="`read-${ask.key}`"
            @change="emit('read', ask.key, $event)"
          />
        </td>
        <td class="verdict">
          <template v-if="verdict(ask) === 'inside'"><SeverityMark severity="good" /> inside</template>
          <template v-else-if="verdict(ask) === 'never'"
            ><SeverityMark severity="stop" /> stop, {{ shown(values[ask.key] ?? 0, ask) }}</template
          >
          <template v-else-if="verdict(ask) === 'outside'"
            ><SeverityMark severity="mend" /> outside, {{ shown(values[ask.key] ?? 0, ask) }}</template
          >
        </td>
      </tr>
    </tbody>
  </table>
  <p v-for="each in judged.meanings" :key="each.key" class="meaning" data-test="meaning">{{ each.words }}</p>
  <section v-if="judged.forbidden.length" class="stop-work" role="alert" data-test="stop-work">
    <h3>Stop work</h3>
    <p v-for="each in stops" :key="each.why">{{ each.why }} {{ each.now }}</p>
    <p class="lesser">
      No note accepts it: the gate stays shut, and so does what comes behind it, until it is measured inside.
    </p>
  </section>
  <section v-if="judged.causes.length" class="causes" aria-label="Likely causes" data-test="causes">
    <h3>What may lie behind it, the likeliest first</h3>
    <ol>
      <li v-for="cause in judged.causes" :key="cause.key" :data-test="`cause-${cause.key}`">
        <span class="share figures">{{ sharePercent(cause.share_frac) }}</span>
        <span
          ><b>{{ cause.title }}.</b> Next: {{ cause.next }}</span
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
.meaning {
  border-left: 3px solid var(--sun);
  padding-left: 10px;
  margin-top: 8px;
  font-size: 13.5px;
}

.asks th[scope='row'] {
  font-weight: 600;
  font-size: 14px;
  color: var(--ink);
  white-space: normal;
}

.where {
  display: block;
  font-weight: 400;
  font-size: 12.5px;
}

.read {
  width: 150px;
  padding: 3px 6px;
}

.verdict {
  width: 120px;
  font-size: 13px;
  white-space: nowrap;
}

.never .verdict,
.outside .verdict {
  color: var(--wine);
  font-weight: 700;
}

.causes {
  border-left: 3px solid var(--wine);
  padding: 4px 0 4px 12px;
  margin: 8px 0;
}

.stop-work {
  border: 2px solid var(--wine);
  padding: 8px 12px;
  margin: 8px 0;
}

.stop-work h3 {
  font-size: 15px;
  color: var(--wine);
}

.causes h3 {
  font-size: 14px;
}

.causes ol {
  list-style: none;
  margin: 0;
  padding: 0;
}

.causes li {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  gap: 8px;
  padding: 2px 0;
}

.share {
  text-align: right;
}

@media (max-width: 760px) {
  .asks,
  .asks tbody,
  .asks tr {
    display: block;
  }

  .asks thead {
    display: none;
  }

  .asks tr {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 130px;
    gap: 2px 8px;
    padding: 6px 0;
    border-bottom: 1px solid var(--rule);
  }

  .asks th,
  .asks td {
    border: 0;
    padding: 0;
    height: auto;
    width: auto;
    text-align: left;
  }

  .asks th {
    grid-column: 1 / -1;
  }

  .asks .verdict:empty {
    display: none;
  }
}
</style>
