/** What stands in the window: the open design, what is known of it, and how it is saved. Shared by the parts of the store. */
import { computed, ref, shallowRef } from 'vue'

import type { Assessment, AssessmentParts, Design, Endurance, ProblemField, StoredDesign } from '@/api/client'

export type SaveState = 'saved' | 'unsaved' | 'saving' | 'invalid' | 'offline' | 'conflict' | 'gone'

/** Two windows changed the same design: theirs is saved, mine is in this window. */
export interface Conflict {
  theirs: StoredDesign
  theirHours: number | null
}

export function createDesignState() {
  const id = ref('')
  const document = shallowRef<Design | null>(null)
  const savedDocument = shallowRef<Design | null>(null)
  const revision = ref(0)
  /** Of an alternative: the design it belongs to, and what it is called beside the others. */
  const rootId = ref<string | null>(null)
  const label = ref('')
  const canUndo = ref(false)
  const canRedo = ref(false)
  const assessment = shallowRef<Assessment | null>(null)
  /** What it was put together from, and the name the server gave these parts: only those that change are sent. */
  const parts = { name: '', values: {} as AssessmentParts }
  /** The strip's own answer, which comes before the rest. */
  const endurance = shallowRef<Endurance | null>(null)
  /** The document assessed last and the key under which the server holds it, so that a save need not send it again. */
  const held = { document: null as Design | null, key: '' }
  /** The strip's answer to an edit is under way: a save that waits for it need not send the document again. */
  const isAssessing = ref(false)
  /** Fields at fault in the document as it stands in the window. */
  const problems = shallowRef<ProblemField[]>([])
  const saveState = ref<SaveState>('saved')
  const conflict = shallowRef<Conflict | null>(null)
  /** Why the design could not be opened, if it could not. */
  const openError = ref('')
  /** Hours carried gained by the last edit; none before the first. */
  const lastChange_h = ref<number | null>(null)
  /** The server is not answering. */
  const isAway = ref(false)
  const isDirty = computed(() => document.value !== savedDocument.value)
  /** Counts the openings, so that an answer for a design left meanwhile is known as such. */
  const opening = { number: 0 }

  function clear(designId: string): void {
    id.value = designId
    document.value = savedDocument.value = null
    assessment.value = endurance.value = null
    Object.assign(parts, { name: '', values: {} })
    problems.value = []
    conflict.value = null
    openError.value = ''
    rootId.value = null
    label.value = ''
    lastChange_h.value = null
    saveState.value = 'saved'
  }

  /** Take a stored design as it came from the server. */
  function take(stored: StoredDesign): void {
    document.value = savedDocument.value = stored.document
    revision.value = stored.revision
    rootId.value = stored.root_id
    label.value = stored.label
    canUndo.value = stored.can_undo
    canRedo.value = stored.can_redo
    saveState.value = 'saved'
  }

  return {
    id,
    document,
    savedDocument,
    revision,
    rootId,
    label,
    canUndo,
    canRedo,
    assessment,
    parts,
    endurance,
    held,
    isAssessing,
    problems,
    saveState,
    conflict,
    openError,
    lastChange_h,
    isAway,
    isDirty,
    opening,
    clear,
    take,
  }
}

export type DesignState = ReturnType<typeof createDesignState>
