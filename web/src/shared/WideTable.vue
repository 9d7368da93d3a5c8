<script setup lang="ts">
/** A place for a table that may be wider than the page: it scrolls here, by hand and by keys, so that the page never does. */
defineProps<{ label: string }>()
</script>

<template>
  <div class="wide-table" tabindex="0" role="region" :aria-label="label"><slot /></div>
</template>

<style scoped>
.wide-table {
  position: relative;
  overflow-x: auto;
}
</style>
