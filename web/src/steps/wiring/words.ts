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
export const OPENED_BY = [
  { value: 'switch', title: 'switch' },
  { value: 'plug', title: 'plug' },
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
  { value: 'vehicle', title: 'as in carts, vans and boats' },
] as const
/** The same in North American practice. */
export const WAYS_OF_LYING = [
  { value: null, title: 'as usual' },
  { value: 'raceway', title: 'in a raceway or cable' },
  { value: 'free_air', title: 'single, in free air' },
  { value: 'vehicle', title: 'as in carts, vans and boats' },
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
/** How much of its rating a device carries for hours. */
export const LISTED = [
  { value: false, title: '80 % for hours' },
  { value: true, title: '100 %, and its enclosure' },
] as const
/** Where the runs of direct current come together. */
export const BUSES = [
  { value: 'bar', title: 'a bus bar behind the bank' },
  { value: 'posts', title: 'the bank’s own posts or bars' },
] as const
/** By whose tables leads of direct current are judged. */
export const LEADS = [
  { value: false, title: 'of buildings' },
  { value: true, title: 'of carts, vans and boats' },
] as const
/** Whether the negative of direct current is joined to ground. */
export const DC_BONDS = [
  { value: null, title: 'not said' },
  { value: true, title: 'joined at one place' },
  { value: false, title: 'not joined' },
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
