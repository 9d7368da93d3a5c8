<script setup lang="ts">
/** Six rules of thumb on the design's own audit, the storm as referee. */
import { useDebounceFn } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'

import { api, outcome, refusal, SILENT, type KitColumn } from '@/api/client'
import { useDesign } from '@/design/store'
import { unbroken } from '@/shared/format'
import TabRow from '@/shared/TabRow.vue'

import HaveTable from './HaveTable.vue'
import MethodSheet from './MethodSheet.vue'
import MethodsTable from './MethodsTable.vue'
import { useKitShares, useOpinions, type KitName } from './opinions'

const PARTS = [
  { key: 'methods', title: 'Six methods' },
  { key: 'have', title: 'Have against need' },
] as const
/** After the last edit, how long until the opinions, and until the shares of the year, are asked for [ms]. */
const SOON_MS = 120
const REST_MS = 700

const { document, id } = storeToRefs(useDesign())
const store = useOpinions()
const { report, columns, isCurrent, trouble } = storeToRefs(store)
const kitShares = useKitShares()
const part = ref<string>('methods')
const method = ref('overnight')
const keeping = ref<KitName | null>(null)
const told = ref('')
const isKept = ref(false)
const opinion = computed(() => report.value?.opinions.find((one) => one.info.method === method.value) ?? null)
const WORD = { short: 'Short', right: 'Right', over: 'Over' } as const
const TIERS: Record<string, string> = { life: 'Life', keep: 'Keep', ease: 'Ease' }
const tiers = computed(() => (report.value?.tiers ?? []).map((tier) => TIERS[tier] ?? tier).join(' and '))

const askSoon = useDebounceFn(() => store.ask(), SOON_MS)
const askShares = useDebounceFn(() => kitShares.ask(columns.value.map((column) => column.kit)), REST_MS)
watch(document, () => {
  kitShares.leave()
  void askSoon()
})
watch([isCurrent, columns], () => isCurrent.value && void askShares())
void store.ask()
if (isCurrent.value) void askShares()
onBeforeUnmount(() => kitShares.leave())

/** Keep the design with a kit as an alternative. */
async function keep(column: KitColumn): Promise<void> {
  const body = document.value
  if (!body) return
  keeping.value = column.kit
  isKept.value = false
  const made = await outcome(
    api.POST('/api/opinions/design', { params: { query: { kit: column.kit } }, body }),
  )
  const kept =
    made.kind === 'answer'
      ? await outcome(
          api.POST('/api/designs/{design_id}/alternatives/of-document', {
            params: { path: { design_id: id.value }, query: { label: column.title } },
            body: made.value,
          }),
        )
      : made
  keeping.value = null
  isKept.value = kept.kind === 'answer'
  told.value =
    kept.kind === 'answer'
      ? `“${column.title}” is kept as an alternative.`
      : kept.kind === 'refused'
        ? refusal(kept.problem)
        : SILENT
}
</script>

<template>
  <div v-if="document" class="opinions">
    <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
    <template v-if="report">
      <p v-if="!report.is_asked" class="lesser" data-test="nothing-asked">
        The rules of thumb begin with the audit: enter loads on the page Loads first.
      </p>
      <template v-else>
        <p class="lesser intro">
          Each rule takes the same audit ({{ tiers }}, as the need on the page Bank has it) and buys the next
          size sold; the planned outage is lived with each kit. Choose a method for its sheet.
        </p>
        <p v-if="told" role="status" class="told" data-test="kept">
          {{ told }}
          <RouterLink v-if="isKept" :to="{ name: 'side-by-side', params: { id } }"
            >Lay them side by side</RouterLink
          >
        </p>
        <TabRow v-model="part" :parts="PARTS" label="Opinions" />
        <template v-if="part === 'methods'">
          <MethodsTable v-model="method" :keeping="keeping" @keep="keep" />
          <p class="lesser note">
            Hatched and in brackets: with an inverter that holds its loads and their starts. Price: units
            alone, by their data sheets; where those name none, by what such a size usually costs. Life:
            giving each year what the bank is meant to give by its page, however deep that goes.
          </p>
          <p v-if="kitShares.trouble" class="lesser" role="alert">{{ kitShares.trouble }}</p>
          <h2>What the storm says</h2>
          <dl class="said" data-test="said">
            <div
              v-for="one in report.opinions"
              :key="one.info.method"
              :class="{ chosen: one.info.method === method }"
            >
              <dt>
                <button
                  type="button"
                  :aria-pressed="one.info.method === method"
                  @click="method = one.info.method"
                >
                  {{ one.info.title }}
                </button>
              </dt>
              <dd :class="one.blame.verdict" :data-test="`said-${one.info.method}`">
                <b>{{ WORD[one.blame.verdict] }}.</b> {{ unbroken(one.blame.sentence) }}
              </dd>
            </div>
          </dl>
          <MethodSheet v-if="opinion" :key="opinion.info.method" :opinion="opinion" />
        </template>
        <HaveTable v-else :have="report.have" />
      </template>
    </template>
  </div>
</template>

<style scoped>
.intro,
.note {
  max-width: 96ch;
  margin: 0 0 8px;
}

.note {
  margin: 6px 0 0;
}

h2 {
  margin: 16px 0 4px;
}

.said {
  margin: 0;
}

.said > div {
  display: grid;
  grid-template-columns: 132px minmax(0, 1fr);
  gap: 10px;
  padding: 4px 6px;
  border-top: 1px solid var(--rule);
}

.said dd {
  margin: 0;
  max-width: 92ch;
}

.said button {
  text-align: left;
  font-weight: 700;
  color: var(--pine);
  text-decoration: underline;
  text-underline-offset: 2px;
}

.chosen {
  background: var(--sheet);
}

.said .chosen button {
  color: var(--ink);
  text-decoration: none;
}

.short b,
.over b {
  color: var(--wine);
}

.right b {
  color: var(--pine);
}

@media (max-width: 640px) {
  .said > div {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
}

.told {
  margin: 0 0 8px;
  font-weight: 600;
}

.trouble {
  color: var(--wine);
}
</style>
