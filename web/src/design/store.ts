/** The open design: its document, its assessment, and whether it is saved. */
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

import {
  api,
  outcome,
  type Assessment,
  type Design,
  type ProblemField,
  type StoredDesign,
  refusal,
} from '@/api/client'

import { dropDraft, findDraft, keepDraft } from './drafts'
import { withValue } from './path'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'invalid' | 'offline' | 'conflict' | 'gone'

/** Two windows changed the same design: theirs is saved, mine is in this window. */
export interface Conflict {
  theirs: StoredDesign
  theirHours: number | null
}

const SAVE_AFTER_MS = 400
const RETRY_AFTER_MS = 2_000

export const useDesign = defineStore('design', () => {
  const id = ref('')
  const document = shallowRef<Design | null>(null)
  const savedDocument = shallowRef<Design | null>(null)
  const revision = ref(0)
  const canUndo = ref(false)
  const canRedo = ref(false)
  const assessment = shallowRef<Assessment | null>(null)
  /** Fields at fault in the document as it stands in the window. */
  const problems = shallowRef<ProblemField[]>([])
  const saveState = ref<SaveState>('saved')
  const conflict = shallowRef<Conflict | null>(null)
  /** Why the design could not be opened, if it could not. */
  const openError = ref('')
  /** Hours carried gained by the last edit; none before the first. */
  const lastChange_h = ref<number | null>(null)
  const isAway = ref(false)

  let opening = 0
  /** The opening whose assessment is under way, and whether another is asked for after it, and as an edit. */
  let assessing = 0
  let again: { isEdit: boolean } | null = null
  let saving: Promise<void> | null = null
  let retry: ReturnType<typeof setTimeout> | undefined

  const isDirty = computed(() => document.value !== savedDocument.value)

  async function open(designId: string): Promise<void> {
    const ticket = ++opening
    reset(designId)
    const opened = await outcome(
      api.GET('/api/designs/{design_id}', { params: { path: { design_id: designId } } }),
    )
    if (ticket !== opening) return
    if (opened.kind !== 'answer') {
      openError.value =
        opened.kind === 'silent'
          ? 'Hearth Keep is not answering. Start it again with ./hearth start, then reload this page.'
          : refusal(opened.problem)
      return
    }
    take(opened.value)
    const draft = findDraft(designId)
    if (draft && JSON.stringify(draft.document) !== JSON.stringify(opened.value.document)) {
      document.value = draft.document
      revision.value = draft.revision
      saveState.value = 'unsaved'
      keepDraft(designId, draft.document, draft.revision)
      void saveSoon()
    } else {
      dropDraft(designId)
    }
    await assess()
  }

  function reset(designId: string): void {
    clearTimeout(retry)
    assessing = 0
    again = null
    id.value = designId
    document.value = savedDocument.value = null
    assessment.value = null
    problems.value = []
    conflict.value = null
    openError.value = ''
    lastChange_h.value = null
    saveState.value = 'saved'
  }

  function take(stored: StoredDesign): void {
    document.value = savedDocument.value = stored.document
    revision.value = stored.revision
    canUndo.value = stored.can_undo
    canRedo.value = stored.can_redo
    saveState.value = 'saved'
  }

  /** Replace the document by an edited one: assessed at once, saved soon. */
  function replace(next: Design): void {
    performance.mark('hk-edit')
    document.value = next
    keepDraft(id.value, next, revision.value)
    if (saveState.value !== 'conflict' && saveState.value !== 'gone')
      saveState.value = isAway.value ? 'offline' : 'unsaved'
    void assess(true)
    void saveSoon()
  }

  function set(path: string, value: unknown): void {
    if (document.value) replace(withValue(document.value, path, value))
  }

  /** Set several fields as one edit. */
  function setAll(changes: readonly { path: string; value: unknown }[]): void {
    if (!document.value) return
    replace(changes.reduce((next, change) => withValue(next, change.path, change.value), document.value))
  }

  /** Ask for the assessment of the newest document; while one is under way only the last edit is asked again. */
  async function assess(isEdit = false): Promise<void> {
    if (assessing === opening) {
      again = { isEdit: isEdit || (again?.isEdit ?? false) }
      return
    }
    const asked = document.value
    if (!asked) return
    const ticket = (assessing = opening)
    const before = assessment.value?.outage.hours_carried_h
    const answer = await outcome(api.POST('/api/assessments', { body: asked }))
    // Another design has been opened meanwhile: this answer is not for it.
    if (ticket !== opening) return
    assessing = 0
    noteAway(answer.kind === 'silent')
    if (answer.kind === 'answer') {
      assessment.value = answer.value
      problems.value = []
      if (isEdit && before !== undefined) lastChange_h.value = answer.value.outage.hours_carried_h - before
    } else if (answer.kind === 'refused') {
      problems.value = answer.problem.problems ?? []
      if (saveState.value === 'unsaved') saveState.value = 'invalid'
    }
    const next = again
    again = null
    if (next) await assess(next.isEdit)
  }

  const saveSoon = useDebounceFn(() => save(), SAVE_AFTER_MS)

  /** Save the document as it stands; one save at a time, the newest state last. */
  async function save(): Promise<void> {
    if (saving) {
      await saving
      return save()
    }
    if (!isDirty.value || !document.value || conflict.value || saveState.value === 'gone') return
    saving = saveOnce(id.value, document.value).finally(() => (saving = null))
    await saving
  }

  async function saveOnce(designId: string, asked: Design): Promise<void> {
    if (saveState.value === 'unsaved') saveState.value = 'saving'
    const answer = await outcome(
      api.PUT('/api/designs/{design_id}', {
        params: { path: { design_id: designId }, query: { expected_revision: revision.value } },
        body: asked,
      }),
    )
    if (designId !== id.value) return
    noteAway(answer.kind === 'silent')
    if (answer.kind === 'silent') {
      saveState.value = 'offline'
      retryLater()
    } else if (answer.kind === 'answer') {
      revision.value = answer.value.revision
      canUndo.value = answer.value.can_undo
      canRedo.value = answer.value.can_redo
      savedDocument.value = asked
      if (document.value === asked) {
        saveState.value = 'saved'
        dropDraft(designId)
      } else {
        saveState.value = 'unsaved'
        keepDraft(designId, document.value as Design, revision.value)
      }
    } else if (answer.problem.newest_revision != null) {
      await meetConflict()
    } else if (answer.problem.status === 404 || answer.problem.type.endsWith('deleted')) {
      saveState.value = 'gone'
    } else {
      problems.value = answer.problem.problems ?? []
      saveState.value = 'invalid'
    }
  }

  function noteAway(silent: boolean): void {
    isAway.value = silent
    if (silent && isDirty.value) saveState.value = 'offline'
    if (silent) retryLater()
  }

  function retryLater(): void {
    clearTimeout(retry)
    retry = setTimeout(async () => {
      if (document.value && isDirty.value) keepDraft(id.value, document.value, revision.value)
      const health = await outcome(api.GET('/api/health'))
      if (health.kind === 'silent') return retryLater()
      isAway.value = false
      if (isDirty.value) saveState.value = 'unsaved'
      await save()
      await assess()
    }, RETRY_AFTER_MS)
  }

  async function meetConflict(): Promise<void> {
    const theirs = await outcome(
      api.GET('/api/designs/{design_id}', { params: { path: { design_id: id.value } } }),
    )
    if (theirs.kind !== 'answer') {
      noteAway(true)
      return
    }
    const judged = await outcome(api.POST('/api/assessments', { body: theirs.value.document }))
    saveState.value = 'conflict'
    conflict.value = {
      theirs: theirs.value,
      theirHours: judged.kind === 'answer' ? judged.value.outage.hours_carried_h : null,
    }
  }

  /** Settle a conflict. Mine is saved on top of theirs; for theirs it is then undone, so that neither is lost. */
  async function settle(choice: 'mine' | 'theirs'): Promise<void> {
    const found = conflict.value
    if (!found || !document.value) return
    revision.value = found.theirs.revision
    conflict.value = null
    saveState.value = 'unsaved'
    await save()
    if (choice === 'theirs' && !isDirty.value) await step('undo')
  }

  /** The design was deleted elsewhere: bring it back with its history, or, where that is gone, under a new key; then save. */
  async function bringBack(): Promise<string | null> {
    const mine = document.value
    if (!mine) return null
    const restored = await outcome(
      api.POST('/api/designs/{design_id}/restore', { params: { path: { design_id: id.value } } }),
    )
    noteAway(restored.kind === 'silent')
    if (restored.kind === 'silent') return null
    if (restored.kind === 'answer') {
      revision.value = restored.value.revision
      savedDocument.value = restored.value.document
      saveState.value = 'unsaved'
      await save()
      return null
    }
    const made = await outcome(api.POST('/api/designs/import', { body: mine }))
    if (made.kind !== 'answer') return null
    dropDraft(id.value)
    saveState.value = 'saved'
    savedDocument.value = mine
    return made.value.id
  }

  /** Go back or forward through the saved states. Work that cannot be saved is undone by going back to the saved. */
  async function step(direction: 'undo' | 'redo'): Promise<void> {
    if (conflict.value || saveState.value === 'gone' || !savedDocument.value) return
    if (isDirty.value && saveState.value === 'invalid') {
      if (direction === 'undo') discardUnsaved()
      return
    }
    await save()
    if (isDirty.value) return
    const params = { path: { design_id: id.value }, query: { expected_revision: revision.value } }
    const answer = await outcome(
      direction === 'undo'
        ? api.POST('/api/designs/{design_id}/undo', { params })
        : api.POST('/api/designs/{design_id}/redo', { params }),
    )
    noteAway(answer.kind === 'silent')
    if (answer.kind === 'answer') {
      take(answer.value)
      await assess(true)
    } else if (answer.kind === 'refused' && answer.problem.newest_revision != null) {
      await open(id.value)
    }
  }

  function discardUnsaved(): void {
    document.value = savedDocument.value
    saveState.value = 'saved'
    problems.value = []
    dropDraft(id.value)
    void assess(true)
  }

  function close(): void {
    void save()
    clearTimeout(retry)
  }

  return {
    id,
    document,
    revision,
    canUndo,
    canRedo,
    assessment,
    problems,
    saveState,
    conflict,
    openError,
    lastChange_h,
    isAway,
    isDirty,
    open,
    close,
    replace,
    set,
    setAll,
    settle,
    bringBack,
    undo: () => step('undo'),
    redo: () => step('redo'),
  }
})
