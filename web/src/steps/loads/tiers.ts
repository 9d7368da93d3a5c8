/** The tiers from the last dropped to the first, and when each is dropped. */
import type { Tier } from '@/api/client'

export const TIERS: readonly {
  tier: Tier
  title: string
  rule: (levels: { keep_frac: number; ease_frac: number }) => string
}[] = [
  { tier: 'life', title: 'Life', rule: () => 'dropped last, at the cut-off' },
  {
    tier: 'keep',
    title: 'Keep',
    rule: (levels) => `dropped only to protect the bank, at ${Math.round(levels.keep_frac * 100)} %`,
  },
  { tier: 'ease', title: 'Ease', rule: (levels) => `dropped below ${Math.round(levels.ease_frac * 100)} %` },
  { tier: 'spare', title: 'Spare', rule: () => 'only on sun that would be spilled' },
]
