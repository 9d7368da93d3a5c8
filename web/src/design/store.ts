/** The open design: opened, edited, gone back and forth in. Assessing, saving and conflicts stand in files of their own. */
import { defineStore } from 'pinia'
import { computed } from 'vue'

import { api, outcome, refusal, type Design } from '@/api/client'

import { createAssessing } from './assessing'
import { createConflicts } from './conflicts'
import { dropDraft, findDraft, keepDraft } from './drafts'
import { createKeys } from './keys'
import { markEdit } from './measuring'
import { withValue } from './path'
import { createSaving } from './saving'
import { createDesignState } from './state'

export const useDesign = defineStore('design', () => {
  const state = createDesignState()
  const saving = createSaving(state, { onStale: () => conflicts.meet(), onBack: () => assessing.assess() })
  const assessing = createAssessing(state, saving.noteAway)
  const conflicts = createConflicts(state, saving, () => step('undo'))
  const stepKey = createKeys()
  const { document, savedDocument, revision, saveState, isDirty } = state

  async function open(designId: string): Promise<void> {
    const ticket = ++state.opening.number
    saving.stopRetrying()
    assessing.forget()
    state.clear(designId)
    const opened = await outcome(
      api.GET('/api/designs/{design_id}', { params: { path: { design_id: designId } } }),
    )
    if (ticket !== state.opening.number) return
    if (opened.kind !== 'answer') {
      state.openError.value =
        opened.kind === 'silent'
          ? 'Hearth Keep is not answering. Start it again with ./hearth start, then reload this page.'
          : refusal(opened.problem)
      return
    }
    state.take(opened.value)
    const draft = await usableDraft(designId, opened.value.document)
    if (ticket !== state.opening.number) return
    if (draft) {
      document.value = draft.document
      revision.value = draft.revision
      saveState.value = 'unsaved'
      keepDraft(designId, draft.document, draft.revision)
      void saving.saveSoon()
    } else {
      dropDraft(designId)
    }
    await assessing.assess()
  }

  /** Unsaved work left behind, brought to the version of the saved document; none where it says nothing new. */
  async function usableDraft(
    designId: string,
    saved: Design,
  ): Promise<{ document: Design; revision: number } | null> {
    const draft = findDraft(designId)
    if (!draft) return null
    if (draft.document.schema_version !== saved.schema_version) {
      const brought = await outcome(api.POST('/api/documents/current', { body: draft.document }))
      if (brought.kind !== 'answer') return null
      draft.document = brought.value
    }
    return JSON.stringify(draft.document) === JSON.stringify(saved) ? null : draft
  }

  /** Take the design as it is stored now, changed by something else than the window's own edits. */
  async function reload(): Promise<void> {
    await saving.save()
    const params = { path: { design_id: state.id.value } }
    const stored = await outcome(api.GET('/api/designs/{design_id}', { params }))
    if (stored.kind !== 'answer' || stored.value.id !== state.id.value) return
    state.take(stored.value)
    await assessing.assess(true)
  }

  /** Replace the document by an edited one: assessed at once, saved soon. */
  function replace(next: Design): void {
    markEdit()
    document.value = next
    keepDraft(state.id.value, next, revision.value)
    if (saveState.value !== 'conflict' && saveState.value !== 'gone')
      saveState.value = state.isAway.value ? 'offline' : 'unsaved'
    void assessing.assess(true)
    void saving.saveSoon()
  }

  function set(path: string, value: unknown): void {
    if (document.value) replace(withValue(document.value, path, value))
  }

  /** Set several fields as one edit. */
  function setAll(changes: readonly { path: string; value: unknown }[]): void {
    if (!document.value) return
    replace(changes.reduce((next, change) => withValue(next, change.path, change.value), document.value))
  }

  /** The steps under way: one pressed while another is under way is taken after it, not instead of it. */
  let stepping: Promise<void> = Promise.resolve()
  function step(direction: 'undo' | 'redo'): Promise<void> {
    stepping = stepping.then(
      () => stepOnce(direction),
      () => stepOnce(direction),
    )
    return stepping
  }

  /** Go back or forward through the saved states. Work that cannot be saved is undone by going back to the saved. */
  async function stepOnce(direction: 'undo' | 'redo'): Promise<void> {
    if (state.conflict.value || saveState.value === 'gone' || !savedDocument.value) return
    if (isDirty.value && saveState.value === 'invalid') {
      if (direction === 'undo') discardUnsaved()
      return
    }
    await saving.save()
    if (isDirty.value) return
    const query = { expected_revision: revision.value, key: stepKey(direction, revision.value) }
    const params = { path: { design_id: state.id.value }, query }
    const answer = await outcome(
      direction === 'undo'
        ? api.POST('/api/designs/{design_id}/undo', { params })
        : api.POST('/api/designs/{design_id}/redo', { params }),
    )
    saving.noteAway(answer.kind === 'silent')
    if (answer.kind === 'answer') {
      state.take(answer.value)
      await assessing.assess(true)
    } else if (answer.kind === 'refused' && answer.problem.newest_revision != null) {
      await open(state.id.value)
    }
  }

  function discardUnsaved(): void {
    document.value = savedDocument.value
    saveState.value = 'saved'
    state.problems.value = []
    dropDraft(state.id.value)
    void assessing.assess(true)
  }

  function close(): void {
    void saving.save()
    saving.stopRetrying()
  }

  /** There is no service from the grid: nothing of it is asked for or drawn. */
  const isOffGrid = computed(() => document.value?.site.off_grid ?? false)

  return {
    id: state.id,
    document,
    isOffGrid,
    revision,
    rootId: state.rootId,
    label: state.label,
    canUndo: state.canUndo,
    canRedo: state.canRedo,
    assessment: state.assessment,
    endurance: state.endurance,
    problems: state.problems,
    saveState,
    conflict: state.conflict,
    openError: state.openError,
    lastChange_h: state.lastChange_h,
    isAway: state.isAway,
    isDirty,
    open,
    close,
    reload,
    save: saving.save,
    replace,
    set,
    setAll,
    settle: conflicts.settle,
    bringBack: conflicts.bringBack,
    undo: () => step('undo'),
    redo: () => step('redo'),
  }
})
