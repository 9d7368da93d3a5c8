<script setup lang="ts">
/** A drill in full: time by the hour or on its own, every load, the generator, snow, fuel, and a second instrument. */
import { useIntervalFn } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import type { DrillStand } from '@/api/client'
import { useDesign } from '@/design/store'
import { volume } from '@/fields/units'
import { amount, calendarDay, calendarMoment, kilowatts } from '@/shared/format'

import { after, TIER_WORDS } from '../watch/words'
import { useDrill } from './drill'
import DrillHead from './DrillHead.vue'
import { newsWords } from './words'

const props = defineProps<{ stand: DrillStand }>()
const store = useDrill()
const { news, isBusy } = storeToRefs(store)
const { document } = storeToRefs(useDesign())
const start = computed(() => props.stand.start)
const MORNING = 7
/** An hour in ten seconds, in steps of a quarter [ms, h]. */
const [TICK_MS, TICK_H] = [2_500, 0.25]
const isRunning = ref(false)
useIntervalFn(() => isRunning.value && void tick(), TICK_MS)

async function tick(): Promise<void> {
  const before = news.value.length
  await store.pass(TICK_H)
  // What happens stops the clock, so that there is time to decide.
  if (news.value.length > before) isRunning.value = false
}
const toMorning = computed(() => {
  const at = new Date(`${props.stand.now}Z`)
  const hour = at.getUTCHours() + at.getUTCMinutes() / 60
  return (MORNING - hour + 24) % 24 || 24
})
const tiers = computed(() =>
  ['life', 'keep', 'ease', 'spare'].map((tier) => ({
    tier,
    loads: props.stand.loads.filter((load) => load.tier === tier),
  })),
)
const ease = computed(() => props.stand.loads.filter((load) => load.tier === 'ease' && !load.is_off))
const fuel = computed(() => {
  if (!document.value) return ''
  const unit = volume(document.value)
  return `${amount(Math.round(unit.show(props.stand.fuel_l) * 10) / 10)} ${unit.label}`
})
const lastRead = ref('')
watch(
  () => props.stand.results,
  (results) => {
    lastRead.value = results.at(-1) ?? ''
  },
)

const flip = (id: string, isOff: boolean) =>
  store.decide({ kind: isOff ? 'leave_off' : 'turn_on', loads: [id] })
</script>

<template>
  <section>
    <DrillHead :stand="stand" />
    <div class="keys" aria-label="Time">
      <button type="button" :disabled="isBusy" data-test="pass-1" @click="store.pass(1)">1 hour on</button>
      <button type="button" :disabled="isBusy" data-test="pass-3" @click="store.pass(3)">3 hours on</button>
      <button type="button" :disabled="isBusy" data-test="pass-morning" @click="store.pass(toMorning)">
        To the morning
      </button>
      <button type="button" :aria-pressed="isRunning" data-test="drill-run" @click="isRunning = !isRunning">
        {{ isRunning ? 'Stop the clock' : 'Let it run, an hour in 10 s' }}
      </button>
      <button type="button" class="leave" data-test="drill-leave" @click="store.leave()">
        Leave this drill
      </button>
    </div>
    <div class="room">
      <div>
        <h2>Decide</h2>
        <div class="keys">
          <button
            v-if="ease.length"
            type="button"
            :disabled="isBusy"
            data-test="all-ease-off"
            @click="store.decide({ kind: 'leave_off', loads: ease.map((load) => load.id) })"
          >
            All of Ease off
          </button>
          <template v-if="stand.has_generator">
            <button
              v-if="!stand.generator_runs"
              type="button"
              :disabled="isBusy"
              data-test="start-generator"
              @click="store.decide({ kind: 'generator_on', for_h: 2 })"
            >
              Start the generator for 2 h
            </button>
            <button
              v-else
              type="button"
              :disabled="isBusy"
              data-test="stop-generator"
              @click="store.decide({ kind: 'generator_off' })"
            >
              Stop the generator
            </button>
            <button type="button" :disabled="isBusy" @click="store.decide({ kind: 'fetch_fuel' })">
              Fetch fuel
            </button>
          </template>
          <button
            v-if="stand.can_sweep"
            type="button"
            :disabled="isBusy"
            data-test="sweep"
            @click="store.decide({ kind: 'sweep' })"
          >
            Clear the snow
          </button>
          <button
            type="button"
            :disabled="isBusy"
            data-test="cross-read"
            @click="store.decide({ kind: 'cross_read' })"
          >
            Read the bank on another instrument
          </button>
        </div>
        <p v-if="lastRead" class="result" role="status" data-test="drill-result">{{ lastRead }}</p>
        <table class="ledger" data-test="drill-loads">
          <tbody v-for="group in tiers" :key="group.tier">
            <tr v-for="load in group.loads" :key="load.id" :class="{ off: load.is_off }">
              <td>
                <label>
                  <input
                    type="checkbox"
                    :checked="!load.is_off"
                    :disabled="isBusy"
                    :data-test="`drill-on-${load.id}`"
                    @change="flip(load.id, !($event.target as HTMLInputElement).checked)"
                  />
                  <span class="name">{{ load.name }}</span>
                </label>
              </td>
              <td class="lesser">{{ TIER_WORDS[load.tier] }}</td>
              <td class="number">{{ kilowatts(load.now_w) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <div>
        <h2>What is seen</h2>
        <p class="now">
          House {{ kilowatts(stand.house_w) }}, sun {{ kilowatts(stand.sun_w)
          }}<template v-if="stand.has_generator"
            >, generator {{ stand.generator_runs ? 'runs' : 'still' }}, fuel {{ fuel }}</template
          >
        </p>
        <p class="now">
          <span v-for="day in stand.days" :key="day.on" class="day"
            >{{ calendarDay(`${day.on}T00:00:00`, 0) }}: {{ day.sky }}
            <span class="lesser">{{ day.is_seen ? 'as it is' : 'foretold' }}</span></span
          >
        </p>
        <ol class="news" data-test="drill-news">
          <li v-for="(each, index) in news" :key="index">
            <span class="figures">{{ calendarMoment(after(start, each.at_h)) }}</span>
            {{ newsWords(each) }}
          </li>
          <li v-if="!news.length" class="lesser">Nothing yet: the grid has just gone.</li>
        </ol>
      </div>
    </div>
  </section>
</template>

<style scoped>
.keys {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin: 8px 0;
}

.keys button {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
  font-weight: 600;
}

.keys button:disabled {
  opacity: 0.6;
}

.leave {
  margin-left: auto;
}

.room {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 28px;
}

h2 {
  margin: 8px 0 2px;
}

td label {
  display: flex;
  align-items: center;
  gap: 8px;
}

.off td {
  color: var(--slate);
}

.off .name {
  text-decoration: line-through;
}

.ledger td {
  white-space: normal;
  overflow-wrap: anywhere;
}

.result {
  font-weight: 700;
  margin: 0 0 6px;
}

.now {
  margin: 0 0 4px;
}

.day {
  display: inline-block;
  margin-right: 14px;
}

.news {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  max-height: 340px;
  overflow-y: auto;
}

.news .figures {
  margin-right: 10px;
  word-spacing: -0.3em;
}

.news li {
  border-bottom: 1px solid var(--rule);
  padding: 3px 0;
}

@media (max-width: 640px) {
  .room {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
