<script setup lang="ts">
/** Keeps an answer that takes long up with the design while its part is shown, and says when it is old or missing. */
import { useDebounceFn } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, watch } from 'vue'

import type { Progress } from '@/api/slowAnswer'
import { useDesign } from '@/design/store'
import { count, waitText } from '@/shared/format'

const props = defineProps<{
  /** What is being done, while there is no answer yet. */
  doing: string
  answer: {
    value?: unknown
    isCurrent: boolean
    isBusy: boolean
    trouble: string
    progress: Progress | null
    ask: () => Promise<void>
    cancel: () => void
  }
  /** Whether an answer is there. */
  has: boolean
  /** What the answer depends on besides the design. */
  variant?: string
}>()
const { document } = storeToRefs(useDesign())
const askSoon = useDebounceFn(() => props.answer.ask(), 150)
watch([document, () => props.variant], () => void askSoon())
const left = computed(() => {
  const left_s = props.answer.progress?.remaining_s
  return left_s == null ? '' : `, about ${waitText(left_s)} left`
})
void props.answer.ask()
</script>

<template>
  <p v-if="answer.trouble" class="bad" role="alert">
    {{ answer.trouble }}
    <button type="button" data-test="ask-again" @click="void answer.ask()">Work it out</button>
  </p>
  <p v-else-if="answer.progress" class="lesser" role="status" data-test="progress">
    {{ has ? 'The design has changed: being lived again' : doing }}, {{ count(answer.progress.done) }} of
    {{ count(answer.progress.total) }}{{ left }}.
    <button type="button" data-test="cancel-trial" @click="answer.cancel()">Cancel</button>
  </p>
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

button {
  margin-left: 6px;
  color: var(--pine);
  font-weight: 700;
  text-decoration: underline;
  text-underline-offset: 2px;
}
</style>
