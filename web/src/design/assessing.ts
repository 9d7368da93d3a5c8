/** Asking for the assessment of the newest document; while one is under way only the last edit is asked again. */
import { api, outcome, type Assessment } from '@/api/client'

import type { DesignState } from './state'

export interface Assessing {
  /** `isEdit` says that the change in hours is to be shown. */
  assess: (isEdit?: boolean) => Promise<void>
  /** Forget what is under way, because another design is opened. */
  forget: () => void
}

export function createAssessing(state: DesignState, noteAway: (silent: boolean) => void): Assessing {
  /** The opening whose assessment is under way, and whether another is asked for after it, and as an edit. */
  let assessing = 0
  let again: { isEdit: boolean } | null = null

  async function assess(isEdit = false): Promise<void> {
    if (assessing === state.opening.number) {
      again = { isEdit: isEdit || (again?.isEdit ?? false) }
      return
    }
    const asked = state.document.value
    if (!asked) return
    const ticket = (assessing = state.opening.number)
    const before = state.newest.value?.outage.hours_carried_h
    const answer = await outcome(api.POST('/api/assessments', { body: asked }))
    // Another design has been opened meanwhile: this answer is not for it.
    if (ticket !== state.opening.number) return
    assessing = 0
    noteAway(answer.kind === 'silent')
    if (answer.kind === 'answer') {
      show(answer.value)
      Object.assign(state.held, { document: asked, key: answer.headers.get('Held-As') ?? '' })
      state.problems.value = []
      if (isEdit && before !== undefined)
        state.lastChange_h.value = answer.value.outage.hours_carried_h - before
    } else if (answer.kind === 'refused') {
      state.problems.value = answer.problem.problems ?? []
      if (state.saveState.value === 'unsaved') state.saveState.value = 'invalid'
    }
    const next = again
    again = null
    if (next) await assess(next.isEdit)
  }

  /** The strip first; the rest once that is on its way to the screen. */
  function show(found: Assessment): void {
    state.newest.value = found
    const opened = state.opening.number
    const rest = () => {
      if (state.newest.value === found && opened === state.opening.number) state.assessment.value = found
    }
    if (state.assessment.value === null || document.hidden) rest()
    else requestAnimationFrame(() => setTimeout(rest))
  }

  function forget(): void {
    assessing = 0
    again = null
  }

  return { assess, forget }
}
