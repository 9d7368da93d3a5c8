/** A price in words: what stands first is what matters first. */
import type { Design, PriceInHours } from '@/api/client'

import { hoursChange } from './format'
import { volumeOf } from '@/fields/units'

export interface PriceWords {
  text: string
  meaning: string
  weight: 'gain' | 'loss' | ''
}

/** Below these a change is not worth telling: a minute, a twentieth of a litre, half a point of charge. */
const TELLING_L = 0.05
const ON_EDGE =
  'Hours carried; on an edge: with a hundredth more or less of what the bank gives it is quite another number'

export function priceText(price: PriceInHours | null | undefined, practice: Design['practice']): PriceWords {
  if (!price) return { text: '–', meaning: '', weight: '' }
  const minutes = Math.round(price.gain_h * 60)
  if (minutes !== 0) {
    const told = words(hoursChange(price.gain_h), 'Hours carried', minutes)
    // With a little more or less use it would be quite another number: full hours are more than enough.
    const full = `${price.gain_h > 0 ? '+' : '−'}${Math.round(Math.abs(price.gain_h))} h ?`
    return price.is_on_edge ? { ...told, text: full, meaning: ON_EDGE } : told
  }
  if (Math.abs(price.fuel_gain_l) >= TELLING_L) {
    const unit = volumeOf(practice)
    const burnt = Math.abs(unit.show(price.fuel_gain_l))
    const text = `${price.fuel_gain_l > 0 ? '−' : '+'}${burnt.toFixed(1)} ${unit.label}`
    return words(text, 'Hours carried stay; the generator burns this much more or less', price.fuel_gain_l)
  }
  const points = Math.round(price.lowest_soc_gain_frac * 100)
  if (points === 0) return words('±0 h', 'Hours carried', 0)
  const text = `${points > 0 ? '+' : '−'}${Math.abs(points)} % low`
  return words(text, 'Hours carried stay; the lowest charge changes by this many points', points)
}

function words(text: string, meaning: string, gain: number): PriceWords {
  return { text, meaning, weight: gain > 0 ? 'gain' : gain < 0 ? 'loss' : '' }
}
