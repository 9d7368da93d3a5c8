/** The choices of the Transfer page in words. */
export const FEEDS = [
  { value: null, title: 'as it gives' },
  { value: 'both', title: 'true 120/240 V' },
  { value: 'bridged', title: 'one 120 V, both legs' },
  { value: 'leg_a', title: 'leg A only' },
  { value: 'leg_b', title: 'leg B only' },
] as const
export const INTERLOCKS = [
  { value: 'mechanical', title: 'mechanical' },
  { value: 'none', title: 'a rule alone' },
] as const
export const BYPASSES = [
  { value: 'none', title: 'none' },
  { value: 'interlocked', title: 'interlocked' },
  { value: 'loose', title: 'two loose breakers' },
] as const
export const BONDS = [
  { value: 'unknown', title: 'not known' },
  { value: 'floating', title: 'floating' },
  { value: 'bonded', title: 'bonded' },
  { value: 'relay', title: 'by a relay' },
] as const
export const GENERATOR_PLACES = [
  { value: 'inverter_input', title: 'inverter input' },
  { value: 'panel', title: 'panel breaker' },
] as const
export const THROTTLES = [
  { value: 'frequency', title: 'by frequency' },
  { value: 'blocks', title: 'in parts' },
  { value: 'none', title: 'not at all' },
] as const
type Words = Record<string, { title: string; meaning: string }>
const ON_GRID_USES: Words = {
  loads: { title: 'Backed-up loads', meaning: 'what hangs on the backed-up circuits' },
  bank: { title: 'Bank', meaning: 'up to its charge limit, until it is full' },
  house: { title: 'Rest of the house', meaning: 'circuits kept on the grid' },
  export: { title: 'Export', meaning: 'whatever is left, where the utility allows it' },
}
const ALONE_USES: Words = {
  ...ON_GRID_USES,
  loads: { title: 'The house', meaning: 'what hangs on its circuits' },
}

/** What takes the energy, by key. */
export const usesOf = (isOffGrid: boolean): Words => (isOffGrid ? ALONE_USES : ON_GRID_USES)

const FATES: Record<string, string> = { carried: 'carried', on_grid: 'on the grid', dead: 'dead' }

/** What becomes of a circuit or load, in a word. */
export function fateWord(fate: string | undefined, isOffGrid: boolean): string {
  return isOffGrid && fate === 'on_grid' ? 'left off' : (FATES[fate ?? ''] ?? '')
}
