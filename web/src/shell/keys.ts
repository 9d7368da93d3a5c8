/** Every key of the application, declared once: the help is made from this list, and the keys of all pages are read from it. */

export interface Key {
  /** What the help shows. */
  keys: string
  meaning: string
  /** Works on every page of a design; the others belong to the part that has the focus. */
  everywhere?: EverywhereKey
}

export interface EverywhereKey {
  action: 'new' | 'search' | 'previous' | 'next' | 'undo' | 'redo' | 'checks' | 'strip' | 'papers' | 'help'
  /** As events name it, in lower case. */
  key: string
  /** With Ctrl, or Command. @default false */
  ctrl?: boolean
  /** Undo and redo differ by it only; for the others it does not matter. */
  shift?: boolean
  /** Also while a field has the focus. @default false */
  whileTyping?: boolean
}

export const KEYS: readonly Key[] = [
  { keys: 'N', meaning: 'new row: go to the entry line', everywhere: { action: 'new', key: 'n' } },
  { keys: '/', meaning: 'seek a typical device', everywhere: { action: 'search', key: '/' } },
  { keys: '[', meaning: 'previous step', everywhere: { action: 'previous', key: '[' } },
  { keys: ']', meaning: 'next step', everywhere: { action: 'next', key: ']' } },
  {
    keys: 'Ctrl + Z',
    meaning: 'undo, across the whole design',
    everywhere: { action: 'undo', key: 'z', ctrl: true, shift: false, whileTyping: true },
  },
  {
    keys: 'Ctrl + Shift + Z',
    meaning: 'redo',
    everywhere: { action: 'redo', key: 'z', ctrl: true, shift: true, whileTyping: true },
  },
  { keys: 'C', meaning: 'fold the checks away, and back', everywhere: { action: 'checks', key: 'c' } },
  { keys: 'S', meaning: 'fold the strip to one line, and back', everywhere: { action: 'strip', key: 's' } },
  {
    keys: 'Ctrl + P',
    meaning: 'the papers, from any page',
    everywhere: { action: 'papers', key: 'p', ctrl: true, shift: false, whileTyping: true },
  },
  { keys: '↑ ↓, Enter', meaning: 'move through a table as in a spreadsheet' },
  { keys: 'Esc', meaning: 'leave a cell without a change' },
  { keys: '← →, Space', meaning: 'in painted hours: move, and switch an hour on or off' },
  { keys: 'Shift + ← →', meaning: 'in painted hours: paint along' },
  {
    keys: '← →',
    meaning:
      'on the strip and on every chart: move the reading; with Shift further, Home and End to the ends',
  },
  { keys: '↑ ↓ ← →', meaning: 'on the map of months and the ladder of failures: move the reading' },
  { keys: 'Enter', meaning: 'on the strip: pin the moment; Esc lets it go' },
  { keys: 'Alt + ↑ ↓', meaning: 'in the ledger: move the row, over its tier’s edge into the next' },
  { keys: 'Alt + 1 … 4', meaning: 'in the ledger: to Life, Keep, Ease, Spare' },
  { keys: 'Delete', meaning: 'on a row’s handle: delete the row or the selected rows' },
  { keys: '?', meaning: 'this list', everywhere: { action: 'help', key: '?' } },
]

/** The key of all pages that an event stands for; none where it stands for no such key. */
export function everywhereKey(
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>,
  isTyping: boolean,
): EverywhereKey | null {
  if (event.altKey) return null
  for (const { everywhere } of KEYS) {
    if (!everywhere || everywhere.key !== event.key.toLowerCase()) continue
    if ((everywhere.ctrl ?? false) !== (event.ctrlKey || event.metaKey)) continue
    if (everywhere.shift !== undefined && everywhere.shift !== event.shiftKey) continue
    if (isTyping && !everywhere.whileTyping) continue
    return everywhere
  }
  return null
}
