/** How a line of a method's sheet is shown and edited. */
import type { OpinionLine } from '@/api/client'
import { amount, count } from '@/shared/format'

/** A part of a whole is shown in percent. */
export const isPart = (line: OpinionLine) => !!line.path?.endsWith('_frac')
/** Habits that are typed here; the others are painted, ticked, chosen, or stand on another page. */
export const isTyped = (line: OpinionLine) =>
  !!line.path?.startsWith('opinions.') && !line.path.endsWith('.mppt') && !line.path.endsWith('_hours')

export const unitOf = (line: OpinionLine) => (isPart(line) ? '%' : line.unit)

/** A number of a sheet: as many decimals as make it worth reading. */
export function figure(value: number, unit: string): string {
  if (unit === 'Wh' || (unit === 'W' && Math.abs(value) >= 100)) return count(value)
  if (Math.abs(value) >= 100) return Number.isInteger(value) ? count(value) : value.toFixed(1)
  return amount(value)
}

export const shown = (line: OpinionLine, value: number) =>
  isPart(line) ? amount(value * 100) : figure(value, line.unit)
