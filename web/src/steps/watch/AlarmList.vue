<script setup lang="ts">
/** What is wrong now: the gravest first and open; what somebody has seen stays folded until it is over. */
import type { LiveAlarm, WatchView } from '@/api/client'
import SeverityMark from '@/checks/SeverityMark.vue'

import { useWatch } from './watch'
import { at } from './words'

/** What can hurt somebody this minute stands open; the others are a line above the number. */
const DANGERS = new Set(['over_volts', 'cold'])
defineProps<{ view: WatchView; now: string }>()
const store = useWatch()

async function seen(alarm: LiveAlarm): Promise<void> {
  await store.tell({ kind: 'decision', key: `alarm:${alarm.key}`, said: alarm.title })
}
</script>

<template>
  <section v-if="view.alarms.length" class="alarms" aria-label="Alarms" aria-live="polite">
    <details
      v-for="alarm in view.alarms"
      :key="alarm.key + alarm.since"
      class="alarm"
      :class="[alarm.severity, { seen: alarm.is_acknowledged }]"
      :open="DANGERS.has(alarm.key) && !alarm.is_acknowledged"
      :data-test="`alarm-${alarm.key}`"
    >
      <summary>
        <SeverityMark :severity="alarm.severity" /> {{ alarm.title }}
        <span class="lesser"
          >since {{ at(alarm.since, now) }}{{ alarm.is_acknowledged ? ', seen' : '' }}</span
        >
      </summary>
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
    </details>
  </section>
</template>

<style scoped>
.alarms {
  margin-bottom: 10px;
}

.alarm {
  border-left: 3px solid var(--sun);
  padding: 3px 0 3px 10px;
  margin-bottom: 4px;
}

.alarm.stop {
  border-left-color: var(--wine);
}

.alarm.mend {
  border-left-color: var(--ember);
}

.alarm.seen {
  border-left-color: var(--rule);
}

summary {
  font-weight: 700;
  cursor: pointer;
  min-height: 26px;
}

summary .lesser {
  font-weight: 400;
}

.alarm p {
  margin: 0;
}

.alarm button {
  min-height: 40px;
  padding: 0 18px;
  margin: 4px 0;
  border: 1px solid var(--slate);
  font-weight: 700;
}
</style>
