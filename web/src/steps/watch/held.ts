/** What Watch said last, as it is kept on the device, for pages that have no server to ask. */
import type { WatchView } from '@/api/client'

import { after, ago, at, lasting } from './words'

export interface Held {
  view: WatchView
  /** The design whose page asked. */
  design: string
  /** When the server said it, by this device's clock [ms since 1970]. */
  at_ms: number
}
/** By installation, or by design where there is none. */
export type HeldViews = Record<string, Held>

const HOUR_MS = 3_600_000
const KEEP = 1

/** The last word on an outage that is on: how long Keep lasts, and how old the word is; none without one. */
export function lastSaid(
  views: HeldViews,
  design: string,
  now_ms: number,
): { words: string; said: string } | null {
  const held = Object.values(views).find((each) => each.design === design && each.view.phase === 'on')
  const keep = held?.view.left[KEEP]
  if (!held || !keep) return null
  const old_h = Math.max((now_ms - held.at_ms) / HOUR_MS, 0)
  const now = after(held.view.now, old_h)
  const until = keep.is_beyond ? '' : `, until ${at(after(held.view.now, keep.hours), now)}`
  return { words: `It lasts ${lasting(keep, old_h)}${until}.`, said: ago(held.view.now, now) }
}
