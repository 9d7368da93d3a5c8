<script setup lang="ts">
/** Which part of a long list is shown, and the way to the others. Nothing where all of it is. */
import { computed } from 'vue'

import { count } from './format'

const props = defineProps<{ total: number; perPage: number; pages: number; what: string }>()
const page = defineModel<number>({ required: true })
const first = computed(() => (page.value - 1) * props.perPage + 1)
const last = computed(() => Math.min(props.total, page.value * props.perPage))
</script>

<template>
  <nav v-if="pages > 1" class="page-bar" :aria-label="`Pages of ${what}`" data-test="page-bar">
    <v-btn size="small" color="pine" :disabled="page <= 1" @click="page -= 1">Previous page</v-btn>
    <span class="figures" aria-live="polite"
      >{{ count(first) }} to {{ count(last) }} of {{ count(total) }}</span
    >
    <v-btn size="small" color="pine" :disabled="page >= pages" @click="page += 1">Next page</v-btn>
  </nav>
</template>

<style scoped>
.page-bar {
  display: flex;
  align-items: center;
  gap: 12px;
  margin: 12px 0;
}
</style>
