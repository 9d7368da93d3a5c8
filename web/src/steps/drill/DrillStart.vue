<script setup lang="ts">
/** A storm to begin with: drawn from a seed, or out of a file; and what was reached before. */
import { storeToRefs } from 'pinia'
import { ref } from 'vue'

import type { DrillScenario } from '@/api/client'
import QuantityField from '@/fields/QuantityField.vue'
import { hours, savedAt } from '@/shared/format'

import { useDrill, type DrillMode } from './drill'

const MOST_SEED = 999_999
const store = useDrill()
const { scores } = storeToRefs(store)
const seed = ref(1 + Math.floor(Math.random() * 998))
const wrong = ref('')

async function begin(mode: DrillMode): Promise<void> {
  const scenario = await store.draw(seed.value)
  if (scenario) await store.begin(scenario, mode)
}

function setSeed(value: number | null): void {
  const fits = value !== null && Number.isInteger(value) && value >= 0 && value <= MOST_SEED
  wrong.value = fits ? '' : `The storm’s number needs a whole number from 0 to 999,999 (got ${value}).`
  if (fits) seed.value = value
}

/** A file of at most so much is looked at; the server reads it whole and says what is wrong with it. */
const MOST_BYTES = 50_000

async function take(event: Event): Promise<void> {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  if (file.size > MOST_BYTES) {
    wrong.value = `A storm’s file holds at most 50 kB (got ${Math.ceil(file.size / 1000)} kB).`
    return
  }
  try {
    const found = JSON.parse(await file.text()) as DrillScenario
    if (found.format !== 'hearth-keep-drill') throw new Error('other')
    wrong.value = ''
    await store.begin(found, 'full')
  } catch {
    wrong.value = `${file.name} is no storm of Hearth Keep: its format must say hearth-keep-drill.`
  }
}
</script>

<template>
  <section class="start">
    <p>
      The outage of this design, with two to four surprises in it that you do not know beforehand. An hour
      takes ten seconds, or as long as you like. You decide what to turn off, when to run what, and which
      instrument to trust; at the end you see what each decision was worth.
    </p>
    <div class="row">
      <QuantityField
        label="Number of the storm"
        :value="seed"
        whole
        data-test="drill-seed"
        @change="setSeed"
      />
      <button type="button" class="main" data-test="drill-begin" @click="begin('full')">Begin</button>
      <button type="button" data-test="drill-family" @click="begin('family')">
        Begin for the family, with four keys
      </button>
      <label class="file"
        >Take a storm from a file
        <input type="file" accept=".json,application/json" data-test="drill-file" @change="take"
      /></label>
    </div>
    <p v-if="wrong" class="wrong" role="alert" data-test="drill-wrong">{{ wrong }}</p>
    <p class="lesser">
      The same number is the same storm for this design. Nothing is switched and nothing of the design is
      changed.
    </p>
    <template v-if="scores.length">
      <h2>Lived so far</h2>
      <table class="ledger" data-test="drill-scores">
        <thead>
          <tr>
            <th scope="col">When</th>
            <th scope="col">Storm</th>
            <th scope="col" class="number">Score</th>
            <th scope="col" class="number">Life and Keep carried</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="score in scores" :key="score.at">
            <td>{{ savedAt(score.at) }}</td>
            <td>{{ score.title }}{{ score.mode === 'family' ? ', family' : '' }}</td>
            <td class="number">{{ Math.round(score.score_points) }}</td>
            <td class="number">{{ hours(score.keep_h) }} of {{ hours(score.duration_h) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>

<style scoped>
.start {
  max-width: 820px;
}

.row {
  margin-top: 12px;
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 10px 16px;
  margin-bottom: 8px;
}

button {
  min-height: 44px;
  padding: 0 18px;
  border: 1px solid var(--slate);
  font-weight: 700;
}

.main {
  background: var(--pine);
  color: var(--paper);
}

.file input {
  display: block;
}

.wrong {
  color: var(--wine);
}
</style>
