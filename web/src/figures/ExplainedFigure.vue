<script setup lang="ts">
/** A figure that tells how it came about when asked: by its key in the assessment, or given whole. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import type { Figure } from '@/api/client'
import { useDesign } from '@/design/store'

import FigureSheet from './FigureSheet.vue'

const props = defineProps<{ figure: string | Figure }>()
const { assessment } = storeToRefs(useDesign())
const found = computed(() =>
  typeof props.figure === 'string' ? assessment.value?.figures[props.figure] : props.figure,
)
const isOpen = ref(false)
</script>

<template>
  <span class="explained">
    <slot v-if="!found" />
    <v-menu v-else v-model="isOpen" :close-on-content-click="false" max-width="420">
      <template #activator="{ props: activator }">
        <button
          v-bind="activator"
          type="button"
          class="ask"
          :title="`How ${found.label.toLowerCase()} comes about`"
          :data-test="`explain-${typeof figure === 'string' ? figure : 'given'}`"
        >
          <slot />
        </button>
      </template>
      <FigureSheet class="sheet" :figure="found" />
    </v-menu>
  </span>
</template>

<style scoped>
.ask {
  font: inherit;
  color: inherit;
  text-align: inherit;
  border-bottom: 1px dotted var(--slate);
}

.sheet {
  background: var(--sheet);
  border: 1px solid var(--slate);
  padding: 12px 16px;
}
</style>
