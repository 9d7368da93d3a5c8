/** The outage's days as they are written: when the outage is longer, the last one goes on. */
import type { Design } from '@/api/client'

export type Day = Design['outage']['days'][number]

/** The day of a place: its own, or the last written. */
export function dayAt(days: readonly Day[], index: number): Day | undefined {
  return days[Math.min(index, days.length - 1)]
}

/** Days with some of them changed; repeats of the last up to a changed one become days of their own. */
export function withDays(days: readonly Day[], changes: ReadonlyMap<number, Partial<Day>>): Day[] {
  const length = Math.max(days.length, ...[...changes.keys()].map((index) => index + 1))
  return Array.from({ length }, (_, index) => ({ ...(dayAt(days, index) as Day), ...changes.get(index) }))
}
