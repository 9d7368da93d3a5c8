/** Rows selected one by one or as a range, and dragged between tiers. */
import { ref, type Ref } from 'vue'

import type { Tier } from '@/api/client'

export function useRowSelection(
  /** Ids of the rows from top to bottom. */
  shownOrder: Readonly<Ref<readonly string[]>>,
  place: (ids: ReadonlySet<string>, tier: Tier, before?: string) => void,
) {
  const selected = ref<ReadonlySet<string>>(new Set())
  let lastSelected = ''
  /** Rows being dragged, and the tier or row they are held over. */
  const dragged = ref<ReadonlySet<string> | null>(null)
  const over = ref('')

  function select(id: string, extend: boolean): void {
    const next = new Set(selected.value)
    const from = shownOrder.value.indexOf(lastSelected)
    const to = shownOrder.value.indexOf(id)
    if (extend && from >= 0)
      shownOrder.value.slice(Math.min(from, to), Math.max(from, to) + 1).forEach((key) => next.add(key))
    else if (!next.delete(id)) next.add(id)
    lastSelected = id
    selected.value = next
  }

  /** The selected rows if this one is among them, else this one alone. */
  const withSelected = (id: string) => (selected.value.has(id) ? selected.value : new Set([id]))

  /** The row under the pointer. Drags are listened to on the tier, so that rows need no listeners of their own. */
  function rowUnder(event: DragEvent): string | undefined {
    return (event.target as HTMLElement).closest<HTMLElement>('tr[data-load]')?.dataset['load']
  }

  function drag(id: string, event: DragEvent): void {
    dragged.value = withSelected(id)
    event.dataTransfer?.setData('text/plain', id)
    if (event.dataTransfer) event.dataTransfer.effectAllowed = 'move'
  }

  function hold(event: DragEvent, tier: Tier): void {
    if (!dragged.value) return
    event.preventDefault()
    over.value = rowUnder(event) ?? tier
  }

  function drop(event: DragEvent, tier: Tier): void {
    if (dragged.value) place(dragged.value, tier, rowUnder(event))
    letGo()
  }

  function letGo(): void {
    dragged.value = null
    over.value = ''
  }

  return { selected, over, select, withSelected, drag, hold, drop, letGo }
}
