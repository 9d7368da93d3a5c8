<script setup lang="ts">
/** A list with times, before a storm and after it; what is done is ticked off and kept in the log. */
import type { WatchTask, WatchView } from '@/api/client'

import { useWatch } from './watch'
import { at } from './words'

const props = defineProps<{ view: WatchView; now: string }>()
const store = useWatch()

/** The outage as it was lived, for the log; it is lived again there. */
async function write(task: WatchTask): Promise<void> {
  if (!props.view.lived) return
  await store.tell({ kind: 'outage', start: props.view.lived.start, hours_h: props.view.lived.hours_h })
  await tick(task, true)
}

async function tick(task: WatchTask, isDone: boolean): Promise<void> {
  await store.tell({ kind: 'decision', key: task.key, said: task.title, is_done: isDone })
}
</script>

<template>
  <section class="tasks">
    <h2>{{ view.phase === 'before' ? 'Before it comes' : 'Now that it is over' }}</h2>
    <ol>
      <li v-for="task in view.tasks" :key="task.key" :class="{ done: task.is_done }">
        <label class="tick">
          <input
            type="checkbox"
            :checked="task.is_done"
            :data-test="`task-${task.key}`"
            @change="tick(task, ($event.target as HTMLInputElement).checked)"
          />
          <span class="by figures" :class="{ late: task.is_late }"
            >{{ task.is_late ? 'late, ' : 'by ' }}{{ at(task.by, now) }}</span
          >
          <b>{{ task.title }}</b>
        </label>
        <p>
          {{ task.detail }} <span class="lesser">{{ task.basis }}.</span>
          <button
            v-if="task.key === 'after:learned' && view.lived && !task.is_done"
            type="button"
            data-test="write-outage"
            @click="write(task)"
          >
            Write it into the log
          </button>
        </p>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.tasks {
  margin-bottom: 12px;
}

h2 {
  margin: 0 0 2px;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
}

li {
  border-bottom: 1px solid var(--rule);
  padding: 3px 0;
}

.tick {
  display: grid;
  grid-template-columns: 24px 154px minmax(0, 1fr);
  align-items: center;
  min-height: 32px;
  cursor: pointer;
}

.tick input {
  width: 18px;
  height: 18px;
}

p button {
  min-height: 34px;
  padding: 0 14px;
  margin-left: 8px;
  border: 1px solid var(--slate);
  font-weight: 600;
}

.late {
  color: var(--wine);
  font-weight: 700;
}

p {
  margin: 0 0 2px 178px;
}

.done b {
  text-decoration: line-through;
}

@media (max-width: 640px) {
  .tick {
    grid-template-columns: 32px minmax(0, 1fr);
    min-height: 44px;
  }

  .tick b {
    grid-column: 2;
  }

  p {
    margin-left: 32px;
  }
}
</style>
