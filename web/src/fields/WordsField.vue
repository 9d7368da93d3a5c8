<script setup lang="ts">
/** A text of the design, in one line or several. */
import { storeToRefs } from 'pinia'
import { computed, ref, useId, watch } from 'vue'

import { valueAt } from '@/design/path'
import { useDesign } from '@/design/store'
import { LONGEST_NAME } from '@/fields/limits'

import FieldFrame from './FieldFrame.vue'

const props = withDefaults(
  defineProps<{ path: string; label: string; most?: number; lines?: boolean; mayBeEmpty?: boolean }>(),
  { most: LONGEST_NAME },
)

const id = useId()
const store = useDesign()
const { document } = storeToRefs(store)
const kept = computed(() => String(valueAt(document.value, props.path) ?? ''))
const text = ref('')
const wrong = ref('')

watch(kept, () => (text.value = kept.value), { immediate: true })

function commit(): void {
  const typed = text.value.trim()
  wrong.value = typed || props.mayBeEmpty ? '' : 'needs at least one letter'
  if (!wrong.value && typed !== kept.value) store.set(props.path, typed)
}
</script>

<template>
  <FieldFrame :label="label" :for="id">
    <v-textarea
      v-if="lines"
      :id="id"
      v-model="text"
      class="words"
      :maxlength="most"
      :error-messages="wrong || []"
      :data-path="path"
      @change="commit"
    />
    <v-text-field
      v-else
      :id="id"
      v-model="text"
      class="words"
      :maxlength="most"
      :error-messages="wrong || []"
      :data-path="path"
      @change="commit"
    />
  </FieldFrame>
</template>
