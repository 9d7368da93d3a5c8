<script setup lang="ts">
import { mdiWeatherNight, mdiWhiteBalanceSunny } from '@mdi/js'
import { ref } from 'vue'
import { RouterLink } from 'vue-router'

import HearthMark from './HearthMark.vue'
import KeysHelp from './KeysHelp.vue'
import { useNightTheme } from './useNightTheme'
import { useReadiness } from './useReadiness'

const { isNight, toggle } = useNightTheme()
const isWaiting = useReadiness()
const isHelpOpen = ref(false)
defineExpose({ openHelp: () => (isHelpOpen.value = true) })
</script>

<template>
  <header class="bar">
    <RouterLink to="/" class="home" title="All designs">
      <HearthMark />
      <strong class="word">Hearth Keep</strong>
    </RouterLink>
    <div class="middle"><slot /></div>
    <slot name="actions" />
    <v-btn
      class="plain"
      :icon="isNight ? mdiWhiteBalanceSunny : mdiWeatherNight"
      size="small"
      :aria-label="isNight ? 'Day theme' : 'Night theme'"
      :title="isNight ? 'Day theme' : 'Night theme'"
      @click="toggle"
    />
    <v-btn
      class="plain keys"
      size="small"
      min-width="28"
      aria-label="Keys"
      title="Keys ( ? )"
      @click="isHelpOpen = true"
      >?</v-btn
    >
    <KeysHelp v-model="isHelpOpen" />
  </header>
  <p v-if="isWaiting" class="waiting" role="status" data-test="not-ready">
    The model is being made ready; figures follow by themselves. On the first start it is compiled for this
    machine, which takes about half a minute.
  </p>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 8px;
  /* A long page below must not press it together. */
  flex: none;
  height: 44px;
  padding: 0 10px 0 14px;
  background: var(--bar);
  color: var(--bar-ink);
}

.home {
  display: flex;
  align-items: center;
  gap: 10px;
  color: inherit;
  text-decoration: none;
  font-size: 16px;
  white-space: nowrap;
}

.middle {
  flex: 1;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 12px;
}

@media (max-width: 640px) {
  .word,
  .keys {
    display: none;
  }

  .bar {
    gap: 2px;
    padding: 0 4px 0 10px;
  }
}

.waiting {
  flex: none;
  padding: 6px 20px;
  background: var(--sheet);
  border-bottom: 1px solid var(--rule);
}

.bar :focus-visible {
  outline-color: var(--bar-ink);
}
</style>
