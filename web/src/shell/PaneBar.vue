<script setup lang="ts">
/** On a phone: which pane is shown. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import SeverityMark from '@/checks/SeverityMark.vue'
import { worst } from '@/checks/severity'
import { useDesign } from '@/design/store'
import { findingsOn, type StepInfo } from '@/steps/steps'

import type { Pane } from './usePanes'

const props = defineProps<{ step: StepInfo }>()
const pane = defineModel<Pane>({ required: true })
const { assessment, problems } = storeToRefs(useDesign())
const findings = computed(() => findingsOn(props.step, assessment.value) ?? [])
const panes = computed(() => [
  { key: 'steps' as const, title: 'Steps' },
  { key: 'page' as const, title: props.step.title },
  { key: 'checks' as const, title: `Checks ${findings.value.length + problems.value.length}` },
  { key: 'outage' as const, title: 'Outage' },
])
</script>

<template>
  <nav class="panes" aria-label="Panes">
    <button
      v-for="entry in panes"
      :key="entry.key"
      type="button"
      :aria-pressed="pane === entry.key"
      :data-test="`pane-${entry.key}`"
      @click="pane = entry.key"
    >
      <SeverityMark v-if="entry.key === 'checks'" :severity="problems.length ? 'stop' : worst(findings)" />
      {{ entry.title }}
    </button>
  </nav>
</template>

<style scoped>
.panes {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  flex: none;
  background: var(--rail);
  border-top: 1px solid var(--ink);
}

button {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 6px;
  min-height: 48px;
  padding: 0 4px;
  font-weight: 600;
  border-top: 3px solid transparent;
}

[aria-pressed='true'] {
  background: var(--paper);
  border-top-color: var(--ember);
}
</style>
