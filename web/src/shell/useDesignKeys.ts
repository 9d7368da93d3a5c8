/** Keys that work on every page of a design. */
import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'

import { useDesign } from '@/design/store'
import { STEPS } from '@/steps/steps'

import { everywhereKey, type EverywhereKey } from './keys'

export interface DesignKeysOptions {
  openHelp: () => void
  foldChecks: () => void
  foldStrip: () => void
}

/** Focus the first element marked for a key, for example the entry line for N. */
function focusMarked(mark: string): boolean {
  const marked = document.querySelector<HTMLElement>(`[data-key="${mark}"]`)
  // A field of the component library carries the mark on its frame.
  const target = marked?.querySelector<HTMLElement>('input') ?? marked ?? null
  target?.focus()
  return target !== null
}

export function useDesignKeys({ openHelp, foldChecks, foldStrip }: DesignKeysOptions): void {
  const store = useDesign()
  const route = useRoute()
  const router = useRouter()

  function toStep(change: number): void {
    const index = STEPS.findIndex((step) => step.name === route.name)
    const next = STEPS[index + change]
    if (next) void router.push({ name: next.name, params: route.params })
  }

  function undoOrRedo(action: 'undo' | 'redo'): void {
    // Leaving the field first lets a half-typed change count as the change to be undone.
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
    void (action === 'undo' ? store.undo() : store.redo())
  }

  /** What each key of all pages does; whether it did anything. */
  const actions: Record<EverywhereKey['action'], () => unknown> = {
    undo: () => undoOrRedo('undo'),
    redo: () => undoOrRedo('redo'),
    help: openHelp,
    previous: () => toStep(-1),
    next: () => toStep(1),
    new: () => focusMarked('new'),
    search: () => focusMarked('search'),
    papers: () => void router.push({ name: 'papers', params: route.params }),
    checks: foldChecks,
    strip: foldStrip,
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    const isTyping = target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)
    const found = event.defaultPrevented ? null : everywhereKey(event, isTyping)
    if (found && actions[found.action]() !== false) event.preventDefault()
  })
}
