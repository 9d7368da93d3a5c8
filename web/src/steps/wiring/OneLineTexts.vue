<script setup lang="ts">
/** The texts of a symbol or a line, each by its baseline. */
import type { OneLineText } from '@/api/client'

defineProps<{ texts: readonly OneLineText[] }>()
</script>

<template>
  <text
    v-for="text in texts"
    :key="`${text.x} ${text.y}`"
    :x="text.x"
    :y="text.y"
    :text-anchor="text.anchor"
    :font-size="text.height_px"
  >
    {{ text.text }}
  </text>
</template>

<style scoped>
text {
  fill: var(--ink);
}
</style>
