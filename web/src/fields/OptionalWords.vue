<script setup lang="ts">
/** A short text of the design that may be left empty, which means that it is not known. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'

import FieldFrame from './FieldFrame.vue'

const props = withDefaults(
  defineProps<{ path: string; label: string; placeholder?: string; most?: number }>(),
  {
    placeholder: '',
    most: 120,
  },
)
const id = useId()
const store = useDesign()
const { document, problems } = storeToRefs(store)
const kept = computed(() => String(valueAt(document.value, props.path) ?? ''))
const text = ref('')
watch(kept, () => (text.value = kept.value), { immediate: true })
const refused = computed(() => {
  const problem = problems.value.find((entry) => entry.field === props.path)
  return problem ? problem.accepted : ''
})

function commit(): void {
  const typed = text.value.trim()
  if (typed !== kept.value) store.set(props.path, typed || null)
}
</script>

<template>
  <FieldFrame class="words" :label="label" :for="id">
    <v-text-field
      :id="id"
      v-model="text"
      :placeholder="placeholder"
      :persistent-placeholder="placeholder !== ''"
      :maxlength="most"
      :error-messages="refused || []"
      autocomplete="off"
      :data-path="path"
      @change="commit"
      @keydown.enter="commit"
      @keydown.esc.stop="text = kept"
    />
  </FieldFrame>
</template>
