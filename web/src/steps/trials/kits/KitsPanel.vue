<script setup lang="ts">
/** Kit search: ranges of the library's parts tried over the weather year, price against share carried. */
import { storeToRefs } from 'pinia'
import { computed, onScopeDispose, ref, watch } from 'vue'

import { api, outcome, type KitSearch } from '@/api/client'
import { useDesign } from '@/design/store'
import ChoiceField from '@/fields/ChoiceField.vue'
import { count, hours, percent, savedAt, waitText } from '@/shared/format'
import WideTable from '@/shared/WideTable.vue'

import KitForm from './KitForm.vue'
import KitPicture from './KitPicture.vue'
import { useKits } from './kits'
import { kitNote, shareText } from './words'

const { id, revision } = storeToRefs(useDesign())
const store = useKits()
const { ranges, searches, found, beside, trouble } = storeToRefs(store)
const held = ref<number | null>(null)
const made = ref<{ id: string; name: string } | null>(null)
void store.open()
watch(id, () => void store.open())
watch(
  () => found.value?.search.id,
  () => {
    held.value = null
    made.value = null
  },
)
onScopeDispose(store.leave)

const search = computed(() => found.value?.search ?? null)
const report = computed(() => found.value?.report ?? null)
/** The engine's own word, or the design has been edited since. */
const isStale = computed(
  () => search.value !== null && (search.value.is_stale || search.value.revision !== revision.value),
)
const progress = computed(() => {
  const now = search.value
  if (!now) return ''
  const done = `${count(now.done)} of ${count(now.total)} kits`
  if (now.fault) return `${done}: ${now.fault}`
  if (!now.is_live) return now.cancelled ? `Cancelled after ${done}.` : ''
  return now.remaining_s == null
    ? `${done}; waiting for a worker`
    : `${done}; ${waitText(now.remaining_s)} left`
})
const cheapest = computed(
  () => report.value?.kits.find((entry) => entry.kit.number === report.value?.cheapest) ?? null,
)
const chosen = computed(
  () => report.value?.kits.find((entry) => entry.kit.number === held.value) ?? cheapest.value,
)
const front = computed(() => report.value?.kits.filter((entry) => entry.is_on_front) ?? [])
const verdict = computed(() => {
  const { target, meeting } = report.value ?? {}
  if (!target || !report.value?.kits.length) return ''
  const whom = target.lowest_tier === 'life' ? 'Life' : 'Life and Keep'
  const aim = `${whom} for ${hours(target.hours_h)} from ${percent(target.share_frac)} of the year’s hours`
  if (!cheapest.value)
    return search.value?.is_live
      ? `None so far carries ${aim}.`
      : `No kit that the checks let pass carries ${aim}.`
  return `${count(meeting ?? 0)} of ${count(report.value.kits.length)} kits carry ${aim}; the cheapest costs ${count(cheapest.value.kit.price)}.`
})

const named = (entry: KitSearch) =>
  `${savedAt(entry.asked_at)}, ${count(entry.done)} kits${entry.is_stale ? ', older' : ''}`
const kept = computed(() => searches.value.map((entry) => ({ value: entry.id, title: named(entry) })))
const others = computed(() => [
  { value: '', title: 'none' },
  ...kept.value.filter((entry) => entry.value !== search.value?.id),
])

async function make(number: number): Promise<void> {
  if (!search.value) return
  made.value = await store.answered(
    outcome(
      api.POST('/api/kit-searches/{search_id}/kits/{number}', {
        params: { path: { search_id: search.value.id, number } },
      }),
    ),
  )
}
</script>

