<script setup lang="ts">
import { storeToRefs } from 'pinia'
import { ref, watch } from 'vue'

import { useDesign } from '@/design/store'
import { LONGEST_NAME } from '@/fields/limits'

const store = useDesign()
const { document } = storeToRefs(store)
const text = ref('')

watch(
  () => document.value?.name,
  (name) => (text.value = name ?? ''),
  { immediate: true },
)

function commit(): void {
  const name = text.value.trim()
  if (!name) text.value = document.value?.name ?? ''
  else if (name !== document.value?.name) store.set('name', name)
}

function leave(event: Event): void {
  text.value = document.value?.name ?? ''
  ;(event.target as HTMLInputElement).blur()
}
</script>

<template>
  <input
    v-model="text"
    class="name"
    aria-label="Name of this design"
    :maxlength="LONGEST_NAME"
    spellcheck="false"
    @change="commit"
    @keydown.enter="($event.target as HTMLInputElement).blur()"
    @keydown.esc.stop="leave"
  />
</template>

<style scoped>
.name {
  flex: 1;
  min-width: 80px;
  max-width: 460px;
  color: inherit;
  font-size: 14px;
  padding: 3px 6px;
  border: 1px solid transparent;
  text-overflow: ellipsis;
}

.name:hover,
.name:focus {
  border-color: color-mix(in srgb, var(--bar-ink) 40%, transparent);
}
</style>
