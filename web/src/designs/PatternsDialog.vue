<script setup lang="ts">
/** Invented whole designs to start from, each with what it carries as it is. */
import { onMounted, ref, shallowRef } from 'vue'

import { api, outcome, refusal, SILENT, type StartOffered } from '@/api/client'
import { count, hours, kilowattHours } from '@/shared/format'

const emit = defineEmits<{ begin: [start: StartOffered['start']]; close: [] }>()
const offered = shallowRef<StartOffered[]>([])
const trouble = ref('')

onMounted(async () => {
  const answer = await outcome(api.GET('/api/starting-points', {}))
  if (answer.kind === 'answer') offered.value = answer.value.filter((point) => !point.is_empty)
  else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
})

function open(figures: NonNullable<StartOffered['figures']>): string {
  const parts = [
    figures.stops ? `${count(figures.stops)} stop` : '',
    figures.mends ? `${count(figures.mends)} mend` : '',
  ].filter(Boolean)
  return parts.join(', ') || 'none open'
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="980"
    scrollable
    aria-labelledby="patterns-title"
    @update:model-value="emit('close')"
  >
    <v-sheet class="sheet" color="sheet" data-test="patterns">
      <h2 id="patterns-title">Start from a pattern</h2>
      <p class="lesser">
        Whole designs, all invented: each carries its own loads through its own outage as it stands. Change
        anything; set the place first.
      </p>
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <p v-else-if="!offered.length" class="lesser" role="status">Working them out …</p>
      <div v-else class="rows" tabindex="0" role="region" aria-label="Patterns">
        <table class="ledger">
          <thead>
            <tr>
              <th scope="col">Pattern</th>
              <th scope="col" class="number">Carried</th>
              <th scope="col" class="number">A day</th>
              <th scope="col" class="number">Bank</th>
              <th scope="col">Checks</th>
              <th scope="col"><span class="visually-hidden">Begin</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="point in offered" :key="point.start">
              <td class="what">
                <b>{{ point.title }}</b>
                <span class="lesser">{{ point.meaning }}</span>
              </td>
              <template v-if="point.figures">
                <td class="number">
                  {{ hours(point.figures.hours_carried_h) }} of {{ hours(point.figures.duration_h) }}
                </td>
                <td class="number">{{ kilowattHours(point.figures.daily_wh) }}</td>
                <td class="number">{{ kilowattHours(point.figures.bank_wh) }}</td>
                <td class="checks">{{ open(point.figures) }}</td>
              </template>
              <td v-else colspan="4"></td>
              <td class="act">
                <v-btn
                  size="small"
                  color="pine"
                  :aria-label="`Begin with ${point.title}`"
                  :data-test="`start-${point.start}`"
                  @click="emit('begin', point.start)"
                  >Begin</v-btn
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div class="actions">
        <v-btn variant="text" color="ink" @click="emit('close')">Leave it</v-btn>
      </div>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.sheet {
  display: flex;
  flex-direction: column;
  max-height: 88vh;
  padding: 16px 20px;
}

.rows {
  overflow: auto;
  margin: 8px 0;
}

td {
  padding-top: 5px;
  padding-bottom: 5px;
  vertical-align: top;
}

.what b,
.what span {
  display: block;
}

.checks {
  white-space: nowrap;
}

.act {
  text-align: right;
}

.trouble {
  color: var(--wine);
  font-weight: 700;
}

.actions {
  text-align: right;
}
</style>
