/** A quantity as people type it: a number with its unit, or a sum of such numbers (`3 × 45`, `(2+1)*12.8`). */
import { readNumber, type Commas, type Typed } from './numbers'

const MOST_CHARACTERS = 60
const TOKEN = /\s*(?:([0-9.,'’\u00a0\u202f\u2009 ]+(?:[eE][+-]?[0-9]{1,3})?)|([-−+*×·/÷()]))/y
const ALIKE: Record<string, string> = { '−': '-', '×': '*', '·': '*', '÷': '/' }

/** Read a quantity; an expression is worked out, each of its numbers read as one alone would be. */
export function readQuantity(text: string, commas: Commas, unit = ''): Typed {
  const alone = readNumber(text, commas, unit)
  if (alone.value !== null || alone.wrong.startsWith('may be')) return alone
  const tokens = tokensOf(withoutUnit(text.trim(), unit), commas)
  if ('wrong' in tokens) return { value: null, wrong: tokens.wrong }
  const worked = new Sum(tokens.found).value()
  return worked !== null && Number.isFinite(worked) ? { value: tidied(worked), wrong: '' } : alone
}

/** Rounding off what binary fractions add: 3 × 0.1 is 0.3. */
function tidied(value: number): number {
  return Number(value.toPrecision(12))
}

type Token = number | string

function tokensOf(text: string, commas: Commas): { found: Token[] } | { wrong: string } {
  if (text.length > MOST_CHARACTERS) return { wrong: 'a number' }
  const found: Token[] = []
  TOKEN.lastIndex = 0
  while (TOKEN.lastIndex < text.length) {
    const match = TOKEN.exec(text)
    if (!match) return { wrong: 'a number' }
    if (match[2]) found.push(ALIKE[match[2]] ?? match[2])
    else if (match[1]?.trim()) {
      const number = readNumber(match[1], commas)
      if (number.value === null) return { wrong: number.wrong }
      found.push(number.value)
    }
  }
  return { found }
}

function withoutUnit(text: string, unit: string): string {
  if (!unit || !text.toLowerCase().endsWith(unit.toLowerCase())) return text
  return text.slice(0, text.length - unit.length).trim()
}

/** Sums of products of numbers and brackets, the usual precedence; null where the tokens are no such thing. */
class Sum {
  private at = 0
  constructor(private readonly tokens: Token[]) {}

  value(): number | null {
    const found = this.sum()
    return this.at === this.tokens.length ? found : null
  }

  private sum(): number | null {
    return this.chain(['+', '-'], () => this.product())
  }

  private product(): number | null {
    return this.chain(['*', '/'], () => this.part())
  }

  private chain(operators: string[], next: () => number | null): number | null {
    let left = next()
    while (left !== null && operators.includes(String(this.tokens[this.at]))) {
      const operator = this.tokens[this.at++]
      const right = next()
      if (right === null) return null
      if (operator === '+') left += right
      else if (operator === '-') left -= right
      else if (operator === '*') left *= right
      else left /= right
    }
    return left
  }

  private part(): number | null {
    const token = this.tokens[this.at++]
    if (typeof token === 'number') return token
    if (token === '-') {
      const found = this.part()
      return found === null ? null : -found
    }
    if (token !== '(') return null
    const inside = this.sum()
    return this.tokens[this.at++] === ')' ? inside : null
  }
}
