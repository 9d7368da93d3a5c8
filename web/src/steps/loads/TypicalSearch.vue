<script setup lang="ts">
/** The starter list: sought by name or use, added with Enter as a guess to be measured. */
import { computed, onMounted, ref } from 'vue'

import { api, outcome, type Load, type TypicalLoad } from '@/api/client'
import { amount } from '@/shared/format'

const props = defineProps<{ full: boolean }>()
const emit = defineEmits<{ add: [load: Load] }>()
const devices = ref<TypicalLoad[]>([])
const chosen = ref<string | null>(null)
const sought = ref('')

onMounted(async () => {
  const answer = await outcome(api.GET('/api/typical/loads', {}))
  if (answer.kind === 'answer') devices.value = answer.value
})

const items = computed(() =>
  devices.value.map((device) => ({
    value: device.load.id,
    title: device.load.name,
    words: `${device.load.name} ${device.words}`.toLowerCase(),
    figures: `${amount(device.load.running_w)} W${device.load.start_w ? `, starts ${amount(device.load.start_w)}` : ''}`,
    note: device.note,
  })),
)

function matches(_: string, query: string, item?: { raw: { words: string } }): boolean {
  return query
    .toLowerCase()
    .split(/\s+/)
    .every((word) => item?.raw.words.includes(word))
}

function add(id: string | null): void {
  const device = devices.value.find((entry) => entry.load.id === id)
  if (device && !props.full) emit('add', device.load)
  chosen.value = null
  sought.value = ''
}
</script>

<template>
  <v-autocomplete
    v-model:search="sought"
    class="typical words"
    :model-value="chosen"
    :items="items"
    :custom-filter="matches"
    auto-select-first
    placeholder="typical device"
    aria-label="Add a typical device"
    no-data-text="No such device in the list; type it on the left"
    menu-icon=""
    data-key="search"
    data-test="typical"
    @update:model-value="add"
  >
    <template #append-inner><kbd aria-hidden="true">/</kbd></template>
    <template #item="{ props: entry, item }">
      <v-list-item v-bind="entry" title="">
        <div class="device">
          <span>{{ item.title }}</span>
          <span class="figures">{{ item.figures }}</span>
        </div>
        <div class="lesser note">typical{{ item.note ? `: ${item.note}` : '' }}</div>
      </v-list-item>
    </template>
  </v-autocomplete>
</template>

<style scoped>
.typical :deep(.v-field) {
  --v-input-control-height: 36px;
}

.typical :deep(.v-field__append-inner) {
  padding-top: 0;
  align-items: center;
}

.device {
  display: flex;
  justify-content: space-between;
  gap: 18px;
}

.note {
  font-size: 12px;
}

kbd {
  border: 1px solid var(--rule);
  color: var(--slate);
  font-size: 12px;
  padding: 0 6px;
}
</style>