<template>
  <div>
    <KitForm />
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <template v-if="ranges && search && report">
      <div v-if="progress" class="progress" role="status" data-test="kit-progress">
        <progress :value="search.done" :max="search.total" :aria-label="progress" />
        <span>{{ progress }}</span>
        <button v-if="search.is_live" type="button" data-test="cancel-search" @click="store.cancel()">
          Cancel
        </button>
      </div>
      <p v-if="isStale" class="old" data-test="kits-old">
        Of revision {{ search.revision }} of the design, which has moved on{{
          search.is_live ? '' : '; try the kits again for the newest'
        }}.
      </p>
      <p v-if="verdict" class="verdict" data-test="kit-verdict">{{ verdict }}</p>
      <KitPicture
        v-if="report.kits.length"
        v-model="held"
        :report="report"
        :beside="beside?.report ?? null"
      />
      <div v-if="chosen" class="chosen" data-test="kit-chosen">
        <div>
          <b>{{ chosen.kit.titles.join(', ') }}</b>
          <span class="lesser"
            >{{ held === null ? 'The cheapest that does: ' : '' }}{{ count(chosen.kit.price) }}, carried from
            {{ shareText(chosen.kit.share_frac) }}, {{ hours(chosen.kit.carried_h) }} of the planned outage;
            {{ kitNote(chosen) }}</span
          >
        </div>
        <button
          v-if="!chosen.kit.fault"
          type="button"
          data-test="make-design"
          @click="make(chosen.kit.number)"
        >
          Make a design of it
        </button>
      </div>
      <p v-if="made" role="status" data-test="kit-made">
        Made: <router-link :to="{ name: 'bank', params: { id: made.id } }">{{ made.name }}</router-link>
      </p>
      <WideTable v-if="front.length" label="Kits that no other beats">
        <table class="ledger" data-test="kit-front">
          <thead>
            <tr>
              <th scope="col">No other carries as much for less</th>
              <th scope="col" class="number">Price</th>
              <th scope="col" class="number">Carried</th>
              <th scope="col" class="number">Life alone</th>
              <th scope="col" class="number">Planned outage</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="entry in front" :key="entry.kit.number" :class="{ short: !entry.meets_target }">
              <td class="title">
                <button
                  type="button"
                  :aria-pressed="held === entry.kit.number"
                  @click="held = entry.kit.number"
                >
                  {{ entry.kit.titles.join(', ') }}
                </button>
              </td>
              <td class="number">{{ count(entry.kit.price) }}</td>
              <td class="number">{{ shareText(entry.kit.share_frac) }}</td>
              <td class="number">{{ shareText(entry.kit.life_frac) }}</td>
              <td class="number">{{ hours(entry.kit.carried_h) }}</td>
            </tr>
          </tbody>
        </table>
      </WideTable>
      <p class="lesser">
        Prices are of what is varied; the rest of the design is the same in every kit. A kit is stopped for
        what the checks stop it for and not the design as it stands, and for loads that it leaves dead.
        <template v-if="report.faulty">{{ count(report.faulty) }} could not be worked out.</template>
      </p>
      <div v-if="searches.length > 1 || search" class="searches">
        <ChoiceField
          label="Search"
          :value="search.id"
          :choices="kept"
          data-test="kept-searches"
          @change="store.show($event)"
        />
        <ChoiceField
          v-if="searches.length > 1"
          label="Beside it"
          :value="beside?.search.id ?? ''"
          :choices="others"
          data-test="beside"
          @change="store.compare($event)"
        />
        <button v-if="!search.is_live" type="button" data-test="forget-search" @click="store.forget()">
          Forget this search
        </button>
      </div>
    </template>
  </div>
</template>

<style scoped>
p {
  margin: 4px 0;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}

.old {
  color: var(--wine);
}

.progress {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 4px;
}

progress {
  width: 180px;
  height: 8px;
  accent-color: var(--pine);
}

.progress button,
.chosen button,
.searches button {
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
  white-space: nowrap;
}

.chosen {
  display: flex;
  gap: 16px;
  align-items: center;
  justify-content: space-between;
  margin: 8px 0;
  padding: 6px 8px;
  background: var(--sheet);
  border-left: 3px solid var(--pine);
}

.chosen b {
  display: block;
  overflow-wrap: anywhere;
}

.title {
  min-width: 200px;
}

.title button {
  text-align: left;
  overflow-wrap: anywhere;
}

.title button:hover {
  text-decoration: underline;
}

.title button[aria-pressed='true'] {
  font-weight: 700;
}

.short td {
  color: var(--slate);
}

.searches {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: end;
  margin-top: 10px;
}

.searches > :not(button) {
  width: 240px;
}

.searches button {
  height: 32px;
}
</style>
