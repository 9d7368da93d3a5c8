/** Words and bands of the trials' pictures. */
import type { CarriedCell } from '@/api/client'

export const MONTHS = [
  'Jan',
  'Feb',
  'Mar',
  'Apr',
  'May',
  'Jun',
  'Jul',
  'Aug',
  'Sep',
  'Oct',
  'Nov',
  'Dec',
] as const

/** Who has to be carried for a start to count. */
export type Whom = 'keep' | 'life'

export const shareOf = (cell: CarriedCell | undefined, whom: Whom): number =>
  whom === 'keep' ? (cell?.keep_frac ?? 0) : (cell?.life_frac ?? 0)

/** Shares of starts told apart by shade, from all to few. */
export const BANDS = [
  { from: 1, title: 'all' },
  { from: 0.95, title: '95 % and more' },
  { from: 0.8, title: '80 %' },
  { from: 0.5, title: '50 %' },
  { from: 0.2, title: '20 %' },
  { from: 0, title: 'fewer' },
] as const

export const bandOf = (share: number): number => BANDS.findIndex((band) => share >= band.from)

/** 12 h, or 3 days where it is that many. */
export function lengthText(length_h: number): string {
  return length_h >= 48 && length_h % 24 === 0 ? `${length_h / 24} days` : `${length_h} h`
}
