<script setup lang="ts">
/** One page as it is printed, at two thirds of its size; drawn finer than the screen needs, so that it can be magnified. */
import { computed } from 'vue'

const props = defineProps<{
  runId: string
  number: number
  of: number
  title: string
  size: { width_pt: number; height_pt: number }
}>()
/** CSS pixels of a point at two thirds. */
const TWO_THIRDS = (96 / 72) * (2 / 3)
const width = computed(() => Math.round(props.size.width_pt * TWO_THIRDS))
const source = (width_px: number) =>
  `/api/papers/${props.runId}/pages/${props.number}.png?width_px=${width_px}`
</script>

<template>
  <figure :style="{ width: `${width}px` }">
    <a :href="source(2 * width)" target="_blank" rel="noopener">
      <img
        :src="source(2 * width)"
        :width="width"
        :height="Math.round((width * size.height_pt) / size.width_pt)"
        :alt="`${title}, page ${number} of ${of}`"
        loading="lazy"
        data-test="printed-page"
      />
    </a>
  </figure>
</template>

<style scoped>
figure {
  max-width: 100%;
  margin: 0;
}

img {
  display: block;
  max-width: 100%;
  height: auto;
  background: #fff;
  border: 1px solid var(--rule);
}
</style>
