/**
 * Numbers as people type them: the rules of `core/numbers.py`, held to the same table of cases, so that a field answers without
 * asking the server.
 */
import type { Design } from '@/api/client'

/** What one comma before three digits means: it groups thousands, it is a decimal mark, or it has to be asked. */
export type Commas = 'group' | 'decimal' | 'unsure'

/** A number, or what was expected in its place. */
export type Typed = { value: number; wrong: '' } | { value: null; wrong: string }

const MOST_CHARACTERS = 40
const PLAIN = /^(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:[eE][+-]?[0-9]{1,3})?$/
const SPACED = /^[0-9]{1,3}(?: [0-9]{3})+(?:[.,][0-9]+)?$/
const BY_COMMAS = /^[1-9][0-9]{0,2}(?:,[0-9]{3})+(?:\.[0-9]+)?$/
const BY_POINTS = /^[1-9][0-9]{0,2}(?:\.[0-9]{3})+(?:,[0-9]+)?$/
const DECIMAL_COMMA = /^[0-9]*,[0-9]+$/

export function commasOf(practice: Design['practice'] | undefined): Commas {
  return practice === 'north_american' ? 'group' : 'unsure'
}

/** Read a number; a unit that the field itself writes may stand behind it. */
export function readNumber(text: string, commas: Commas, unit = ''): Typed {
  const typed = withoutUnit(text.trim(), unit)
    .replaceAll('−', '-')
    .replace(/[\u00a0\u202f\u2009'’]/g, ' ')
    .trim()
  const refused = (wrong: string): Typed => ({ value: null, wrong })
  if (typed.length > MOST_CHARACTERS) return refused('a number')
  const sign = typed.startsWith('-') ? -1 : 1
  const digits = /^[+-]/.test(typed) ? typed.slice(1) : typed
  const alone = digits.split(',').length === 2 && !digits.includes('.')
  let plain: string
  if (PLAIN.test(digits)) plain = digits
  else if (SPACED.test(digits)) plain = digits.replaceAll(' ', '').replace(',', '.')
  else if (BY_COMMAS.test(digits)) {
    const group = digits.replaceAll(',', '')
    const decimal = digits.replace(',', '.')
    if (alone && commas === 'unsure')
      return refused(`may be ${group} or ${Number(decimal)}: write it without the comma`)
    plain = alone && commas === 'decimal' ? decimal : group
  } else if (BY_POINTS.test(digits)) plain = digits.replaceAll('.', '').replace(',', '.')
  else if (DECIMAL_COMMA.test(digits)) plain = digits.replace(',', '.')
  else return refused('a number')
  const value = sign * Number(plain)
  return Number.isFinite(value) ? { value, wrong: '' } : refused('a number')
}

/** What a field says of a text it could not take. */
export function needs(text: string, typed: Typed, whole = false): string {
  if (typed.wrong.startsWith('may be')) return typed.wrong
  return `needs a ${whole ? 'whole ' : ''}number (got '${text.slice(0, 20)}')`
}

function withoutUnit(text: string, unit: string): string {
  if (!unit || !text.toLowerCase().endsWith(unit.toLowerCase())) return text
  return text.slice(0, text.length - unit.length).trim()
}
