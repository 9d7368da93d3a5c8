<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { Finding, Remedy } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'

import { unbroken } from '@/shared/format'

import SeverityMark from './SeverityMark.vue'
import { byWeight, WORDS } from './severity'

const props = defineProps<{ findings: readonly Finding[] }>()
const store = useDesign()
const { problems } = storeToRefs(store)

const sorted = computed(() => byWeight(props.findings))

/** Nothing in it takes the focus: it is then scrolled by keys as it stands. */
const isRead = computed(() => !props.findings.some((finding) => finding.figure || finding.remedy))

function tryIt(remedy: Remedy): void {
  store.setAll(remedy.changes)
}
</script>

<template>
  <aside class="checks" aria-label="Checks on this page" :tabindex="isRead ? 0 : undefined">
    <h2>Checks on this page</h2>
    <article v-for="problem in problems" :key="problem.field" class="finding stop" data-test="problem">
      <h3>Cannot be used: {{ problem.field }}</h3>
      <p>
        {{ problem.value }} was entered; it {{ problem.accepted }}. The strip shows the last usable state.
      </p>
    </article>
    <article
      v-for="finding in sorted"
      :key="finding.code + finding.title"
      class="finding"
      :class="finding.severity"
      :data-test="`finding-${finding.code}`"
    >
      <h3>
        <SeverityMark :severity="finding.severity" /> <span class="word">{{ WORDS[finding.severity] }}.</span>
        {{ unbroken(finding.title) }}
      </h3>
      <p>
        {{ unbroken(finding.message) }}
        <ExplainedFigure v-if="finding.figure" :figure="finding.figure">The working</ExplainedFigure>
        {{ finding.figure && finding.remedy ? ' · ' : '' }}
        <button v-if="finding.remedy" type="button" class="try" @click="tryIt(finding.remedy)">
          {{ finding.remedy.label }}
        </button>
      </p>
      <p class="basis">{{ finding.basis }}</p>
    </article>
    <p v-if="!findings.length && !problems.length" class="lesser">Nothing to say about this page.</p>
  </aside>
</template>

<style scoped>
.checks {
  padding: 14px 14px 14px 16px;
  overflow-y: auto;
  border-left: 1px solid var(--rule);
}

.checks h2 {
  margin-bottom: 8px;
}

.finding {
  border-left: 3px solid var(--slate);
  padding: 0 0 0 11px;
  margin-bottom: 15px;
}

.finding.stop {
  border-left-color: var(--wine);
}

.finding.mend {
  border-left-color: var(--ember);
}

.finding.mind {
  border-left-color: var(--sun);
}

.finding.good {
  border-left-color: var(--pine);
}

h3 {
  font-size: 14px;
  font-weight: 700;
  line-height: 1.3;
  overflow-wrap: anywhere;
}

.word {
  font-weight: 600;
  color: var(--slate);
}

p {
  margin: 2px 0 0;
  overflow-wrap: anywhere;
}

.basis {
  font-size: 12px;
  color: var(--slate);
}

.try {
  color: var(--pine);
  font-weight: 700;
  text-align: left;
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
