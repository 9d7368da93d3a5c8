/** Words of Build. */
import type { Ask, GateSheet } from '@/api/client'
import type { Severity } from '@/checks/severity'

export type Stand = GateSheet['progress']['stand']

export const STANDS: Record<Stand, string> = {
  waits: 'waits',
  open: 'open',
  passed: 'passed',
  skipped: 'skipped',
  changed: 'look again',
}

/** The mark of a stand; none for what is not done yet. */
export const MARKS: Record<Stand, Severity | null> = {
  waits: null,
  open: null,
  passed: 'good',
  skipped: 'mind',
  changed: 'mend',
}

export const SKIES = [
  { value: 'clear', title: 'clear' },
  { value: 'broken', title: 'broken' },
  { value: 'overcast', title: 'overcast' },
  { value: 'covered', title: 'covered' },
] as const

/** A reading or the end of a window as a meter shows it. */
export function shown(value: number, ask: Pick<Ask, 'decimals'>): string {
  if (Math.abs(value) >= 1e5) return '∞'
  return value.toFixed(ask.decimals).replace('-', '−')
}

/** What is expected: from, to. */
export function windowText(ask: Ask): string {
  const [, low = 0, high = 0] = ask.window
  return `${shown(low, ask)} – ${shown(high, ask)}`
}
