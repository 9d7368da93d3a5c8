/** Reading a picture along its axis: where the pointer is, and where a key goes from there. */

export interface Axis {
  from: number
  to: number
  /** What an arrow key moves by, and with Shift. */
  stride: number
  far: number
}

/** The place on the axis under a pointer; the plot may have margins on both sides, in pixels. */
export function placeAt(
  clientX: number,
  box: Pick<DOMRect, 'left' | 'width'>,
  axis: Pick<Axis, 'from' | 'to'>,
  margins = { left: 0, right: 0 },
): number {
  const inner = Math.max(box.width - margins.left - margins.right, 1)
  const part = (clientX - box.left - margins.left) / inner
  return axis.from + Math.min(Math.max(part, 0), 1) * (axis.to - axis.from)
}

/** Where a key goes from a place; none for a key that does not move. */
export function placeAfter(
  event: Pick<KeyboardEvent, 'key' | 'shiftKey'>,
  now: number,
  axis: Axis,
): number | null {
  const by = event.shiftKey ? axis.far : axis.stride
  if (event.key === 'ArrowRight') return Math.min(now + by, axis.to)
  if (event.key === 'ArrowLeft') return Math.max(now - by, axis.from)
  if (event.key === 'Home') return axis.from
  if (event.key === 'End') return axis.to
  return null
}
