/**
 * An answer about the whole design that takes long: asked for one at a time, kept when the design moves on, and known as old
 * then. One that is said to take too long to be waited for is followed as a job. What may be asked at every keystroke stands in
 * useAnswer.
 */
import { until } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, ref, shallowRef, type ComputedRef, type Ref } from 'vue'

import { useDesign } from '@/design/store'

import {
  refusal,
  SILENT,
  type Design,
  type LongTrialAnswer,
  type Outcome,
  type Reach,
  type TrialFound,
} from './client'
import { createLongTrial, type LongTrial, type TrialKind } from './longTrial'

/** How long a design may take to be saved before a job about it is given up [ms]. */
const SAVED_WITHIN_MS = 15_000

/** The question as a job. */
export interface AsJob<T> {
  trial: TrialKind
  reach: () => Reach
  /** The answer among what a job comes to. */
  of: (found: TrialFound) => T | null | undefined
}

/** How far a job is. */
export interface Progress {
  done: number
  total: number
  /** At the pace of the last seconds [s]; none where it is not known yet. */
  remaining_s: number | null
}

export interface SlowAnswer<T> {
  /** The last answer about this design, of whatever state of it. */
  value: ComputedRef<T | null>
  /** Whether it is about the design as it stands. */
  isCurrent: ComputedRef<boolean>
  isBusy: Ref<boolean>
  /** Why the last question has no answer; empty while it has one. */
  trouble: Ref<string>
  /** How far it is, while it is answered as a job. */
  progress: Ref<Progress | null>
  /** Ask about the design as it stands; while a question is under way the newest one is asked once that has ended. */
  ask: () => Promise<void>
  /** Leave the job that answers it. */
  cancel: () => void
}

const isLong = (value: object): value is LongTrialAnswer => 'takes_s' in value

export function createSlowAnswer<T extends object>(
  question: (design: Design) => Promise<Outcome<T | LongTrialAnswer>>,
  options: {
    /** What the answer depends on besides the design. */
    variant?: () => string
    long?: AsJob<T>
  } = {},
): SlowAnswer<T> {
  const { document, id, saveState } = storeToRefs(useDesign())
  const variant = options.variant ?? (() => '')
  const found = shallowRef<{ id: string; of: string; answer: T } | null>(null)
  const trouble = ref('')
  const isBusy = ref(false)
  const progress = ref<Progress | null>(null)
  let isAskedAgain = false
  let job: LongTrial | null = null
  /** What the question under way is about. */
  let asking: { id: string; of: string } | null = null

  const stateOf = (design: Design) => `${variant()} ${JSON.stringify(design)}`
  const value = computed(() => (found.value?.id === id.value ? found.value.answer : null))
  const isCurrent = computed(
    () => value.value !== null && document.value !== null && found.value?.of === stateOf(document.value),
  )

  async function ask(): Promise<void> {
    const asked = document.value
    if (!asked || isCurrent.value) return
    const about = { id: id.value, of: stateOf(asked) }
    if (isBusy.value) {
      // A part of the page that is shown anew asks what is being answered already.
      if (asking?.id === about.id && asking.of === about.of) return
      isAskedAgain = true
      job?.leave()
      return
    }
    asking = about
    isBusy.value = true
    const answer = await question(asked)
    if (answer.kind === 'answer' && !isLong(answer.value)) found.value = { ...about, answer: answer.value }
    if (answer.kind === 'answer' && isLong(answer.value)) {
      // A job is about what is saved.
      const saved = await until(saveState).toBe('saved', { timeout: SAVED_WITHIN_MS, throwOnTimeout: false })
      if (saved === 'saved' && document.value) {
        asking = { id: id.value, of: stateOf(document.value) }
        trouble.value = await followed(asking, answer.value.pieces)
      } else trouble.value = 'This takes long, and is worked out once the design is saved.'
    } else
      trouble.value =
        answer.kind === 'answer' ? '' : answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    isBusy.value = false
    if (isAskedAgain) {
      isAskedAgain = false
      await ask()
    }
  }

  /** Follow the job that answers it; why there is no answer, empty where there is one or it is asked anew. */
  async function followed(about: { id: string; of: string }, pieces: number): Promise<string> {
    const { long } = options
    if (!long) return SILENT
    job = createLongTrial(about.id, long.trial, long.reach())
    progress.value = { done: 0, total: pieces, remaining_s: null }
    const answer = await job.follow(({ done, total, remaining_s }) => {
      progress.value = { done, total, remaining_s: remaining_s ?? null }
    })
    job = null
    progress.value = null
    if (answer.kind === 'left') return isAskedAgain ? '' : answer.why
    if (answer.kind !== 'answer') return answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    const whole = long.of(answer.value)
    if (!whole) return SILENT
    found.value = { ...about, answer: whole }
    return ''
  }

  return { value, isCurrent, isBusy, trouble, progress, ask, cancel: () => job?.leave() }
}
