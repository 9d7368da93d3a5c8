<script setup lang="ts">
/** How the direct-current side is built: where its runs come together, whose leads they are, and its distribution blocks. */
import ChoiceField from '@/fields/ChoiceField.vue'
import OptionalWords from '@/fields/OptionalWords.vue'

import type { Wiring } from './useWiring'
import { BUSES, DC_BONDS, LEADS } from './words'

defineProps<{ wiring: Wiring }>()
const MOST_BLOCKS = 20
</script>

<template>
  <div class="built" data-test="built">
    <ChoiceField path="wiring.bus" label="Runs come together at" :choices="BUSES" />
    <ChoiceField path="wiring.vehicle" label="Leads by the practice" :choices="LEADS" />
    <ChoiceField path="wiring.dc_grounded" label="Negative to ground" :choices="DC_BONDS" />
    <div v-for="block in wiring.blocks.value" :key="block.id" class="block">
      <OptionalWords
        label="Distribution block"
        :value="block.name"
        placeholder="Block"
        :most="60"
        @change="wiring.changeBlock(block.id, { name: $event ?? 'Block' })"
      />
      <span class="lesser">{{ (block.loads ?? []).length }} ways used</span>
      <button
        type="button"
        class="tool"
        :aria-label="`Take ${block.name} out`"
        @click="wiring.changeBlock(block.id, null)"
      >
        Take out
      </button>
    </div>
    <button
      v-if="wiring.blocks.value.length < MOST_BLOCKS"
      type="button"
      class="tool"
      data-test="add-block"
      @click="wiring.addBlock()"
    >
      Add a distribution block
    </button>
  </div>
</template>

<style scoped>
.built {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: end;
  margin: 6px 0 10px;
}

.built > * {
  min-width: 190px;
}

.block {
  display: flex;
  gap: 10px;
  align-items: end;
}

.tool {
  color: var(--pine);
  font-weight: 600;
  text-align: left;
  min-width: 0;
  padding-bottom: 6px;
}
</style>
