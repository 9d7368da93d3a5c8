/** A lane of the storm's timeline: the outage cut into cells, each with one of a few values. */

export interface LaneCell {
  /** From and to, hours from the outage's start. */
  from_h: number
  to_h: number
}

/** Runs of neighbouring cells with one value, so that a long outage is drawn with few shapes. */
export function runsOf(values: readonly number[]): { from: number; to: number; value: number }[] {
  const runs: { from: number; to: number; value: number }[] = []
  values.forEach((value, at) => {
    const last = runs.at(-1)
    if (last && last.value === value) last.to = at + 1
    else runs.push({ from: at, to: at + 1, value })
  })
  return runs
}

/** Calendar days of an outage: the first and the last are cut by its start and end. */
export function dayCells(start: string, duration_h: number): LaneCell[] {
  const intoDay_h = Number(start.slice(11, 13)) + Number(start.slice(14, 16)) / 60
  const count = Math.min(Math.max(1, Math.ceil((intoDay_h + duration_h) / 24 - 1e-9)), 31)
  return Array.from({ length: count }, (_, day) => ({
    from_h: Math.max(24 * day - intoDay_h, 0),
    to_h: day === count - 1 ? duration_h : 24 * (day + 1) - intoDay_h,
  }))
}

/** No outage that can be kept lasts longer; what is typed beyond it is refused, and drawn no further. */
const MOST_HOURS = 720

/** Whole hours from the start; the last may be cut by the end. */
export function hourCells(duration_h: number): LaneCell[] {
  return Array.from({ length: Math.min(Math.ceil(duration_h - 1e-9), MOST_HOURS) }, (_, hour) => ({
    from_h: hour,
    to_h: Math.min(hour + 1, duration_h),
  }))
}
