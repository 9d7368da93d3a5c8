<script setup lang="ts">
/** What is wrong now: the gravest first and open; what somebody has seen stays folded until it is over. */
import type { LiveAlarm, WatchView } from '@/api/client'
import AlarmFold from '@/checks/AlarmFold.vue'

import { useWatch } from './watch'
import { at } from './words'

/** What can hurt somebody this minute stands open; the others are a line above the number. */
const DANGERS = new Set(['over_volts', 'cold'])
const isDanger = (alarm: LiveAlarm) =>
  DANGERS.has(alarm.key) || (alarm.key.startsWith('fault_') && alarm.severity === 'stop')
defineProps<{ view: WatchView; now: string }>()
const store = useWatch()

async function seen(alarm: LiveAlarm): Promise<void> {
  await store.tell({ kind: 'decision', key: `alarm:${alarm.key}`, said: alarm.title })
}
</script>

<template>
  <section v-if="view.alarms.length" class="alarms" aria-label="Alarms" aria-live="polite">
    <AlarmFold
      v-for="alarm in view.alarms"
      :key="alarm.key + alarm.since"
      :severity="alarm.severity"
      :is-open="isDanger(alarm) && !alarm.is_acknowledged"
      :is-seen="alarm.is_acknowledged"
      :data-test="`alarm-${alarm.key}`"
    >
      <template #line>
        {{ alarm.title }}
        <span class="lesser"
          >since {{ at(alarm.since, now) }}{{ alarm.is_acknowledged ? ', seen' : '' }}</span
        >
      </template>
      <p>{{ alarm.message }} {{ alarm.next }}</p>
      <p class="lesser">{{ alarm.basis }}.</p>
      <button
        v-if="!alarm.is_acknowledged"
        type="button"
        :data-test="`seen-${alarm.key}`"
        @click="seen(alarm)"
      >
        Seen
      </button>
    </AlarmFold>
  </section>
</template>

<style scoped>
.alarms {
  margin-bottom: 10px;
}

button {
  min-height: 40px;
  padding: 0 18px;
  margin: 4px 0;
  border: 1px solid var(--slate);
  font-weight: 700;
}
</style>
