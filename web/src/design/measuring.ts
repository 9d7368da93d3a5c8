/** How long an edit takes until the strip, and then the whole page, is redrawn: read by the benchmarks. */

let editedAt_ms: number | null = null

export function markEdit(): void {
  editedAt_ms = performance.now()
}

/** Measure from the last edit to the next frame; nothing is measured twice for the same edit. */
export function measureEdit(name: 'hk-edit-to-strip' | 'hk-edit-to-page'): void {
  const start = editedAt_ms
  if (start === null) return
  requestAnimationFrame(() => {
    const last = performance.getEntriesByName(name).at(-1)
    if (last?.startTime !== start) performance.measure(name, { start })
  })
}
