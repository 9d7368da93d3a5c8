/** An answer that depends on what is edited: asked for anew when that changes, and never from a question already overtaken. */
import { useDebounceFn } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch, type Ref, type ShallowRef, type WatchSource } from 'vue'

import { refusal, SILENT, type Outcome } from './client'

export interface UseAnswerOptions<T> {
  /** The question; none where there is nothing to ask, which empties the answer. */
  ask: () => Promise<Outcome<T>> | null
  /** What the question depends on; without it only `askNow` asks. */
  on?: WatchSource | WatchSource[]
  /** How long changes are let come in before the question is asked. In milliseconds. @default 80 */
  wait?: number
  /** Whether to ask at once, before any change. @default true */
  immediate?: boolean
}

export interface UseAnswerReturn<T> {
  /** The last answer; it stays while a new one is under way or refused. */
  value: Readonly<ShallowRef<T | null>>
  /** Why the last question has no answer; empty while it has one. */
  trouble: Ref<string>
  /** Ask now, overtaking what is under way. */
  askNow: () => Promise<void>
  /** Take an answer that came another way, overtaking what is under way. */
  put: (answer: T | null) => void
  /** Drop what is under way, and the answer with it. */
  drop: () => void
}

export function useAnswer<T>(options: UseAnswerOptions<T>): UseAnswerReturn<T> {
  const value = shallowRef<T | null>(null)
  const trouble = ref('')
  let newest = 0

  async function askNow(): Promise<void> {
    const ticket = ++newest
    const question = options.ask()
    if (!question) return drop()
    const answer = await question
    if (ticket !== newest) return
    trouble.value =
      answer.kind === 'answer' ? '' : answer.kind === 'refused' ? refusal(answer.problem) : SILENT
    if (answer.kind === 'answer') value.value = answer.value
  }

  function drop(): void {
    newest += 1
    value.value = null
    trouble.value = ''
  }

  function put(answer: T | null): void {
    newest += 1
    value.value = answer
  }

  const askSoon = useDebounceFn(askNow, options.wait ?? 80)
  if (options.on !== undefined) watch(options.on, () => void askSoon())
  if (options.immediate ?? true) void askNow()
  onScopeDispose(() => (newest += 1))
  return { value, trouble, askNow, put, drop }
}
