<script setup lang="ts">
/** Papers: ticked by whom they are for, looked at as printed, taken as PDF; and the design in open formats. */
import { storeToRefs } from 'pinia'
import { watch } from 'vue'

import { useDesign } from '@/design/store'
import { counted } from '@/shared/format'

import ContactsPanel from './ContactsPanel.vue'
import FormatsPanel from './FormatsPanel.vue'
import { usePapers } from './papers'
import PrintedPage from './PrintedPage.vue'

const { document, revision } = storeToRefs(useDesign())
const papers = usePapers()
const { kinds, wanted, shown, isBusy, isReady, pages, trouble } = storeToRefs(papers)
watch(document, () => papers.printSoon())
void papers.open()

function stateOf(run: (typeof shown.value)[number]['run']): string {
  if (!run) return ''
  if (run.state === 'done')
    return `${counted(run.pages.length, 'page')}${run.revision === revision.value ? '' : `, of revision ${run.revision}`}`
  if (run.state === 'waiting') return 'waiting'
  if (run.state === 'fetching') return 'fetching fonts, once…'
  if (run.state === 'printing') return run.laid_out ? `page ${run.laid_out}…` : 'working it out…'
  return run.state === 'cancelled' ? 'cancelled' : run.fault
}
const runOf = (audience: string) => shown.value.find(({ kind }) => kind.audience === audience)?.run ?? null
</script>

<template>
  <div v-if="document" class="papers">
    <section class="choice" aria-label="Which papers">
      <fieldset>
        <legend>Print for</legend>
        <div v-for="kind in kinds" :key="kind.audience" class="kind">
          <label>
            <input
              type="checkbox"
              :checked="wanted.includes(kind.audience)"
              :data-test="`paper-${kind.audience}`"
              @change="papers.tick(kind.audience, ($event.target as HTMLInputElement).checked)"
            />
            <b>{{ kind.title.replace('For the ', 'The ') }}</b>
            <span class="state figures" :data-test="`state-${kind.audience}`">{{
              stateOf(runOf(kind.audience))
            }}</span>
          </label>
          <p class="lesser">{{ kind.meaning }}</p>
        </div>
      </fieldset>
      <p v-if="trouble" class="trouble" role="alert">{{ trouble }}</p>
      <p class="actions">
        <template v-if="isBusy">
          <span role="status" data-test="printing">Printing: {{ counted(pages, 'page') }} ready.</span>
          <v-btn size="small" data-test="cancel-papers" @click="papers.cancel">Cancel</v-btn>
        </template>
        <template v-else-if="isReady">
          <v-btn
            variant="flat"
            color="pine"
            :href="papers.address('papers-as-pdf')"
            download="papers.pdf"
            data-test="as-pdf"
            >Save as one PDF</v-btn
          >
          <v-btn
            v-if="shown.length > 1"
            color="pine"
            :href="papers.address('papers-as-zip')"
            download="papers.zip"
            data-test="as-zip"
            >One PDF each</v-btn
          >
        </template>
        <v-btn v-else size="small" :disabled="!wanted.length" data-test="print-papers" @click="papers.print"
          >Print again</v-btn
        >
      </p>
      <ContactsPanel />
      <FormatsPanel />
    </section>
    <section class="desk" aria-label="Pages as printed">
      <p v-if="!shown.length" class="lesser">Tick whom to print for.</p>
      <template v-for="{ kind, run } in shown" :key="kind.audience">
        <h2 :id="`paper-${kind.audience}`">{{ kind.title }}</h2>
        <p v-if="!run?.pages.length" class="lesser">{{ stateOf(run) || 'waiting' }}</p>
        <PrintedPage
          v-for="(size, index) in run?.pages ?? []"
          :key="`${run?.id} ${index}`"
          :run-id="run?.id ?? ''"
          :number="index + 1"
          :of="run?.pages.length ?? 0"
          :title="kind.title"
          :size="size"
        />
      </template>
    </section>
  </div>
</template>

<style scoped>
.papers {
  display: grid;
  grid-template-columns: minmax(230px, 290px) minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}

fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}

legend {
  font-size: 15px;
  font-weight: 700;
  padding: 0;
}

.kind {
  border-bottom: 1px solid var(--rule);
  padding: 5px 0;
}

.kind label {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: center;
  cursor: pointer;
}

.kind p {
  margin: 0 0 0 21px;
  font-size: 13px;
  line-height: 1.3;
}

.state {
  margin-left: auto;
  font-size: 12.5px;
  color: var(--slate);
}

.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 10px 0 16px;
}

.trouble {
  color: var(--wine);
}

/* The desk on which the sheets lie, the same by day and by night, since paper is white. */
.desk {
  display: flex;
  flex-wrap: wrap;
  gap: 14px;
  align-items: flex-start;
}

.desk h2,
.desk p {
  flex: 0 0 100%;
  margin: 0;
}

@media (max-width: 760px) {
  .papers {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
