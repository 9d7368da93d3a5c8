<script setup lang="ts">
/** A drill for everybody in the house: four keys, plain words. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { DrillStand } from '@/api/client'

import { useDrill } from './drill'
import DrillHead from './DrillHead.vue'
import { newsWords } from './words'

const props = defineProps<{ stand: DrillStand }>()
const store = useDrill()
const { news, isBusy } = storeToRefs(store)
const STEP_H = 3
const waits = computed(() => props.stand.loads.filter((load) => load.tier === 'ease'))
const on = computed(() => waits.value.filter((load) => !load.is_off))
const off = computed(() => waits.value.filter((load) => load.is_off))
const ids = (loads: readonly { id: string }[]) => loads.map((load) => load.id)
const result = computed(() => props.stand.results.at(-1) ?? '')
const names = (loads: readonly { name: string }[]) => loads.map((load) => load.name).join(', ')
</script>

<template>
  <section>
    <DrillHead :stand="stand" />
    <div class="four" data-test="family-keys">
      <button
        type="button"
        :disabled="isBusy || !on.length"
        data-test="family-off"
        @click="store.decide({ kind: 'leave_off', loads: ids(on) })"
      >
        <b>Turn off what can wait</b><span>{{ on.length ? names(on) : 'all of it is off' }}</span>
      </button>
      <button
        type="button"
        :disabled="isBusy || !off.length"
        data-test="family-on"
        @click="store.decide({ kind: 'turn_on', loads: ids(off) })"
      >
        <b>Turn it on again</b><span>{{ off.length ? names(off) : 'nothing is off' }}</span>
      </button>
      <button
        v-if="stand.has_generator"
        type="button"
        :disabled="isBusy || stand.generator_runs"
        data-test="family-generator"
        @click="store.decide({ kind: 'generator_on', for_h: 2 })"
      >
        <b>Run the generator for two hours</b
        ><span>{{ stand.generator_runs ? 'it runs' : 'outdoors, away from doors and windows' }}</span>
      </button>
      <button v-else type="button" :disabled="isBusy" @click="store.decide({ kind: 'cross_read' })">
        <b>Look at the second display</b><span>does it say the same?</span>
      </button>
      <button type="button" class="on" :disabled="isBusy" data-test="family-go" @click="store.pass(STEP_H)">
        <b>Go on</b><span>three hours, or until something happens</span>
      </button>
    </div>
    <p v-if="result" class="said" role="status" data-test="drill-result">{{ result }}</p>
    <p class="said" data-test="family-news">{{ news[0] ? newsWords(news[0]) : 'The grid has just gone.' }}</p>
    <button type="button" class="leave" data-test="drill-leave" @click="store.leave()">
      Leave this drill
    </button>
  </section>
</template>

<style scoped>
.four {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  margin: 10px 0;
}

.four button {
  min-height: 76px;
  padding: 6px 14px;
  border: 2px solid var(--slate);
  text-align: left;
  overflow-wrap: anywhere;
}

.four b,
.four span {
  display: block;
}

.four b {
  font-size: 19px;
}

.four .on {
  background: var(--pine);
  border-color: var(--pine);
  color: var(--paper);
}

.four button:disabled {
  opacity: 0.55;
}

.said {
  font-size: 18px;
  margin: 0 0 6px;
}

.leave {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
}

@media (max-width: 640px) {
  .four {
    grid-template-columns: 1fr;
  }
}
</style>
