<script setup lang="ts">
/** Keeps an answer that takes long up with the design while its part is shown, and says when it is old or missing. */
import { useDebounceFn } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { watch } from 'vue'

import { useDesign } from '@/design/store'

const props = defineProps<{
  /** What is being done, while there is no answer yet. */
  doing: string
  answer: {
    value?: unknown
    isCurrent: boolean
    isBusy: boolean
    trouble: string
    ask: () => Promise<void>
  }
  /** Whether an answer is there. */
  has: boolean
  /** What the answer depends on besides the design. */
  variant?: string
}>()
const { document } = storeToRefs(useDesign())
const askSoon = useDebounceFn(() => props.answer.ask(), 150)
watch([document, () => props.variant], () => void askSoon())
void props.answer.ask()
</script>

<template>
  <p v-if="answer.trouble" class="bad" role="alert">{{ answer.trouble }}</p>
  <p v-else-if="!has" class="lesser" role="status">{{ doing }} …</p>
  <p v-else-if="!answer.isCurrent" class="lesser" role="status" data-test="old">
    {{ answer.isBusy ? 'The design has changed: being lived again.' : 'Of an earlier state of the design.' }}
  </p>
</template>

<style scoped>
p {
  margin: 0 0 6px;
}

.bad {
  color: var(--wine);
  font-weight: 700;
}
</style>
