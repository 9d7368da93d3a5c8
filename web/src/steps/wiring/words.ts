/** The choices of the Wiring page in words. */
export const DEVICES = [
  { value: null, title: 'as worked out' },
  { value: 'class_t', title: 'class T fuse' },
  { value: 'strip', title: 'strip fuse' },
  { value: 'post', title: 'post-mounted fuse' },
  { value: 'bolt_small', title: 'small bolt-down fuse' },
  { value: 'bolt_large', title: 'large bolt-down fuse' },
  { value: 'blade', title: 'blade fuse' },
  { value: 'dc_breaker', title: 'DC breaker' },
  { value: 'solar_fuse', title: 'solar fuse' },
  { value: 'ac_breaker', title: 'breaker' },
  { value: 'none', title: 'none there' },
] as const
export const DISCONNECTS = [
  { value: null, title: 'as asked' },
  { value: 'none', title: 'none' },
  { value: 'source', title: 'at its source' },
  { value: 'load', title: 'at its end' },
  { value: 'both', title: 'at both ends' },
] as const
export const LOCKS = [
  { value: null, title: 'as asked' },
  { value: true, title: 'can be locked' },
  { value: false, title: 'no lock' },
] as const
export const DEGREES = [
  { value: null, title: 'as usual' },
  { value: 60, title: '60 °C' },
  { value: 70, title: '70 °C' },
  { value: 75, title: '75 °C' },
  { value: 90, title: '90 °C' },
] as const
/** Reference methods of installation, metric practice. */
export const METHODS = [
  { value: null, title: 'as usual' },
  { value: 'A1', title: 'A1, in a wall' },
  { value: 'B1', title: 'B1, wires in conduit' },
  { value: 'B2', title: 'B2, cable in conduit' },
  { value: 'C', title: 'C, on a wall' },
  { value: 'D1', title: 'D1, in the ground' },
  { value: 'E', title: 'E, in free air' },
] as const
const TRADE_SIZES = ['1/2', '3/4', '1', '1 1/4', '1 1/2', '2', '2 1/2', '3'] as const
export const CONDUITS = [
  { value: null, title: 'in none' },
  ...TRADE_SIZES.map((size) => ({ value: size, title: `${size} in` })),
]
export const CONDUIT_KINDS = [
  { value: 'emt', title: 'metal tubing' },
  { value: 'pvc', title: 'PVC, schedule 40' },
] as const
export const FED_FROM = [
  { value: 'bus', title: 'the bus' },
  { value: 'load_terminals', title: 'load terminals' },
] as const
/** What may be said not to be known of a run. */
export const FACTS = [
  { value: 'size', title: 'size' },
  { value: 'insulation', title: 'insulation' },
  { value: 'terminals', title: 'terminals' },
  { value: 'device', title: 'device' },
  { value: 'disconnects', title: 'disconnects' },
] as const
export type FactKey = (typeof FACTS)[number]['value']
/** Where a run's length comes from, as one says it. */
export const LENGTHS: Record<string, string> = { set: 'measured', board: 'from the board', usual: 'usual' }
