/** Keys that work on every page of a design. */
import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'

import { useDesign } from '@/design/store'
import { STEPS } from '@/steps/steps'

export interface DesignKeysOptions {
  openHelp: () => void
}

/** Focus the first element marked for a key, for example the entry line for N. */
function focusMarked(mark: string): boolean {
  const marked = document.querySelector<HTMLElement>(`[data-key="${mark}"]`)
  // A field of the component library carries the mark on its frame.
  const target = marked?.querySelector<HTMLElement>('input') ?? marked ?? null
  target?.focus()
  return target !== null
}

export function useDesignKeys({ openHelp }: DesignKeysOptions): void {
  const store = useDesign()
  const route = useRoute()
  const router = useRouter()

  function toStep(change: number): void {
    const index = STEPS.findIndex((step) => step.name === route.name)
    const next = STEPS[index + change]
    if (next) void router.push({ name: next.name, params: route.params })
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault()
      // Leaving the field first lets a half-typed change count as the change to be undone.
      if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
      void (event.shiftKey ? store.redo() : store.undo())
      return
    }
    const target = event.target as HTMLElement
    const isTyping = target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName)
    if (isTyping || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return
    if (event.key === '?') openHelp()
    else if (event.key === '[') toStep(-1)
    else if (event.key === ']') toStep(1)
    else if (event.key.toLowerCase() === 'n' && focusMarked('new')) event.preventDefault()
    else if (event.key === '/' && focusMarked('search')) event.preventDefault()
  })
}
