<script setup lang="ts">
/**
 * A short text that may be left empty, which means that it is not known: a field of the design, named by its path, or a value of
 * the component around it.
 */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'
import { LONGEST_NAME } from '@/fields/limits'

import FieldFrame from './FieldFrame.vue'

const props = withDefaults(
  defineProps<{
    label: string
    path?: string
    value?: string | null
    placeholder?: string
    most?: number
    /** What is wrong with it, said from outside. */
    wrong?: string
    /** What was typed, with what its label says of it. */
    complete?: (typed: string) => string
    /** The label is heard, not seen. */
    quiet?: boolean
  }>(),
  {
    path: '',
    value: null,
    placeholder: '',
    most: LONGEST_NAME,
    wrong: '',
    complete: (typed: string) => typed,
  },
)
const emit = defineEmits<{ change: [value: string | null] }>()
const id = useId()
const store = useDesign()
const { document, problems } = storeToRefs(store)
const kept = computed(() => String((props.path ? valueAt(document.value, props.path) : props.value) ?? ''))
const text = ref('')
watch(kept, () => (text.value = kept.value), { immediate: true })
const refused = computed(() => {
  const problem = problems.value.find((entry) => props.path !== '' && entry.field === props.path)
  return problem ? problem.accepted : props.wrong
})

function commit(): void {
  const typed = props.complete(text.value.trim())
  text.value = typed
  if (typed === kept.value) return
  if (props.path) store.set(props.path, typed || null)
  else emit('change', typed || null)
}
</script>

<template>
  <FieldFrame class="words" :label="label" :quiet="quiet" :for="id">
    <v-text-field
      :id="id"
      v-model="text"
      :placeholder="placeholder"
      :persistent-placeholder="placeholder !== ''"
      :maxlength="most"
      :error-messages="refused || []"
      autocomplete="off"
      :data-path="path || undefined"
      @change="commit"
      @keydown.enter="commit"
      @keydown.esc.stop="text = kept"
    />
  </FieldFrame>
</template>
