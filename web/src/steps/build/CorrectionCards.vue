<script setup lang="ts">
/** What measuring asks to be changed in the design: before, after and hours, taken only when asked. */
import type { Correction } from '@/api/client'
import { useDesign } from '@/design/store'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { hours, hoursChange, worked } from '@/shared/format'
import TakeButton from '@/shared/TakeButton.vue'

defineProps<{ corrections: readonly Correction[] }>()
const store = useDesign()
</script>

<template>
  <div v-if="corrections.length" class="cards">
    <article v-for="card in corrections" :key="card.key" class="card" :data-test="`correction-${card.key}`">
      <h3>{{ card.title }}</h3>
      <dl>
        <div>
          <dt>In the design</dt>
          <dd class="figures">{{ worked(card.before) }} {{ card.unit }}</dd>
        </div>
        <div>
          <dt>Measured</dt>
          <dd class="figures">
            <ExplainedFigure :figure="card.figure"
              >{{ worked(card.after) }} ± {{ worked(card.doubt) }} {{ card.unit }}</ExplainedFigure
            >
          </dd>
        </div>
        <div>
          <dt>Hours carried</dt>
          <dd class="figures">
            {{ hours(card.hours_after_h) }}
            <span class="lesser">{{ hoursChange(card.hours_after_h - card.hours_before_h) }}</span>
          </dd>
        </div>
      </dl>
      <p v-if="card.is_confirmed" class="lesser">
        As the design has it, within the doubt: nothing to change.
      </p>
      <TakeButton
        v-else
        label="Put it into the design"
        :change_h="card.hours_after_h - card.hours_before_h"
        data-test="take-correction"
        @take="store.setAll(card.changes)"
      />
    </article>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 300px), 1fr));
  gap: 12px 20px;
  margin: 10px 0;
}

.card {
  border-top: 2px solid var(--pine);
  padding: 6px 0;
}

h3 {
  font-size: 14px;
}

dl {
  display: grid;
  gap: 2px;
  margin: 4px 0 6px;
}

dl > div {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  border-bottom: 1px solid var(--rule);
}

dt {
  color: var(--slate);
  font-size: 13px;
}
</style>
