/** Saving the document as it stands: one save at a time, the newest state last, again and again while the server is silent. */
import { until, useDebounceFn } from '@vueuse/core'

import { api, outcome, type Design, type Outcome, type Saved } from '@/api/client'

import { dropDraft, keepDraft } from './drafts'
import { createKeys } from './keys'
import type { DesignState } from './state'

const SAVE_AFTER_MS = 400
const RETRY_AFTER_MS = 2_000
/** A save waits this long for the assessment of the same document, which brings it to the server. */
const ASSESSED_WITHIN_MS = 2_000

export interface Saving {
  save: () => Promise<void>
  saveSoon: () => Promise<void>
  /** Whether the server has just been silent; while it is, saving is tried again. */
  noteAway: (silent: boolean) => void
  stopRetrying: () => void
}

export interface SavingOptions {
  /** Someone saved a newer revision meanwhile. */
  onStale: () => Promise<void>
  /** The server answers again. */
  onBack: () => Promise<void>
}

export function createSaving(state: DesignState, { onStale, onBack }: SavingOptions): Saving {
  const keyOf = createKeys()
  let saving: Promise<void> | null = null
  /** A save whose answer was lost: it may have been done, and is sent again before anything newer. */
  let unanswered: { designId: string; document: Design; revision: number } | null = null
  let retry: ReturnType<typeof setTimeout> | undefined

  async function save(): Promise<void> {
    if (saving) {
      await saving
      return save()
    }
    const { document, isDirty, conflict, saveState } = state
    if (!isDirty.value || !document.value || conflict.value || saveState.value === 'gone') return
    const lost =
      unanswered?.designId === state.id.value && unanswered.revision === state.revision.value
        ? unanswered.document
        : document.value
    const isNewest = lost === document.value
    saving = saveOnce(state.id.value, lost).finally(() => (saving = null))
    await saving
    // What was edited since the lost one comes after it.
    if (!isNewest && !unanswered) return save()
  }

  async function saveOnce(designId: string, asked: Design): Promise<void> {
    const { saveState, revision } = state
    if (saveState.value === 'unsaved') saveState.value = 'saving'
    const sent = { designId, document: asked, revision: revision.value }
    const answer = await send(designId, asked)
    unanswered = answer.kind === 'silent' ? sent : null
    if (designId !== state.id.value) return
    noteAway(answer.kind === 'silent')
    if (answer.kind === 'answer') {
      revision.value = answer.value.revision
      state.canUndo.value = answer.value.can_undo
      state.canRedo.value = answer.value.can_redo
      state.savedDocument.value = asked
      if (state.document.value === asked) {
        saveState.value = 'saved'
        dropDraft(designId)
      } else {
        saveState.value = 'unsaved'
        keepDraft(designId, state.document.value as Design, revision.value)
      }
    } else if (answer.kind === 'silent') return
    else if (answer.problem.newest_revision != null) await onStale()
    else if (answer.problem.status === 404 || answer.problem.code === 'DELETED') saveState.value = 'gone'
    else if (state.document.value !== asked) {
      // What was refused has been undone or edited meanwhile: the fault is not in what stands here now.
      if (state.isDirty.value && saveState.value === 'saving') saveState.value = 'unsaved'
    } else {
      state.problems.value = answer.problem.problems ?? []
      saveState.value = 'invalid'
    }
  }

  /** What was just assessed is named by its key; only what the server does not hold is sent. */
  async function send(designId: string, asked: Design): Promise<Outcome<Saved>> {
    const path = { design_id: designId }
    const query = { expected_revision: state.revision.value, key: keyOf(asked, state.revision.value) }
    if (state.held.document !== asked)
      await until(state.isAssessing).toBe(false, { timeout: ASSESSED_WITHIN_MS, flush: 'sync' })
    if (state.held.document === asked && state.held.key) {
      const named = await outcome(
        api.PUT('/api/designs/{design_id}', { params: { path, query: { ...query, held: state.held.key } } }),
      )
      if (named.kind !== 'refused' || named.problem.status !== 410) return named
    }
    return outcome(api.PUT('/api/designs/{design_id}', { params: { path, query }, body: asked }))
  }

  function noteAway(silent: boolean): void {
    state.isAway.value = silent
    if (silent && state.isDirty.value) state.saveState.value = 'offline'
    if (silent) retryLater()
  }

  function retryLater(): void {
    clearTimeout(retry)
    retry = setTimeout(async () => {
      const { document, isDirty, revision } = state
      if (document.value && isDirty.value) keepDraft(state.id.value, document.value, revision.value)
      const health = await outcome(api.GET('/api/health'))
      if (health.kind === 'silent') return retryLater()
      state.isAway.value = false
      if (isDirty.value) state.saveState.value = 'unsaved'
      await save()
      await onBack()
    }, RETRY_AFTER_MS)
  }

  return {
    save,
    saveSoon: useDebounceFn(save, SAVE_AFTER_MS),
    noteAway,
    stopRetrying: () => clearTimeout(retry),
  }
}
