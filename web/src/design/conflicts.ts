/** Two windows at one design: a newer revision elsewhere, or the design deleted elsewhere. Neither side's work is lost. */
import { api, outcome } from '@/api/client'

import { dropDraft } from './drafts'
import type { Saving } from './saving'
import type { DesignState } from './state'

export interface Conflicts {
  /** A save was refused: look at what was saved meanwhile. */
  meet: () => Promise<void>
  /** Mine is saved on top of theirs; for theirs it is then undone. */
  settle: (choice: 'mine' | 'theirs') => Promise<void>
  /** Bring a deleted design back with its history, or, where that is gone, under a new key, which is given; then save. */
  bringBack: () => Promise<string | null>
}

export function createConflicts(
  state: DesignState,
  saving: Pick<Saving, 'save' | 'noteAway'>,
  undo: () => Promise<void>,
): Conflicts {
  async function meet(): Promise<void> {
    const theirs = await outcome(
      api.GET('/api/designs/{design_id}', { params: { path: { design_id: state.id.value } } }),
    )
    if (theirs.kind !== 'answer') {
      saving.noteAway(true)
      return
    }
    const judged = await outcome(api.POST('/api/assessments/endurance', { body: theirs.value.document }))
    state.saveState.value = 'conflict'
    state.conflict.value = {
      theirs: theirs.value,
      theirHours: judged.kind === 'answer' ? judged.value.outage.hours_carried_h : null,
    }
  }

  async function settle(choice: 'mine' | 'theirs'): Promise<void> {
    const found = state.conflict.value
    if (!found || !state.document.value) return
    state.revision.value = found.theirs.revision
    state.conflict.value = null
    state.saveState.value = 'unsaved'
    await saving.save()
    if (choice === 'theirs' && !state.isDirty.value) await undo()
  }

  async function bringBack(): Promise<string | null> {
    const mine = state.document.value
    if (!mine) return null
    const restored = await outcome(
      api.POST('/api/designs/{design_id}/restore', { params: { path: { design_id: state.id.value } } }),
    )
    saving.noteAway(restored.kind === 'silent')
    if (restored.kind === 'silent') return null
    if (restored.kind === 'answer') {
      // What stands there is not what stands here, whatever it is; saving adds this on top.
      state.revision.value = restored.value.revision
      state.savedDocument.value = null
      state.saveState.value = 'unsaved'
      await saving.save()
      return null
    }
    const made = await outcome(api.POST('/api/designs/import', { body: mine }))
    if (made.kind !== 'answer') return null
    dropDraft(state.id.value)
    state.saveState.value = 'saved'
    state.savedDocument.value = mine
    return made.value.id
  }

  return { meet, settle, bringBack }
}
