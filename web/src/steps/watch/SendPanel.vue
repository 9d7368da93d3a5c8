<script setup lang="ts">
/** A short message to those whom the settings name: how long it lasts and what to do, in words that can be changed first. */
import { storeToRefs } from 'pinia'
import { computed, ref } from 'vue'

import type { WatchView } from '@/api/client'
import { useDesign } from '@/design/store'

import { useDevices } from './devices'
import { lasting } from './words'

const MOST = 400
const props = defineProps<{ view: WatchView; old_h: number; now: string }>()
const { document } = storeToRefs(useDesign())
const store = useDevices()
const { told } = storeToRefs(store)
const typed = ref<string | null>(null)
const taken = ref('')
const drafted = computed(() => {
  const [life, keep] = props.view.left
  const next = props.view.instructions[0]
  return [
    `${props.now.slice(11, 16)}: Keep lasts ${lasting(keep, props.old_h)}, Life ${lasting(life, props.old_h)}.`,
    next ? `Next: ${next.title}.` : '',
  ]
    .filter(Boolean)
    .join(' ')
})
const text = computed({
  get: () => typed.value ?? drafted.value,
  set: (value: string) => (typed.value = value),
})

async function send(): Promise<void> {
  taken.value = ''
  const to = await store.send(document.value?.name ?? 'House', text.value)
  if (!to.length) return
  taken.value = `Taken at ${props.now.slice(11, 16)} for ${to.join(', ')}.`
  typed.value = null
}
</script>

<template>
  <section v-if="told?.sources.mail" class="send">
    <label>
      <span>Message to {{ told.sources.mail.to.join(', ') }}</span>
      <textarea v-model="text" rows="2" :maxlength="MOST" data-test="message-text"></textarea>
    </label>
    <button type="button" :disabled="!text.trim()" data-test="message-send" @click="send">Send</button>
    <p v-if="taken" class="lesser" role="status" data-test="message-taken">{{ taken }}</p>
  </section>
</template>

<style scoped>
.send {
  display: flex;
  flex-wrap: wrap;
  align-items: end;
  gap: 6px 14px;
  margin-top: 8px;
}

label {
  display: grid;
  flex: 1 1 420px;
  max-width: 760px;
}

textarea {
  border: 1px solid var(--slate);
  background: var(--sheet);
  color: var(--ink);
  padding: 6px 8px;
}

button {
  min-height: 40px;
  padding: 0 14px;
  border: 1px solid var(--slate);
  font-weight: 600;
}
</style>
