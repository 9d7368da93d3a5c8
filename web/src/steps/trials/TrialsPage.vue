<script setup lang="ts">
/** The design against an outage from every hour of its weather year. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { calendarMoment, count, hours, percent, sharePercent, unbroken } from '@/shared/format'
import TabRow from '@/shared/TabRow.vue'

import AskedAnew from './AskedAnew.vue'
import CarriedMap from './CarriedMap.vue'
import EnduranceCurve from './EnduranceCurve.vue'
import FailureLadder from './FailureLadder.vue'
import KitsPanel from './kits/KitsPanel.vue'
import OffGridFacts from './OffGridFacts.vue'
import OffGridYear from './OffGridYear.vue'
import OneMoreTable from './OneMoreTable.vue'
import RecordPanel from './RecordPanel.vue'
import { useTrials } from './trials'
import { lengthText, type Whom } from './words'
import WorstStarts from './WorstStarts.vue'

const { document, isOffGrid } = storeToRefs(useDesign())
const store = useTrials()
const { trials, reach } = storeToRefs(store)
const YEAR = { key: 'year', title: 'The year' }
const OF_STARTS = [
  { key: 'map', title: 'By month' },
  { key: 'curve', title: 'How long it lasts' },
  { key: 'worst', title: 'Worst starts' },
  { key: 'failures', title: 'One thing wrong' },
  { key: 'more', title: 'One more of each' },
  { key: 'kits', title: 'Kit search' },
  { key: 'record', title: 'Past outages' },
] as const
const REACHES = [
  { value: 'week', title: 'Up to a week' },
  { value: 'month', title: 'Up to 30 days' },
]
const WHOM = [
  { value: 'keep', title: 'Life and Keep' },
  { value: 'life', title: 'Life alone' },
]
/** Without a grid there are no outages of it to write down. */
const parts = computed(() =>
  trials.value?.year ? [YEAR, ...OF_STARTS.filter((entry) => entry.key !== 'record')] : OF_STARTS,
)
const chosen = ref(isOffGrid.value ? 'year' : 'map')
const part = computed({
  get: () =>
    parts.value.some((entry) => entry.key === chosen.value) ? chosen.value : (parts.value[0]?.key ?? 'map'),
  set: (key) => (chosen.value = key),
})
const whom = ref<Whom>('keep')

const weather = computed(() => {
  const km = trials.value?.distance_km ?? 0
  return `${trials.value?.year_name ?? ''}, ${km ? `${count(km)} km away` : 'at the site'}`
})
const longest_h = computed(() => trials.value?.lengths_h.at(-1) ?? 0)
/** Beyond the longest outage nothing is known. */
const lasting = (time_h: number) =>
  time_h >= longest_h.value ? `over ${lengthText(longest_h.value)}` : hours(time_h)
</script>

<template>
  <div v-if="document" class="trials">
    <AskedAnew :answer="store" :has="trials !== null" :variant="reach" doing="Living through the year" />
    <template v-if="trials">
      <p class="verdict" data-test="verdict">
        {{ unbroken(part === 'year' && trials.year ? trials.year.verdict : trials.verdict) }}
      </p>
      <OffGridFacts v-if="part === 'year' && trials.year && trials.is_asked" :year="trials.year" />
      <dl v-else-if="trials.is_asked" class="facts" data-test="trial-facts">
        <div>
          <dt>Carried, {{ lengthText(trials.planned_h) }}, {{ count(trials.starts) }} starts</dt>
          <dd>
            <ExplainedFigure v-if="trials.figures.keep" :figure="trials.figures.keep"
              ><span data-test="share" :data-share="trials.keep_frac">{{
                sharePercent(trials.keep_frac)
              }}</span></ExplainedFigure
            >
            <span class="lesser">
              <ExplainedFigure v-if="trials.figures.life" :figure="trials.figures.life"
                >Life alone {{ sharePercent(trials.life_frac) }}</ExplainedFigure
              >
            </span>
          </dd>
        </div>
        <div>
          <dt>Half of the starts last</dt>
          <dd>
            <ExplainedFigure v-if="trials.figures.half" :figure="trials.figures.half">{{
              lasting(trials.half_last_h)
            }}</ExplainedFigure>
            <span class="lesser">
              <ExplainedFigure v-if="trials.figures.most" :figure="trials.figures.most"
                >{{ percent(trials.most_frac) }} last {{ lasting(trials.most_last_h) }}</ExplainedFigure
              >
            </span>
          </dd>
        </div>
        <div>
          <dt>Worst start</dt>
          <dd>
            <ExplainedFigure v-if="trials.figures.worst" :figure="trials.figures.worst">{{
              hours(trials.worst[0]?.carried_h ?? 0)
            }}</ExplainedFigure>
            <span class="lesser">{{ trials.worst[0] ? calendarMoment(trials.worst[0].start) : '' }}</span>
          </dd>
        </div>
        <div>
          <dt>Weather year</dt>
          <dd class="words" :title="trials.year_name">
            {{ trials.year_name }}
            <span class="lesser">{{
              trials.distance_km ? `${count(trials.distance_km)} km away` : 'at the site'
            }}</span>
          </dd>
        </div>
      </dl>
      <p v-if="document.outage.grid_back?.length && !isOffGrid" class="lesser" data-test="with-grid">
        In every outage lived here the grid is back at the hours of the Storm page, counted from its start.
      </p>
      <template v-if="trials.is_asked">
        <TabRow v-model="part" :parts="parts" label="Trials" />
        <div v-show="part === 'map' || part === 'curve'" class="choices">
          <ChoiceField
            label="Who is carried"
            :value="whom"
            :choices="WHOM"
            data-test="whom"
            @change="whom = $event as Whom"
          />
          <ChoiceField
            label="Lengths"
            :value="reach"
            :choices="REACHES"
            data-test="reach"
            @change="reach = $event as typeof reach"
          />
        </div>
        <OffGridYear v-if="part === 'year' && trials.year" :year="trials.year" :weather="weather" />
        <CarriedMap v-else-if="part === 'map'" :trials="trials" :whom="whom" />
        <EnduranceCurve v-else-if="part === 'curve'" :trials="trials" :whom="whom" />
        <WorstStarts v-else-if="part === 'worst'" :trials="trials" />
        <FailureLadder v-else-if="part === 'failures'" />
        <OneMoreTable v-else-if="part === 'more'" />
        <KitsPanel v-else-if="part === 'kits'" />
        <RecordPanel v-else />
      </template>
    </template>
  </div>
</template>

<style scoped>
.verdict {
  margin: 0 0 10px;
  max-width: 96ch;
}

.facts {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  margin-bottom: 8px;
}

.facts dd .lesser {
  white-space: normal;
}

.words {
  overflow-wrap: anywhere;
  font-family: var(--hk-text);
}

.choices {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 170px));
  gap: 12px;
  margin-bottom: 8px;
}
</style>
