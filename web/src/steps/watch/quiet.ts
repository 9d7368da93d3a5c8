/** Hours in which only what can hurt somebody rings. */
export interface QuietHours {
  from_h: number
  to_h: number
}

/** Whether an hour of the day lies in the quiet ones; from and to alike means that there are none. */
export function isQuiet(hour: number, { from_h, to_h }: QuietHours): boolean {
  if (from_h === to_h) return false
  return from_h < to_h ? hour >= from_h && hour < to_h : hour >= from_h || hour < to_h
}

/** Whether an alarm rings at a moment, local standard time: a Stop at every hour, the others outside the quiet ones. */
export function rings(severity: string, moment: string, quiet: QuietHours): boolean {
  return severity === 'stop' || !isQuiet(Number(moment.slice(11, 13)), quiet)
}
