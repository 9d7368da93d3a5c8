/** What the lanes of the storm's timeline share: their width, the cell under the pointer, and the one the keys stand on. */
import { useElementSize } from '@vueuse/core'
import { computed, ref, type ComputedRef, type Ref } from 'vue'

import type { LaneCell } from './lane'

export interface UseLaneReturn {
  /** Of the drawing [px]. */
  width: Ref<number>
  /** Place of an hour from the outage's start [px]. */
  x: (hour: number) => number
  /** Index of the cell under a pointer. */
  cellAt: (event: PointerEvent) => number
  /** Index of the cell that keys act on, held within the cells. */
  active: ComputedRef<number>
  moveTo: (at: number) => void
  /** Where a key moves to; none where it does not move. */
  target: (key: string) => number | null
  hasFocus: Ref<boolean>
}

export function useLane(
  plot: Ref<HTMLElement | null>,
  cells: () => readonly LaneCell[],
  duration_h: () => number,
): UseLaneReturn {
  const { width } = useElementSize(plot)
  const chosen = ref(0)
  const hasFocus = ref(false)
  const last = () => cells().length - 1
  const active = computed(() => Math.min(chosen.value, last()))

  function cellAt(event: PointerEvent): number {
    const box = plot.value?.getBoundingClientRect()
    const hour = box ? ((event.clientX - box.left) / Math.max(box.width, 1)) * duration_h() : 0
    const found = cells().findIndex((cell) => hour < cell.to_h)
    return found < 0 ? last() : found
  }

  function target(key: string): number | null {
    const by = key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : 0
    if (by) return Math.min(Math.max(active.value + by, 0), last())
    return key === 'Home' ? 0 : key === 'End' ? last() : null
  }

  return {
    width,
    x: (hour) => (width.value * hour) / Math.max(duration_h(), 1e-9),
    cellAt,
    active,
    moveTo: (at) => (chosen.value = at),
    target,
    hasFocus,
  }
}
