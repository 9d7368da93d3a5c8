<script setup lang="ts">
/** The weather year of the site: the made-up one, or one stored from an EPW or TMY3 file and shared between designs. */
import { storeToRefs } from 'pinia'
import { computed, onMounted, ref, shallowRef, useTemplateRef } from 'vue'

import { api, outcome, type WeatherInfo, refusal, SILENT } from '@/api/client'
import { useDesign } from '@/design/store'
import { LONGEST_NAME } from '@/fields/limits'

const store = useDesign()
const { document } = storeToRefs(store)
const MOST_BYTES = 12_000_000
const years = shallowRef<WeatherInfo[]>([])
const trouble = ref('')
const note = ref('')
const picker = useTemplateRef('picker')
const chosen = computed(() => document.value?.site.weather_year ?? null)
const isStored = computed(() => years.value.some((year) => year.key === chosen.value))
const fromYear = computed(() => document.value?.outage.sky_from === 'year')

async function list(): Promise<void> {
  const answer = await outcome(api.GET('/api/weather-years'))
  if (answer.kind === 'answer') years.value = answer.value
}
onMounted(list)

async function open(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  trouble.value = note.value = ''
  if (file.size > MOST_BYTES) {
    trouble.value = `${file.name} holds ${file.size.toLocaleString('en-US')} bytes; at most 12,000,000 are read.`
    return
  }
  const answer = await outcome(
    api.POST('/api/weather-years', {
      params: { query: { name: file.name.slice(0, LONGEST_NAME) } },
      body: file as unknown as string,
      bodySerializer: (body) => body as unknown as BodyInit,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
  if (answer.kind !== 'answer') {
    trouble.value = answer.kind === 'refused' ? `${file.name}. ${refusal(answer.problem)}` : SILENT
    return
  }
  note.value = `${answer.value.name} is stored.`
  await list()
  store.set('site.weather_year', answer.value.key)
}

function remove(): void {
  store.set('site.weather_year', null)
  note.value = 'The design takes the made-up year again; the stored one stays for other designs.'
}

/** Out of the store, for all designs; refused while one uses it. */
async function discard(year: WeatherInfo): Promise<void> {
  trouble.value = note.value = ''
  const answer = await outcome(
    api.DELETE('/api/weather-years/{key}', { params: { path: { key: year.key } } }),
  )
  if (answer.kind === 'answer') note.value = `${year.name} was taken out.`
  else trouble.value = answer.kind === 'refused' ? refusal(answer.problem) : SILENT
  await list()
}

function placed(year: WeatherInfo): string {
  return `${year.name} (${year.latitude_deg.toFixed(1)}°, ${year.longitude_deg.toFixed(1)}°)`
}
</script>

<template>
  <div v-if="document" class="weather">
    <div class="line">
      <label for="weather-year">Weather year</label>
      <select
        id="weather-year"
        :value="chosen ?? ''"
        data-test="weather-year"
        @change="store.set('site.weather_year', ($event.target as HTMLSelectElement).value || null)"
      >
        <option value="">Made up, snowy winters, this site’s sun</option>
        <option v-if="chosen && !isStored" :value="chosen">not stored here</option>
        <option v-for="year in years" :key="year.key" :value="year.key">{{ placed(year) }}</option>
      </select>
      <button type="button" class="tool" @click="picker?.click()">Load EPW or TMY3</button>
      <button v-if="chosen" type="button" class="tool" @click="remove">Back to made up</button>
      <input
        ref="picker"
        class="visually-hidden"
        type="file"
        accept=".epw,.csv,.tmy3,.txt"
        tabindex="-1"
        aria-label="Weather file"
        data-test="weather-file"
        @change="open"
      />
    </div>
    <label class="from">
      <input
        type="checkbox"
        :checked="fromYear"
        data-test="sky-from-year"
        @change="store.set('outage.sky_from', fromYear ? 'by_hand' : 'year')"
      />
      The outage takes its skies, air and wind from this year, on its own dates
    </label>
    <details v-if="years.length" data-test="stored-years">
      <summary>Stored years, shared between designs: {{ years.length }}</summary>
      <p v-for="year in years" :key="year.key" class="stored">
        {{ placed(year) }}
        <span class="lesser figures">{{ year.level_kwh_m2_day.toFixed(2) }} kWh/m² a day on the level</span>
        <a
          class="tool"
          :href="`/api/weather-years/${encodeURIComponent(year.key)}/year.epw`"
          :aria-label="`Save ${year.name} as EPW`"
          download
          >Save as EPW</a
        >
        <button type="button" class="out" :aria-label="`Delete ${year.name}`" @click="discard(year)">
          Delete
        </button>
      </p>
    </details>
    <p v-if="trouble" class="trouble" role="alert" data-test="weather-trouble">{{ trouble }}</p>
    <p v-if="note" role="status">{{ note }}</p>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  gap: 12px;
  align-items: baseline;
}

select {
  flex: 1;
  min-width: 0;
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  padding: 4px 6px;
}

.line label {
  color: var(--slate);
  font-size: 13px;
}

.tool {
  color: var(--pine);
  font-weight: 700;
  text-decoration: none;
  white-space: nowrap;
}

.tool:hover {
  text-decoration: underline;
}

.from {
  display: flex;
  gap: 7px;
  align-items: center;
  margin: 8px 0;
}

.from input {
  accent-color: var(--pine);
  width: 15px;
  height: 15px;
}

summary {
  cursor: pointer;
  font-size: 13.5px;
}

.stored {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin: 3px 0 3px 16px;
}

.out,
.trouble {
  color: var(--wine);
}

p {
  margin: 4px 0;
}
</style>
