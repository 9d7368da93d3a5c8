/** Words of Drill. */
import type { DrillDecision, DrillNews } from '@/api/client'

import { EVENT_WORDS, TIER_WORDS } from '../watch/words'

export function newsWords(news: DrillNews): string {
  if (news.said) return news.said
  const words = EVENT_WORDS[news.kind] ?? news.kind
  return news.tier ? `${TIER_WORDS[news.tier]} ${words}` : words
}

export function decisionWords(decision: DrillDecision, nameOf: (id: string) => string): string {
  const names = (decision.loads ?? []).map(nameOf)
  const some =
    names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ')
  switch (decision.kind) {
    case 'leave_off':
      return `off: ${some}`
    case 'turn_on':
      return `on: ${some}`
    case 'generator_on':
      return 'generator started'
    case 'generator_off':
      return 'generator stopped'
    case 'sweep':
      return 'snow cleared'
    case 'fetch_fuel':
      return 'fuel fetched'
    case 'cross_read':
      return 'another instrument read'
  }
}
