<script setup lang="ts">
/** The lesser fields of a load: tier, supply, standby, link. */
import { ref, useId, watch } from 'vue'

import type { Load, Tier } from '@/api/client'
import FieldFrame from '@/shared/FieldFrame.vue'

const props = defineProps<{
  load: Load
  links: string[]
  liftedTo: Tier | null
  faults: ReadonlySet<string>
  path: string
}>()
const emit = defineEmits<{ change: [part: Partial<Load>]; remove: []; duplicate: [] }>()

const id = useId()
const tiers = [
  { value: 'life', title: 'Life' },
  { value: 'keep', title: 'Keep' },
  { value: 'ease', title: 'Ease' },
  { value: 'spare', title: 'Spare' },
]
const supplies = [
  { value: 'ac', title: 'AC, inverter' },
  { value: 'dc', title: 'DC, bank' },
]
const standby = ref('')
const link = ref('')
watch(
  () => props.load,
  (load) => {
    standby.value = String(load.standby_w)
    link.value = load.link ?? ''
  },
  { immediate: true },
)

function setStandby(): void {
  const value = Number(standby.value.trim().replace(',', '.') || '0')
  if (Number.isFinite(value)) emit('change', { standby_w: value })
  else standby.value = String(props.load.standby_w)
}
</script>

<template>
  <div class="detail words">
    <FieldFrame label="Tier" :for="`${id}-tier`">
      <v-select
        :id="`${id}-tier`"
        :model-value="load.tier"
        :items="tiers"
        aria-label="Tier"
        @update:model-value="(tier: Tier) => emit('change', { tier })"
      />
    </FieldFrame>
    <FieldFrame label="Fed by" :for="`${id}-supply`">
      <v-select
        :id="`${id}-supply`"
        :model-value="load.supply"
        :items="supplies"
        aria-label="Fed by"
        @update:model-value="(supply: Load['supply']) => emit('change', { supply })"
      />
    </FieldFrame>
    <FieldFrame label="Standby, each" :for="`${id}-standby`">
      <v-text-field
        :id="`${id}-standby`"
        v-model="standby"
        suffix="W"
        :error="faults.has(`${path}.standby_w`)"
        inputmode="decimal"
        @change="setStandby"
      />
    </FieldFrame>
    <FieldFrame label="Linked as" :for="`${id}-link`">
      <v-text-field
        :id="`${id}-link`"
        v-model="link"
        placeholder="none"
        maxlength="120"
        :list="`links-${load.id}`"
        @change="emit('change', { link: link.trim() || null })"
      />
    </FieldFrame>
    <datalist :id="`links-${load.id}`">
      <option v-for="entry in links" :key="entry" :value="entry" />
    </datalist>
    <v-btn size="small" color="pine" @click="emit('duplicate')">Duplicate</v-btn>
    <v-btn size="small" color="wine" :aria-label="`Delete ${load.name}`" @click="emit('remove')"
      >Delete</v-btn
    >
    <p v-if="liftedTo" class="lesser">
      Linked loads live and drop together: this one lives in {{ liftedTo[0]?.toUpperCase()
      }}{{ liftedTo.slice(1) }} with the others linked as {{ load.link }}.
    </p>
  </div>
</template>

<style scoped>
.detail {
  display: grid;
  grid-template-columns: 96px 128px 100px minmax(90px, 1fr) auto auto;
  gap: 8px;
  align-items: end;
}

p {
  grid-column: 1 / -1;
  margin: 0;
  font-size: 13px;
}
</style>
