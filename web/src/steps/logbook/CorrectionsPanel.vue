<script setup lang="ts">
/** What the readings say of the plan: cards of before, after and hours. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import { api, outcome, type Calibration } from '@/api/client'
import { useAnswer } from '@/api/useAnswer'
import { useDesign } from '@/design/store'

import { useBuild } from '../build/build'
import CorrectionCards from '../build/CorrectionCards.vue'

const { document } = storeToRefs(useDesign())
const { current, kept } = storeToRefs(useBuild())
const { value: found, trouble } = useAnswer<Calibration>({
  ask: () =>
    document.value && current.value
      ? outcome(
          api.POST('/api/log-corrections', {
            body: { design: document.value, installation_id: current.value.id },
          }),
        )
      : null,
  on: [document, current, kept],
  wait: 400,
})
const open = computed(() => found.value?.corrections.filter((each) => !each.is_confirmed) ?? [])
const confirmed = computed(() => found.value?.corrections.filter((each) => each.is_confirmed) ?? [])
</script>

<template>
  <p v-if="!current" class="lesser">Begin the record of an installation on Build to gather readings.</p>
  <div v-else>
    <p class="lesser">
      Doubts are half-widths in which the true value lies in 99 of 100. Nothing is put into the design unless
      you do.
    </p>
    <p v-if="trouble" class="bad" role="alert">{{ trouble }}</p>
    <p v-else-if="!found" class="lesser">Working out what the readings say</p>
    <template v-if="found">
      <h2 v-if="open.length">Otherwise than the design has it</h2>
      <CorrectionCards :corrections="open" />
      <h2 v-if="confirmed.length">As the design has it</h2>
      <CorrectionCards :corrections="confirmed" />
      <h2 v-if="found.missing.length">Not said yet</h2>
      <ul v-if="found.missing.length" data-test="not-said">
        <li v-for="line in found.missing" :key="line">{{ line }}</li>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.bad {
  color: var(--wine);
}

ul {
  margin: 0;
  padding-left: 18px;
}
</style>
