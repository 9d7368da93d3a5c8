<script setup lang="ts">
/** Says that an alternative is open, and leads to those beside it. */
import { storeToRefs } from 'pinia'
import { RouterLink } from 'vue-router'

import { useDesign } from '@/design/store'

const { id, rootId, label } = storeToRefs(useDesign())
</script>

<template>
  <RouterLink
    v-if="rootId"
    class="alternative"
    :to="{ name: 'side-by-side', params: { id } }"
    :title="`An alternative, called ${label}; the design itself stays as it is`"
    data-test="alternative"
    >alternative: {{ label }}</RouterLink
  >
</template>

<style scoped>
.alternative {
  min-width: 0;
  max-width: 300px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 1px 8px;
  border: 1px solid var(--ember);
  color: inherit;
  font-size: 13px;
  text-decoration: none;
}
</style>
