/** Words of Watch: times left, moments, skies and what happens. */
import type { FaultKind, HouseWish, TierLeft } from '@/api/client'
import { calendarMoment, hours } from '@/shared/format'

export const TIER_WORDS: Record<string, string> = { life: 'Life', keep: 'Keep', ease: 'Ease', spare: 'Spare' }

export const EVENT_WORDS: Record<string, string> = {
  dropped: 'is dropped',
  returned: 'comes back',
  overloaded: 'does not fit the inverter',
  fits_again: 'fits again',
  cut_off: 'The inverter stops',
  full: 'The bank is full',
  dark: 'goes dark',
  back_on: 'is back on',
  generator_on: 'The generator starts',
  generator_off: 'The generator stops',
  inverter_back: 'The inverter is back',
  array_cut: 'The array is switched off',
  array_back: 'The array is back',
  fuel_fetched: 'Fuel is fetched',
  switched_over: 'The house is switched over',
}

export const KIND_WORDS: Record<string, string> = {
  monitor: 'Battery monitor',
  inverter: 'Inverter/charger',
  controller: 'Solar controller',
  generator: 'Generator controller',
}

export const FAULT_WORDS: Record<FaultKind, string> = {
  dropped: 'gives no answer',
  frozen: 'its reading stands still',
  scale: 'its scale is ten times off',
  reversed: 'its shunt is reversed',
  drift: 'its display drifts',
  creeping: 'creeps past the set point',
  fan: 'its fan stands still',
  co: 'carbon monoxide',
}

export const WISH_WORDS: Record<NonNullable<HouseWish['generator']>, string> = {
  by_rule: 'goes by its rule',
  on: 'runs',
  off: 'stands still',
}

const DAY_H = 24
/** From so many hours on a time left is told in days. */
const IN_DAYS_FROM_H = 96

/** Over 7 d, or over 20 h: as far as is looked ahead and no less. */
export function over(value_h: number): string {
  return value_h >= DAY_H ? `over ${Math.floor(value_h / DAY_H)} d` : `over ${Math.floor(value_h)} h`
}

/** 41 h 20, 5 d 3 h, or over 7 days: how long a tier lasts, the age of the telling taken off. */
export function lasting(tier: TierLeft | undefined, old_h: number): string {
  if (!tier) return '–'
  const left = Math.max(tier.hours - old_h, 0)
  if (tier.is_beyond) return over(left)
  const whole_h = Math.round(left)
  if (left >= IN_DAYS_FROM_H) return `${Math.floor(whole_h / DAY_H)} d ${whole_h % DAY_H} h`
  return hours(left)
}

/** 36 to 47 h, or 51 h to over 7 d: the band as far as is looked ahead, the age of the telling taken off. */
export function band(tier: TierLeft, ahead_h: number, old_h: number): string {
  const low = Math.max(tier.low_h - old_h, 0)
  const high = Math.max(tier.high_h - old_h, 0)
  const written = (value: number) => (value < 10 ? value.toFixed(1) : String(Math.round(value)))
  const far = over(Math.max(ahead_h - old_h, 0))
  if (tier.low_h >= ahead_h - 0.01) return far
  if (tier.high_h >= ahead_h - 0.01) return `${written(low)} h to ${far}`
  return written(low) === written(high) ? `${written(low)} h` : `${written(low)} to ${written(high)} h`
}

/** The moment so many hours after another, both local standard time without an offset. */
export function after(start: string, by_h: number): string {
  return new Date(Date.parse(`${start}Z`) + by_h * 3_600_000).toISOString().slice(0, 19)
}

/** Thu 15 Jan 03:32, or the hour alone on the same day. */
export function at(moment: string, now: string): string {
  return moment.slice(0, 10) === now.slice(0, 10) ? moment.slice(11, 16) : calendarMoment(moment)
}

/** Just now, 4 min ago, 3 h ago, 2 days ago: how old something is. */
export function ago(from: string, now: string): string {
  const minutes = Math.max(Math.round((Date.parse(`${now}Z`) - Date.parse(`${from}Z`)) / 60_000), 0)
  if (minutes < 1) return 'just now'
  if (minutes < 90) return `${minutes} min ago`
  if (minutes < 60 * 48) return `${Math.round(minutes / 60)} h ago`
  return `${Math.round(minutes / 1440)} days ago`
}
