/**
 * Asking for the assessment of the newest document: the strip's own answer first, then the rest of it, of which only the parts
 * that have changed are sent. While an answer is under way only the last edit is asked after it.
 */
import {
  api,
  outcome,
  type Assessment,
  type AssessmentParts,
  type Design,
  type Endurance,
} from '@/api/client'

import { measureEdit } from './measuring'
import type { DesignState } from './state'

export interface Assessing {
  /** `isEdit` says that the change in hours is to be shown. */
  assess: (isEdit?: boolean) => Promise<void>
  /** Forget what is under way, because another design is opened. */
  forget: () => void
}

/** A document whose strip is shown and whose rest is wanted. */
interface Rest {
  design: Design
  held: string
  endurance: Endurance
}

export function createAssessing(state: DesignState, noteAway: (silent: boolean) => void): Assessing {
  /** The opening whose assessment is under way, and whether another is asked for after it, and as an edit. */
  let assessing = 0
  let again: { isEdit: boolean } | null = null
  /** The rest that is wanted next, and the opening for which one is under way. */
  let wanted: Rest | null = null
  let resting = 0

  async function assess(isEdit = false): Promise<void> {
    if (assessing === state.opening.number) {
      again = { isEdit: isEdit || (again?.isEdit ?? false) }
      return
    }
    const asked = state.document.value
    if (!asked) return
    const ticket = (assessing = state.opening.number)
    state.isAssessing.value = true
    const before = state.endurance.value?.outage.hours_carried_h
    const answer = await outcome(api.POST('/api/assessments/endurance', { body: asked }))
    const saved = state.savedDocument.value
    // Work left behind that cannot be used, opened anew: what is shown is of the design as it was saved.
    const stored =
      answer.kind === 'refused' && state.endurance.value === null && saved && saved !== asked
        ? await outcome(api.POST('/api/assessments/endurance', { body: saved }))
        : null
    // Another design has been opened meanwhile: this answer is not for it.
    if (ticket !== state.opening.number) return
    assessing = 0
    noteAway(answer.kind === 'silent')
    if (answer.kind === 'answer') {
      state.endurance.value = answer.value
      const held = answer.headers.get('Held-As') ?? ''
      Object.assign(state.held, { document: asked, key: held })
      state.problems.value = []
      if (isEdit && before !== undefined)
        state.lastChange_h.value = answer.value.outage.hours_carried_h - before
      wanted = { design: asked, held, endurance: answer.value }
    } else if (answer.kind === 'refused') {
      state.problems.value = answer.problem.problems ?? []
      if (state.saveState.value === 'unsaved') state.saveState.value = 'invalid'
      if (stored?.kind === 'answer' && saved) {
        state.endurance.value = stored.value
        wanted = { design: saved, held: stored.headers.get('Held-As') ?? '', endurance: stored.value }
      }
    }
    const next = again
    again = null
    state.isAssessing.value = next !== null
    const rest = askRest()
    if (next) await assess(next.isEdit)
    // An opening is done when the page has what it shows.
    if (!isEdit) await rest
  }

  async function askRest(): Promise<void> {
    if (resting === state.opening.number) return
    const ticket = (resting = state.opening.number)
    while (wanted) {
      const asked = wanted
      wanted = null
      const [found] = await Promise.all([restOf(asked), drawn()])
      if (ticket !== state.opening.number) return
      // What the strip shows by now is of a newer edit, and its rest is asked next.
      if (!found || state.endurance.value !== asked.endurance) continue
      state.assessment.value = found
      measureEdit('hk-edit-to-page')
    }
    resting = 0
  }

  async function restOf({ design, held, endurance }: Rest): Promise<Assessment | null> {
    const since = state.parts.name
    const opened = state.opening.number
    const answer = await outcome(
      api.GET('/api/assessments/{held}', { params: { path: { held }, query: since ? { since } : {} } }),
    )
    // Another design has been opened meanwhile: these are not its parts.
    if (opened !== state.opening.number) return null
    if (answer.kind === 'refused' && answer.problem.status === 410) {
      // Not held any more: a server begun anew, or very many edits by others.
      const whole = await outcome(api.POST('/api/assessments', { body: design }))
      noteAway(whole.kind === 'silent')
      return whole.kind === 'answer' ? whole.value : null
    }
    noteAway(answer.kind === 'silent')
    if (answer.kind !== 'answer') return null
    const values: AssessmentParts = { ...state.parts.values, ...answer.value }
    Object.assign(state.parts, { name: answer.headers.get('Parts-As') ?? '', values })
    const { outage, levels, missing } = endurance
    return { ...(values as Assessment), outage, levels, missing }
  }

  /** When what has just changed is on its way to the screen: the strip is drawn before the rest of the page. */
  function drawn(): Promise<void> {
    if (document.hidden || state.assessment.value === null) return Promise.resolve()
    return new Promise((done) => requestAnimationFrame(() => setTimeout(done)))
  }

  function forget(): void {
    assessing = resting = 0
    again = wanted = null
    state.isAssessing.value = false
  }

  return { assess, forget }
}
