/** Between the 24 painted cells and the design's hour spans. */

export type Spans = [number, number][]

export function cellsFrom(spans: readonly (readonly number[])[]): boolean[] {
  return Array.from({ length: 24 }, (_, hour) =>
    spans.some(([from = 0, until = 0]) => hour >= from && hour < until),
  )
}

export function spansFrom(cells: readonly boolean[]): Spans {
  const spans: Spans = []
  cells.forEach((isOn, hour) => {
    if (!isOn) return
    const last = spans.at(-1)
    if (last && last[1] === hour) last[1] = hour + 1
    else spans.push([hour, hour + 1])
  })
  return spans
}

/** 0–6 h, 22–24 h */
export function hoursText(spans: readonly (readonly number[])[]): string {
  if (!spans.length) return 'never'
  return spans.map(([from, until]) => `${from}–${until} h`).join(', ')
}
