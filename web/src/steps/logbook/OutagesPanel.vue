<script setup lang="ts">
/** Outages lived through: written down, and replayed beside what the model says of them. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId } from 'vue'

import { api, outcome, type Replay } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import AxisChart from '@/charts/AxisChart.vue'
import { useDesign } from '@/design/store'
import FieldFrame from '@/fields/FieldFrame.vue'
import QuantityField from '@/fields/QuantityField.vue'
import { amount, calendarMoment, dayAndTime, hours } from '@/shared/format'

import { useBuild } from '../build/build'
import { useLogbook } from './logbook'
import { useOutbox } from './outbox'

interface Lived {
  kind: 'outage'
  start: string
  hours_h: number
  dark_after_h: number | null
  note: string
}

const { document } = storeToRefs(useDesign())
const build = useBuild()
const outbox = useOutbox()
const { current } = storeToRefs(build)
const { entries } = storeToRefs(useLogbook())
const ids = { day: useId(), time: useId() }
const day = ref('')
const time = ref('')
const length = ref<number | null>(null)
const dark = ref<number | null>(null)
const chosen = ref('')
const lived = computed(() =>
  entries.value
    .filter((entry) => entry.kind === 'outage' && !entry.is_struck && !entry.trouble)
    .map((entry) => ({ id: entry.id, body: entry.body as unknown as Lived }))
    .reverse(),
)
const asked = computed(() => lived.value.find(({ id }) => id === chosen.value) ?? lived.value[0] ?? null)
const { value: found, trouble } = useAnswer<Replay>({
  ask: () =>
    document.value && current.value && asked.value
      ? outcome(
          api.POST('/api/log-replay', {
            body: { design: document.value, installation_id: current.value.id, outage: asked.value.body },
          }),
        )
      : null,
  on: [document, asked],
})
const canKeep = computed(() => Boolean(day.value && time.value && length.value && length.value > 0))

function keep(): void {
  if (!current.value || !canKeep.value) return
  outbox.put({
    installation_id: current.value.id,
    who: build.who,
    body: {
      kind: 'outage',
      start: `${day.value}T${time.value}:00`,
      hours_h: length.value,
      dark_after_h: dark.value,
      note: '',
    },
  })
  length.value = null
  dark.value = null
}

const series = computed(() => {
  if (!found.value) return []
  const model = found.value.model_soc_frac.map((value) => 100 * value)
  const read = found.value.read_soc_frac
  const first = read.findIndex((value) => value !== null)
  const hasRead = first >= 0
  return [
    {
      key: 'model',
      title: 'by the model',
      kind: 'line' as const,
      role: 'slate' as const,
      dash: '6 4',
      values: model,
    },
    ...(hasRead
      ? [
          {
            key: 'read',
            title: 'as read',
            kind: 'line' as const,
            role: 'ember' as const,
            // Before the first and after the last reading it stays where that was.
            values: read.map(
              (value, at) => 100 * (value ?? (at < first ? (read[first] ?? 0) : lastOf(read))),
            ),
          },
        ]
      : []),
  ]
})
const lastOf = (values: readonly (number | null)[]) =>
  [...values].reverse().find((value) => value !== null) ?? 0
const places = computed(() => found.value?.time_h.map((at) => dayAndTime(found.value?.start ?? '', at)) ?? [])
const ticks = computed(() => {
  const count = places.value.length
  return [0, 0.25, 0.5, 0.75, 1].map((part) => {
    const at = Math.round(part * (count - 1))
    return { at, label: places.value[at] ?? '' }
  })
})
</script>

<template>
  <p v-if="!current" class="lesser">Begin the record of an installation on Build to write outages down.</p>
  <div v-else>
    <div class="entry">
      <FieldFrame label="Began on" :for="ids.day">
        <input :id="ids.day" v-model="day" class="plain" type="date" data-test="outage-day" />
      </FieldFrame>
      <FieldFrame label="at, standard time" :for="ids.time">
        <input :id="ids.time" v-model="time" class="plain" type="time" data-test="outage-time" />
      </FieldFrame>
      <QuantityField
        label="Lasted"
        may-be-empty
        :value="length"
        unit="h"
        data-test="outage-hours"
        @change="length = $event"
      />
      <QuantityField
        label="House dark after"
        :value="dark"
        unit="h"
        empty-means="carried"
        data-test="outage-dark"
        @change="dark = $event"
      />
      <v-btn color="pine" :disabled="!canKeep" data-test="keep-outage" @click="keep">Write down</v-btn>
    </div>
    <p v-if="!lived.length" class="lesser">No outage is written down yet.</p>
    <ul v-else class="list">
      <li v-for="{ id, body } in lived" :key="id">
        <button
          type="button"
          :aria-pressed="asked?.id === id"
          :class="{ on: asked?.id === id }"
          @click="chosen = id"
        >
          {{ calendarMoment(body.start) }}, {{ amount(body.hours_h) }} h,
          {{ body.dark_after_h == null ? 'carried' : `dark after ${amount(body.dark_after_h)} h` }}
        </button>
      </li>
    </ul>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <section v-if="found && asked" aria-label="Replay" data-test="replay">
      <h2>Lived again in the model</h2>
      <p class="said">
        The model carries {{ hours(found.model_carried_h) }} of {{ hours(found.duration_h) }}; lived were
        {{ hours(found.lived_carried_h ?? 0) }}.
        <template v-if="found.apart_points != null">
          At the last reading the bank held {{ Math.abs(found.apart_points).toFixed(0) }} points
          {{ found.apart_points < 0 ? 'less' : 'more' }} than by the model.</template
        >
        <template v-else>No charge was read in those hours.</template>
      </p>
      <AxisChart
        label="Charge of the bank"
        :series="series"
        :places="places"
        :ticks="ticks"
        unit="%"
        :digits="1"
        :every="10"
        :far="20"
        :up-to="100"
      />
      <ul class="parts">
        <li v-for="part in found.parts" :key="part.what">
          <span class="figures"
            >{{ part.points < 0 ? '−' : '+' }}{{ Math.abs(part.points).toFixed(1) }} points</span
          >
          {{ part.said }}
        </li>
      </ul>
      <p class="lesser">
        Skies, day by day: {{ found.skies.join(', ')
        }}{{ found.skies_are_read ? ', as the sun read stands for them' : ', as the design has them' }}.
        {{ found.basis }}.
      </p>
    </section>
  </div>
</template>

<style scoped>
.entry {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 150px)) auto;
  gap: 12px;
  align-items: end;
  margin-bottom: 12px;
}

.plain {
  width: 100%;
  min-height: 32px;
  padding: 0 6px;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  font-size: 13px;
  color-scheme: light dark;
}

.list {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}

.list .on {
  font-weight: 700;
  border-left: 3px solid var(--ember);
  padding-left: 6px;
}

.said {
  font-weight: 600;
}

.parts {
  list-style: none;
  margin: 0;
  padding: 0;
}

.parts li {
  display: grid;
  grid-template-columns: 110px minmax(0, 1fr);
  gap: 10px;
}

.bad {
  color: var(--wine);
}

@media (max-width: 640px) {
  .entry {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
</style>
