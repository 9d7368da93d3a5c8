/**
 * An answer about the whole design that takes long: asked for one at a time, kept when the design moves on, and known as old
 * then. What may be asked at every keystroke stands in useAnswer.
 */
import { storeToRefs } from 'pinia'
import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue'

import { useDesign } from '@/design/store'

import { refusal, SILENT, type Design, type Outcome } from './client'

export interface SlowAnswer<T> {
  /** The last answer about this design, of whatever state of it. */
  value: ComputedRef<T | null>
  /** Whether it is about the design as it stands. */
  isCurrent: ComputedRef<boolean>
  isBusy: Ref<boolean>
  /** Why the last question has no answer; empty while it has one. */
  trouble: Ref<string>
  /** Ask about the design as it stands; while a question is under way the newest one is asked once that has ended. */
  ask: () => Promise<void>
}

export function createSlowAnswer<T>(
  question: (design: Design) => Promise<Outcome<T>>,
  /** What the answer depends on besides the design. */
  variant: () => string = () => '',
): SlowAnswer<T> {
  const { document, id } = storeToRefs(useDesign())
  const found = shallowRef<{ id: string; of: string; answer: T } | null>(null)
  const trouble = ref('')
  const isBusy = ref(false)
  let isAskedAgain = false

  const stateOf = (design: Design) => `${variant()} ${JSON.stringify(design)}`
  const value = computed(() => (found.value?.id === id.value ? found.value.answer : null))
  const isCurrent = computed(
    () => value.value !== null && document.value !== null && found.value?.of === stateOf(document.value),
  )

  async function ask(): Promise<void> {
    if (isBusy.value) {
      isAskedAgain = true
      return
    }
    const asked = document.value
    if (!asked || isCurrent.value) return
    const about = { id: id.value, of: stateOf(asked) }
    isBusy.value = true
    const answer = await question(asked)
    isBusy.value = false
    trouble.value =
      answer.kind === 'answer' ? '' : answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    if (answer.kind === 'answer') found.value = { ...about, answer: answer.value }
    if (isAskedAgain) {
      isAskedAgain = false
      await ask()
    }
  }

  return { value, isCurrent, isBusy, trouble, ask }
}
