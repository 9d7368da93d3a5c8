<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { computed } from 'vue'
import { RouterLink, useRoute } from 'vue-router'

import type { Finding } from '@/api/client'
import SeverityMark from '@/checks/SeverityMark.vue'
import { worst } from '@/checks/severity'
import { useDesign } from '@/design/store'
import { findingsOn, GROUPS, STEPS } from '@/steps/steps'

const route = useRoute()
const { document, assessment, id } = storeToRefs(useDesign())

const stateOf = (findings: readonly Finding[] | null) => findings && worst(findings)
const rows = computed(() =>
  STEPS.map((step) => ({
    ...step,
    live: document.value ? step.figure(document.value, assessment.value) : '–',
    isNext: assessment.value?.missing[0]?.step === step.name,
    state: stateOf(findingsOn(step, assessment.value)),
  })),
)
/** Groups that have a page. */
const groups = computed(() =>
  GROUPS.map((group) => ({ ...group, rows: rows.value.filter((row) => row.group === group.key) })).filter(
    (group) => group.rows.length,
  ),
)
</script>

<template>
  <nav class="rail" aria-label="Steps">
    <template v-for="group in groups" :key="group.key">
      <h2 class="group">{{ group.title }}</h2>
      <RouterLink
        v-for="row in group.rows"
        :key="row.name"
        :to="{ name: row.name, params: { id } }"
        class="step"
        :class="{ here: route.name === row.name }"
        :aria-current="route.name === row.name ? 'page' : undefined"
        :data-test="`rail-${row.name}`"
      >
        <SeverityMark v-if="row.state" :severity="row.state" />
        <i v-else class="open" title="Not asked yet" />
        <span class="title">{{ row.title }}</span>
        <span v-if="row.isNext" class="next" :title="`Next: ${assessment?.missing[0]?.what}`">next</span>
        <span v-else class="live figures">{{ row.live }}</span>
      </RouterLink>
    </template>
  </nav>
</template>

<style scoped>
.rail {
  background: var(--rail);
  border-right: 1px solid var(--rule);
  padding: 10px 0;
  overflow: hidden auto;
  scrollbar-width: thin;
}

.group {
  font-size: 12px;
  font-weight: 600;
  color: var(--slate);
  padding: 2px 16px 4px;
}

.step {
  display: flex;
  align-items: center;
  gap: 7px;
  padding: 3px 8px 3px 13px;
  border-left: 3px solid transparent;
  color: var(--ink);
  text-decoration: none;
}

.step:hover {
  background: var(--paper);
}

.here {
  background: var(--paper);
  border-left-color: var(--ember);
}

.open {
  width: 11px;
  height: 11px;
  border: 1px dashed var(--slate);
  border-radius: 50%;
}

/* A title on two lines would ask for the scroll bar that leaves it no room for one. */
.title {
  flex: 1;
  font-weight: 600;
  white-space: nowrap;
}

/* In the hand: keys for a thumb. */
@media (max-width: 640px) {
  .rail .step {
    min-height: 50px;
    padding: 5px 16px;
    font-size: 16px;
  }

  .rail .step .live {
    font-size: 14px;
  }
}

@media (min-width: 641px) and (max-width: 1150px) {
  .step {
    gap: 6px;
    padding: 3px 6px 3px 9px;
  }

  .step .live {
    font-size: 11px;
    letter-spacing: -0.3px;
  }
}

.next {
  margin-left: auto;
  padding: 0 6px;
  border: 1px solid var(--pine);
  color: var(--pine);
  font-size: 12.5px;
  font-weight: 700;
}

.live {
  font-size: 12px;
  color: var(--slate);
  white-space: nowrap;
}
</style>
