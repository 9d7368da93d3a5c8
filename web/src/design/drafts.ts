/** Unsaved work kept in the browser's own storage, so that a crash or a stopped server loses nothing. */
import type { Design } from '@/api/client'

export interface Draft {
  document: Design
  /** Revision the draft was made on. */
  revision: number
  /** When its window last said that it was alive, in milliseconds. */
  touchedAt: number
}

const PREFIX = 'hearthkeep.draft.'
/** A draft whose window has been silent for longer may be taken up by another. */
export const ORPHAN_AFTER_MS = 8_000

const windowId = (() => {
  const known = sessionStorage.getItem('hearthkeep.window')
  const id = known ?? crypto.randomUUID()
  sessionStorage.setItem('hearthkeep.window', id)
  return id
})()

const key = (designId: string) => `${PREFIX}${designId}.${windowId}`

export function keepDraft(designId: string, document: Design, revision: number): void {
  try {
    const draft: Draft = { document, revision, touchedAt: Date.now() }
    localStorage.setItem(key(designId), JSON.stringify(draft))
  } catch {
    // Storage is full or forbidden: the work still stands in the window.
  }
}

export function dropDraft(designId: string): void {
  localStorage.removeItem(key(designId))
}

/** This window's draft of the design, or one that another window left behind. */
export function findDraft(designId: string): Draft | null {
  const own = read(key(designId))
  if (own) return own
  for (const name of Object.keys(localStorage)) {
    if (!name.startsWith(`${PREFIX}${designId}.`)) continue
    const draft = read(name)
    if (draft && Date.now() - draft.touchedAt > ORPHAN_AFTER_MS) {
      localStorage.removeItem(name)
      return draft
    }
  }
  return null
}

function read(name: string): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(name) ?? 'null') as Draft | null
  } catch {
    return null
  }
}
