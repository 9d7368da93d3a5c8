/** Readings of a load worked out by the server, and taken into its row. */
import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'

import { api, outcome, SILENT, type Figure, type Known, type Load, type StartKnown } from '@/api/client'

export interface UseMeasuringReturn {
  /** Work readings out and hand on what they come to; whether they could be used. */
  take: (load: Load, part: { known?: Known; start_known?: StartKnown }) => Promise<boolean>
  /** Ask for the working of a load's readings as they stand. */
  explain: (load: Load) => Promise<void>
  /** Why the last reading was not taken; empty while it was. */
  trouble: Ref<string>
  /** The working of the last reading. */
  figures: ShallowRef<Figure[]>
}

export function useMeasuring(change: (part: Partial<Load>) => void): UseMeasuringReturn {
  const trouble = ref('')
  const figures = shallowRef<Figure[]>([])

  async function take(load: Load, part: { known?: Known; start_known?: StartKnown }): Promise<boolean> {
    const answer = await outcome(api.POST('/api/loads/measure', { body: { ...load, ...part } }))
    if (answer.kind === 'answer') {
      const { running_w, duty_frac, hours, start_w } = answer.value.load
      trouble.value = ''
      figures.value = answer.value.figures
      change({ ...part, running_w, duty_frac, hours, start_w: start_w ?? null })
      return true
    }
    trouble.value =
      answer.kind === 'refused'
        ? (answer.problem.problems ?? [])
            .map((problem) => `${problem.field.split('.').at(-1)} ${problem.accepted} (got ${problem.value})`)
            .join('; ')
        : `${SILENT} The reading was not taken.`
    return false
  }

  async function explain(load: Load): Promise<void> {
    const answer = await outcome(api.POST('/api/loads/measure', { body: load }))
    if (answer.kind === 'answer') figures.value = answer.value.figures
  }

  return { take, explain, trouble, figures }
}
