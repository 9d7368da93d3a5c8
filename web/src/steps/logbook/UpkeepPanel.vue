<script setup lang="ts">
/** What is due and overdue, by what was done last; each written down with one key. */
import { storeToRefs } from 'pinia'

import SeverityMark from '@/checks/SeverityMark.vue'
import { calendarDay, counted } from '@/shared/format'

import { useBuild } from '../build/build'
import { useLogbook } from './logbook'
import { useOutbox } from './outbox'
import { daysText } from './words'

const build = useBuild()
const outbox = useOutbox()
const { current } = storeToRefs(build)
const { outlook } = storeToRefs(useLogbook())
const MARKS = { overdue: 'mend', soon: 'mind', later: 'good' } as const

function done(task: string): void {
  if (!current.value) return
  outbox.put({
    installation_id: current.value.id,
    who: build.who,
    body: { kind: 'event', what: 'upkeep', part: task },
  })
}
</script>

<template>
  <div v-if="current && outlook">
    <p class="lesser">
      By chemistry, place and parts of the design; counted from when it was last done, or from when the record
      began.
    </p>
    <ul class="tasks">
      <li v-for="task in outlook.due" :key="task.key" :class="task.state" :data-test="`task-${task.key}`">
        <SeverityMark :severity="MARKS[task.state]" />
        <div>
          <h3>{{ task.title }}</h3>
          <p>{{ task.do }}</p>
          <p class="lesser">
            Every {{ counted(task.every_days, 'day') }}; last
            {{ task.last_on ? calendarDay(task.last_on, 0) : 'never' }}. {{ task.basis }}.
          </p>
        </div>
        <span class="due figures">{{ daysText(task.days_left) }}</span>
        <v-btn
          size="small"
          color="pine"
          data-test="task-done"
          :aria-label="`Done: ${task.title}`"
          @click="done(task.key)"
          >Done</v-btn
        >
      </li>
    </ul>
    <p class="files">
      <a :href="`/api/installations/${current.id}/upkeep.ics`" download="upkeep.ics">Save as calendar</a>
    </p>
  </div>
  <p v-else class="lesser">Begin the record of an installation on Build; its upkeep is counted from then.</p>
</template>

<style scoped>
.tasks {
  list-style: none;
  margin: 0;
  padding: 0;
}

.tasks li {
  display: grid;
  grid-template-columns: 14px minmax(0, 1fr) 130px auto;
  gap: 4px 10px;
  align-items: start;
  border-bottom: 1px solid var(--rule);
  padding: 6px 0;
}

h3 {
  font-size: 14px;
}

p {
  margin: 0;
}

.lesser {
  font-size: 13px;
}

.due {
  text-align: right;
  font-size: 13px;
}

.overdue .due {
  color: var(--wine);
  font-weight: 700;
}

.files a {
  color: var(--pine);
  font-weight: 600;
}

@media (max-width: 640px) {
  .tasks li {
    grid-template-columns: 14px minmax(0, 1fr) auto;
  }

  .due {
    grid-column: 2;
    grid-row: 2;
    text-align: left;
  }
}
</style>
