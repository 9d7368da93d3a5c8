/** What is said of a kit. */
import type { RatedKit } from '@/api/client'

/** 97.3 %: kits lie close together, so that tenths count. */
export function shareText(share: number): string {
  const tenths = share >= 1 ? 100 : Math.min(Math.round(share * 1000) / 10, 99.9)
  return `${tenths.toFixed(1)} %`
}

/** In a few words: why it does not do, or how it stands among the others. */
export function kitNote(entry: RatedKit): string {
  const { fault, stops } = entry.kit
  if (fault) return fault
  if (stops?.length) return `stopped: ${stops.map((stop) => stop.title).join('; ')}`
  if (!entry.meets_target)
    return entry.is_on_front ? 'below the target, the best for its price' : 'below the target'
  return entry.is_on_front ? 'no other beats it' : 'beaten by another'
}
