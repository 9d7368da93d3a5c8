<script setup lang="ts">
/** A tone when something new is wrong while this page is open; in the quiet hours only for what can hurt somebody. */
import { useLocalStorage } from '@vueuse/core'
import { ref, watch } from 'vue'

import type { WatchView } from '@/api/client'

import { rings } from './quiet'

/** Pitch [Hz], and how long a tone lasts and is silent [s]; it sounds so often. */
const PITCH_HZ = 880
const TONE_S = 0.25
const TIMES = 3
const HOURS = Array.from({ length: 24 }, (_, hour) => hour)
const props = defineProps<{ view: WatchView }>()
const kept = useLocalStorage('hearthkeep.ring', { isOn: false, from_h: 22, to_h: 7 })
const said = ref('')
const keyOf = (alarm: { key: string; since: string }) => `${alarm.key} ${alarm.since}`
let known = new Set(props.view.alarms.map(keyOf))

function sound(): void {
  const context = new AudioContext()
  for (let number = 0; number < TIMES; number += 1) {
    const tone = context.createOscillator()
    tone.frequency.value = PITCH_HZ
    tone.connect(context.destination)
    tone.start(context.currentTime + 2 * TONE_S * number)
    tone.stop(context.currentTime + 2 * TONE_S * number + TONE_S)
  }
  globalThis.setTimeout(() => void context.close(), 2_000 * TONE_S * TIMES)
  navigator.vibrate?.([300, 150, 300])
}

watch(
  () => props.view,
  (view) => {
    const fresh = view.alarms.filter((alarm) => !known.has(keyOf(alarm)) && !alarm.is_acknowledged)
    known = new Set(view.alarms.map(keyOf))
    if (!kept.value.isOn || !fresh.length) return
    const titles = fresh.map((alarm) => alarm.title).join(', ')
    const isLoud = fresh.some((alarm) => rings(alarm.severity, view.now, kept.value))
    said.value = `${isLoud ? 'Rang' : 'Kept quiet'} at ${view.now.slice(11, 16)}: ${titles}`
    if (isLoud) sound()
  },
)
</script>

<template>
  <p class="ring">
    <label>
      <input v-model="kept.isOn" type="checkbox" data-test="ring-on" />
      Ring when something new is wrong
    </label>
    <template v-if="kept.isOn">
      <label
        >quiet from
        <select v-model="kept.from_h" data-test="ring-from">
          <option v-for="hour in HOURS" :key="hour" :value="hour">{{ hour }}:00</option>
        </select></label
      >
      <label
        >to
        <select v-model="kept.to_h" data-test="ring-to">
          <option v-for="hour in HOURS" :key="hour" :value="hour">{{ hour }}:00</option>
        </select></label
      >
      <button type="button" data-test="ring-try" @click="sound">Hear it</button>
      <span class="lesser">then only what can hurt somebody rings; keep this page open</span>
    </template>
    <span v-if="said" role="status" data-test="ring-said">{{ said }}</span>
  </p>
</template>

<style scoped>
.ring {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  margin: 8px 0;
}

select,
button {
  min-height: 40px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  padding: 0 8px;
}
</style>
