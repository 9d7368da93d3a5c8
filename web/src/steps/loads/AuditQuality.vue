<script setup lang="ts">
/** How much of the day's energy rests on what kind of reading. */
import { computed } from 'vue'

import type { Assessment } from '@/api/client'
import { count, percent } from '@/shared/format'

const props = defineProps<{ assessment: Assessment; nextName: string }>()
const PARTS = [
  { key: 'measured', title: 'measured =' },
  { key: 'label', title: 'label ø' },
  { key: 'nameplate', title: 'nameplate ≤' },
  { key: 'guess', title: 'guessed ≈' },
] as const
const parts = computed(() =>
  PARTS.map((part) => {
    const energy_wh = props.assessment.loads.daily_by_quality_wh[part.key] ?? 0
    return { ...part, energy_wh, share: energy_wh / Math.max(props.assessment.loads.daily_wh, 1e-9) }
  }),
)
</script>

<template>
  <section class="quality" data-test="audit-quality">
    <div class="bar" aria-hidden="true">
      <i v-for="part in parts" :key="part.key" :class="part.key" :style="{ flexGrow: part.share }" />
    </div>
    <p>
      <template v-for="part in parts" :key="part.key">
        <span v-if="part.energy_wh > 0" class="part" :title="`${count(part.energy_wh)} Wh a day`">
          <i :class="part.key" />{{ percent(part.share) }} {{ part.title }}
        </span>
      </template>
      <span v-if="nextName" class="lesser">Worth measuring next: {{ nextName }}</span>
    </p>
  </section>
</template>

<style scoped>
.quality {
  margin-top: 10px;
}

.bar {
  display: flex;
  height: 7px;
  gap: 1px;
}

.bar i {
  flex-basis: 0;
}

.part {
  margin-right: 14px;
}

.part i {
  display: inline-block;
  width: 9px;
  height: 9px;
  margin-right: 5px;
}

.measured {
  background: var(--pine);
}

.label {
  background: var(--slate);
}

.nameplate {
  background: var(--umber);
}

/* Guesses are hatched: not by colour alone. */
.guess {
  background: repeating-linear-gradient(135deg, var(--sun) 0 3px, var(--idle) 3px 6px);
}

p {
  margin: 3px 0 0;
  font-size: 13px;
}
</style>
