<script setup lang="ts">
/** A figure's working: formula, inputs, basis. */
import type { Figure } from '@/api/client'
import { worked } from '@/shared/format'

defineProps<{ figure: Figure }>()
</script>

<template>
  <div class="working" data-test="explanation">
    <h2>
      {{ figure.label }}: <span class="figures">{{ worked(figure.value) }} {{ figure.unit }}</span>
    </h2>
    <p>{{ figure.formula }}</p>
    <table class="ledger">
      <tbody>
        <tr v-for="(term, index) in figure.terms" :key="index">
          <td>{{ term.name }}</td>
          <td class="number">{{ worked(term.value) }} {{ term.unit }}</td>
        </tr>
      </tbody>
    </table>
    <p class="lesser">{{ figure.basis }}</p>
  </div>
</template>

<style scoped>
h2 {
  font-size: 14px;
}

p {
  margin: 5px 0;
}

td {
  overflow-wrap: anywhere;
}
</style>
