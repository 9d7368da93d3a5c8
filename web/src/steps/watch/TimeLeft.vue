<script setup lang="ts">
/** How long it lasts: Keep's hours across a dark room, Life's and Ease's beside them. */
import { computed } from 'vue'

import type { TierLeft, WatchView } from '@/api/client'
import ExplainedFigure from '@/figures/ExplainedFigure.vue'
import { hours } from '@/shared/format'

import { after, at, band, lasting, over, TIER_WORDS } from './words'

const props = defineProps<{ view: WatchView; old_h: number; now: string }>()
const [LIFE, KEEP, EASE] = [0, 1, 2] as const
const main = computed(() => props.view.left[KEEP])
const others = computed(() => [LIFE, EASE].map((place) => ({ place, tier: props.view.left[place] })))
/** Hours count from the beginning of a storm that is still to come. */
const from = computed(() => (props.view.phase === 'before' ? props.view.begun : props.view.now))
const age_h = computed(() => (props.view.phase === 'before' ? 0 : props.old_h))
const LEADS = {
  on: 'Keep lasts',
  before: 'Keep lasts, once it begins',
  quiet: 'Keep would last',
  after: 'If it fails again, Keep lasts',
} as const
const lead = computed(() => LEADS[props.view.phase])
const until = (tier: TierLeft) => at(after(from.value, tier.hours), props.now)
const byPlan = (place: number) => {
  const value = props.view.left_by_plan_h[place] ?? 0
  return value >= props.view.ahead_h - 0.01 ? over(props.view.ahead_h) : hours(value)
}
/** From here on the draw is told as different from the plan's. */
const isOtherUse = computed(() => Math.abs(props.view.use_factor - 1) >= 0.05)
</script>

<template>
  <section class="left" aria-label="Time left">
    <div v-if="main" class="main" data-test="left-keep">
      <span class="tier">{{ lead }}</span>
      <ExplainedFigure :figure="view.figure">
        <strong class="figures">{{ lasting(main, age_h) }}</strong>
      </ExplainedFigure>
      <span v-if="!main.is_beyond" class="until">until {{ until(main) }}</span>
      <span class="lesser">nine in ten: {{ band(main, view.ahead_h, age_h) }}</span>
    </div>
    <div
      v-for="{ place, tier } in others"
      :key="place"
      class="other"
      :data-test="`left-${tier?.tier ?? place}`"
    >
      <template v-if="tier">
        <span class="tier">{{ TIER_WORDS[tier.tier] }}</span>
        <strong class="figures">{{ lasting(tier, age_h) }}</strong>
        <span class="lesser">{{ band(tier, view.ahead_h, age_h) }}</span>
      </template>
    </div>
    <p class="use">
      Each tier dropped at its level{{ view.fuel_l == null ? '' : ', the generator as planned or decided' }}.
      <span v-if="isOtherUse" data-test="left-by-plan">
        At the draw of the last hours, {{ view.use_factor.toFixed(2) }} times the plan’s. At the plan’s draw
        Keep lasts {{ byPlan(KEEP) }}, Ease {{ byPlan(EASE) }}.</span
      >
    </p>
  </section>
</template>

<style scoped>
.left {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 0 34px;
  align-items: end;
  border-bottom: 1px solid var(--ink);
  padding-bottom: 6px;
  margin-bottom: 10px;
}

.main {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 14px;
}

.main strong {
  font-size: 58px;
  line-height: 1;
  font-weight: 700;
}

strong {
  word-spacing: -0.3em;
}

.main .tier,
.until {
  font-size: 20px;
  font-weight: 600;
}

.other {
  display: grid;
}

.other strong {
  font-size: 24px;
  line-height: 1.15;
}

.tier {
  font-weight: 600;
}

.use {
  grid-column: 1 / -1;
  margin: 4px 0 0;
}

@media (max-width: 640px) {
  .left {
    grid-template-columns: 1fr 1fr;
  }

  .main {
    grid-column: 1 / -1;
    display: grid;
  }

  .main strong {
    font-size: 60px;
  }
}
</style>
