<script setup lang="ts">
/** What a change does: hours carried gained, or, once the outage is carried either way, fuel saved or charge gained. */
import { storeToRefs } from 'pinia'
import { computed } from 'vue'

import type { PriceInHours } from '@/api/client'
import { useDesign } from '@/design/store'

import { priceText } from './price'

const props = defineProps<{ price: PriceInHours | null | undefined }>()
const { document } = storeToRefs(useDesign())
const told = computed(() => priceText(props.price, document.value?.practice ?? 'metric_230'))
</script>

<template>
  <span class="figures price" :class="told.weight" :title="told.meaning">{{ told.text }}</span>
</template>

<style scoped>
.price {
  white-space: nowrap;
}

.gain {
  color: var(--pine);
}

.loss {
  color: var(--wine);
}
</style>
