<script setup lang="ts">
/** A figure that tells how it came about when asked: formula, inputs, basis. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import { useDesign } from '@/design/store'
import { amount } from '@/shared/format'

const props = defineProps<{ figure: string }>()
const { assessment } = storeToRefs(useDesign())
const found = computed(() => assessment.value?.figures[props.figure])
const isOpen = ref(false)
</script>

<template>
  <span class="explained">
    <v-menu v-model="isOpen" :close-on-content-click="false" max-width="420" :disabled="!found">
      <template #activator="{ props: activator }">
        <button
          v-bind="activator"
          type="button"
          class="ask"
          :title="found ? `How ${found.label.toLowerCase()} comes about` : ''"
          :data-test="`explain-${figure}`"
        >
          <slot />
        </button>
      </template>
      <div v-if="found" class="sheet" data-test="explanation">
        <h2>
          {{ found.label }}: <span class="figures">{{ amount(found.value) }} {{ found.unit }}</span>
        </h2>
        <p>{{ found.formula }}</p>
        <table class="ledger">
          <tbody>
            <tr v-for="(term, index) in found.terms" :key="index">
              <td>{{ term.name }}</td>
              <td class="number">{{ amount(term.value) }} {{ term.unit }}</td>
            </tr>
          </tbody>
        </table>
        <p class="lesser">{{ found.basis }}</p>
      </div>
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

.sheet p {
  margin: 6px 0;
}
</style>
