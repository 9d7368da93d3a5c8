<script setup lang="ts">
/** What only people know: that it began or is over, when help comes, what a display says, what was switched by hand. */
import { storeToRefs } from 'pinia'
import { computed, ref, watch } from 'vue'

import type { WatchView } from '@/api/client'
import { useDesign } from '@/design/store'
import QuantityField from '@/fields/QuantityField.vue'
import { volume } from '@/fields/units'

import { siteNow } from '../build/build'
import { useWatch } from './watch'
import { TIER_WORDS } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
const { document } = storeToRefs(useDesign())
const store = useWatch()
const moment = ref('')
const isOn = computed(() => props.view.phase === 'on')
const choices = computed(() =>
  (document.value?.loads ?? []).map((load) => ({
    id: load.id,
    name: load.name,
    tier: TIER_WORDS[load.tier] ?? load.tier,
    isOff: props.view.off.includes(load.id),
  })),
)
/** As typed, or now; empty while it cannot be read. */
function typed(): string | null {
  if (!moment.value) return document.value ? siteNow(document.value) : null
  return `${moment.value.slice(0, 16)}:00`
}

async function say(what: string, mayBeNow: boolean): Promise<void> {
  const at = mayBeNow ? typed() : moment.value ? typed() : null
  await store.tell({ kind: 'watch', what, moment: at })
  moment.value = ''
}
/** As they were typed, until the page has them from the log. */
const charge = ref<number | null>(null)
const fuel_l = ref<number | null>(null)
const wrong = ref('')
watch(
  () => props.view.now,
  () => (charge.value = fuel_l.value = null),
)

async function readCharge(value: number | null): Promise<void> {
  wrong.value = value !== null && (value < 0 || value > 100) ? `Charge needs 0 to 100 % (got ${value}).` : ''
  charge.value = value
  if (value !== null && !wrong.value) await store.tell({ kind: 'reading', values: { charge: value } })
}

async function countFuel(value: number | null): Promise<void> {
  wrong.value = value !== null && value < 0 ? `Fuel needs 0 or more (got ${value}).` : ''
  fuel_l.value = value
  if (value !== null && !wrong.value) await store.tell({ kind: 'watch', what: 'fuel', stock_l: value })
}

const switched = (id: string, isOff: boolean) =>
  store.tell({ kind: 'decision', key: 'own', off: isOff ? [id] : [], on: isOff ? [] : [id] })
const drove = (generator: 'on' | 'off') => store.tell({ kind: 'decision', key: 'own', generator })
</script>

<template>
  <section class="tell">
    <h2>Tell</h2>
    <div class="keys">
      <label class="when"
        >At
        <input v-model="moment" type="datetime-local" class="plain" data-test="tell-moment" />
        <span class="lesser">empty: now</span></label
      >
      <button v-if="!isOn" type="button" data-test="tell-began" @click="say('began', true)">
        The outage began
      </button>
      <button
        v-if="!isOn"
        type="button"
        :disabled="!moment"
        title="Say first when it is expected"
        data-test="tell-warning"
        @click="say('warning', false)"
      >
        A storm is expected then
      </button>
      <template v-else>
        <button type="button" data-test="tell-help" @click="say('help', false)">
          {{ moment ? 'Help is expected then' : 'Nobody knows when help comes' }}
        </button>
        <button type="button" data-test="tell-ended" @click="say('ended', true)">The grid is back</button>
      </template>
    </div>
    <div class="read">
      <QuantityField
        label="Charge on the display"
        :value="charge"
        unit="%"
        may-be-empty
        data-test="tell-charge"
        @change="readCharge"
      />
      <template v-if="document && view.fuel_l !== null">
        <QuantityField
          label="Fuel, counted"
          :value="fuel_l"
          :unit="volume(document)"
          may-be-empty
          data-test="tell-fuel"
          @change="countFuel"
        />
        <button v-if="!view.generator_runs" type="button" data-test="tell-generator" @click="drove('on')">
          The generator runs
        </button>
        <button v-else type="button" data-test="tell-generator" @click="drove('off')">
          The generator was stopped
        </button>
      </template>
    </div>
    <p v-if="wrong" class="wrong" role="alert" data-test="tell-wrong">{{ wrong }}</p>
    <details v-if="isOn && choices.length" class="switched" data-test="tell-loads">
      <summary>
        Switched by hand: {{ view.off.length ? `${view.off.length} left off` : 'nothing left off' }}
      </summary>
      <ul>
        <li v-for="load in choices" :key="load.id">
          <label>
            <input
              type="checkbox"
              :checked="!load.isOff"
              :data-test="`on-${load.id}`"
              @change="switched(load.id, !($event.target as HTMLInputElement).checked)"
            />
            {{ load.name }} <span class="lesser">{{ load.tier }}</span>
          </label>
        </li>
      </ul>
    </details>
  </section>
</template>

<style scoped>
h2 {
  margin: 12px 0 4px;
}

.keys,
.read {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 8px 14px;
  margin-bottom: 8px;
}

button {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
  font-weight: 600;
}

button:disabled {
  opacity: 0.5;
}

.when {
  display: flex;
  align-items: center;
  gap: 8px;
}

.plain {
  min-height: 40px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  padding: 0 8px;
}

.wrong {
  color: var(--wine);
  margin: 0 0 8px;
}

.switched summary {
  cursor: pointer;
}

.switched ul {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  columns: 260px;
}

.switched label {
  display: block;
  min-height: 30px;
}
</style>
