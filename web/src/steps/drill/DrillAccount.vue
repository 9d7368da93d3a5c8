<script setup lang="ts">
/** The account of a drill: hours against the best that was found, what each decision was worth, and what to change. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { DrillAccount, DrillStand } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { volume } from '@/fields/units'
import { amount, calendarMoment, hours, hoursChange, percent } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import { after } from '../watch/words'
import { useDrill } from './drill'
import DrillHead from './DrillHead.vue'

const props = defineProps<{ account: DrillAccount; stand: DrillStand }>()
const store = useDrill()
const { drill } = storeToRefs(store)
const { document } = storeToRefs(useDesign())
const start = computed(() => props.stand.start)
const ways = computed(() => [
  { name: 'You', way: props.account.yours },
  { name: 'The best that was found', way: props.account.best },
  { name: 'The plan’s own rules', way: props.account.by_plan },
  { name: 'Nobody doing anything', way: props.account.nothing },
])
const fuel = (value_l: number) => {
  if (!document.value || !props.stand.has_generator) return '–'
  const unit = volume(document.value)
  return `${amount(Math.round(unit.show(value_l) * 10) / 10)} ${unit.label}`
}
const points = (value: number) => {
  const whole = Math.round(value)
  return `${whole > 0 ? '+' : whole < 0 ? '−' : '±'}${Math.abs(whole)} %`
}
const when = (at_h: number) => calendarMoment(after(start.value, at_h))

function saveFile(): void {
  if (!drill.value) return
  const blob = new Blob([JSON.stringify(drill.value.scenario, null, 2)], { type: 'application/json' })
  const link = window.document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = `storm-${drill.value.scenario.seed ?? 'x'}.json`
  link.click()
  URL.revokeObjectURL(link.href)
}

async function again(): Promise<void> {
  if (drill.value) await store.begin(drill.value.scenario, drill.value.mode)
}
</script>

<template>
  <section>
    <div class="score">
      <ExplainedFigure :figure="account.figure"
        ><strong class="figures" data-test="drill-score">{{
          Math.round(account.score_points)
        }}</strong></ExplainedFigure
      >
      <span
        >of 100. Life and Keep carried {{ hours(account.yours.keep_h) }} of {{ hours(account.duration_h) }};
        the best that was found is {{ hours(account.best.keep_h) }}.</span
      >
    </div>
    <div class="keys">
      <button type="button" class="main" data-test="drill-again" @click="again">The same storm again</button>
      <button type="button" data-test="drill-other" @click="store.leave()">Another storm</button>
      <button type="button" data-test="drill-save" @click="saveFile">Save this storm as a file</button>
    </div>
    <DrillHead :stand="stand" />
    <WideTable label="Ways through the storm">
      <table class="ledger" data-test="drill-ways">
        <thead>
          <tr>
            <th scope="col">Who</th>
            <th scope="col" class="number">Life and Keep</th>
            <th scope="col" class="number">Life</th>
            <th scope="col" class="number">Dark in all</th>
            <th scope="col" class="number">Ease served</th>
            <th scope="col" class="number">Fuel left</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ name, way } in ways" :key="name">
            <th scope="row">{{ name }}</th>
            <td class="number">{{ hours(way.keep_h) }}</td>
            <td class="number">{{ hours(way.life_h) }}</td>
            <td class="number">{{ hours(way.dark_for_h) }}</td>
            <td class="number">{{ percent(way.ease_frac) }}</td>
            <td class="number">{{ fuel(way.fuel_left_l) }}</td>
          </tr>
        </tbody>
      </table>
    </WideTable>
    <div class="room">
      <div>
        <h2>What each decision was worth</h2>
        <p v-if="!account.decisions.length" class="lesser">Nothing was decided.</p>
        <table v-else class="ledger" data-test="drill-worths">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Decision</th>
              <th scope="col" class="number">Life, Keep</th>
              <th scope="col" class="number">Ease</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(each, index) in account.decisions" :key="index">
              <td>{{ when(each.at_h) }}</td>
              <td>
                {{ each.said }}<span v-if="each.result" class="lesser">: {{ each.result }}</span>
              </td>
              <td class="number" :class="{ cost: each.keep_h < -0.02 }">{{ hoursChange(each.keep_h) }}</td>
              <td class="number">
                {{ points(each.ease_points) }}
              </td>
            </tr>
          </tbody>
        </table>
        <p class="lesser">With the decision less without it, all others as they were.</p>
      </div>
      <div>
        <h2>What the papers should say differently</h2>
        <ul data-test="drill-lessons">
          <li v-for="lesson in account.lessons" :key="lesson">{{ lesson }}</li>
        </ul>
        <h2>What came as a surprise</h2>
        <ul data-test="drill-surprises">
          <li v-for="surprise in account.surprises" :key="surprise">{{ surprise }}</li>
          <li v-if="!account.surprises.length" class="lesser">Nothing.</li>
        </ul>
        <template v-if="account.best_steps.length">
          <h2>What the best that was found does</h2>
          <ul class="best">
            <li v-for="(step, index) in account.best_steps" :key="index">
              <span class="figures">{{ when(step.at_h) }}</span> {{ step.said }}
            </li>
          </ul>
        </template>
      </div>
    </div>
  </section>
</template>

<style scoped>
.score {
  display: flex;
  align-items: baseline;
  gap: 14px;
  font-size: 16px;
}

.score strong {
  font-size: 46px;
  line-height: 1;
}

.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 10px 0;
}

.keys button {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
  font-weight: 600;
}

.keys .main {
  background: var(--pine);
  color: var(--paper);
}

.room {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 28px;
}

.ledger td:not(.number) {
  white-space: normal;
}

.ledger th[scope='row'] {
  white-space: normal;
}

.cost {
  color: var(--wine);
  font-weight: 700;
}

h2 {
  margin: 12px 0 2px;
}

ul {
  margin: 0;
  padding-left: 18px;
}

.best {
  list-style: none;
  padding: 0;
}

@media (max-width: 900px) {
  .room {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
