/** From the outage's series to the strip's lines; no figure is computed here, only places on the screen. */
import { scaleLinear } from 'd3-scale'
import { area, curveStepAfter, line } from 'd3-shape'

import type { Endurance, OutageEvent, Series } from '@/api/client'
import { moment } from '@/shared/format'

export interface StripShape {
  x: (time_h: number) => number
  energyLine: string
  energyArea: string
  sunArea: string
  sunLine: string
  servedLine: string
  unservedArea: string
  generatorLine: string
  generatorArea: string
  otherLine: string
  nights: { x: number; width: number }[]
  /** When the grid is back. */
  grid: { x: number; width: number }[]
  levels: { y: number; label: string; labelBelow: boolean }[]
  ticks: { x: number; label: string; anchor: 'start' | 'middle' | 'end' }[]
  flags: Flag[]
}

export interface Flag {
  key: string
  x: number
  label: string
  isDark: boolean
  anchor: 'start' | 'end'
  /** Lane of the label, 0 at the top; none where there is no room for it. */
  lane: number | null
}

const TIER_NAMES: Record<string, string> = { life: 'Life', keep: 'Keep', ease: 'Ease', spare: 'Spare' }
const FLAG_LANES = 3
const LANE_CHARACTER_PX = 6.4

export function shapeOf(endurance: Endurance, width: number, height: number): StripShape {
  const { series, duration_h, start, events } = endurance.outage
  const x = scaleLinear([0, duration_h], [0, width])
  const energyY = scaleLinear([0, endurance.capacity_wh], [height, 0])
  const strongest_w = Math.max(
    1,
    ...series.sun_w,
    ...series.served_w,
    ...series.unserved_w,
    ...series.generator_w,
    ...series.other_w,
  )
  // Powers take the lower part, so that they do not hide the energy line.
  const powerY = scaleLinear([0, strongest_w], [height, height * 0.38])

  const edges = series.time_h.map((time_h, index) => [time_h, series.stored_wh[index] ?? 0] as const)
  const energy = line<readonly [number, number]>(
    (point) => x(point[0]),
    (point) => energyY(point[1]),
  )
  const energyFill = area<readonly [number, number]>(
    (point) => x(point[0]),
    height,
    (point) => energyY(point[1]),
  )
  const steps = (values: readonly number[]) => stepPoints(series, values)
  const power = line<readonly [number, number]>(
    (point) => x(point[0]),
    (point) => powerY(point[1]),
  ).curve(curveStepAfter)
  const powerFill = area<readonly [number, number]>(
    (point) => x(point[0]),
    height,
    (point) => powerY(point[1]),
  ).curve(curveStepAfter)
  const middles = series.sun_w.map(
    (value, index) => [((series.time_h[index] ?? 0) + (series.time_h[index + 1] ?? 0)) / 2, value] as const,
  )
  const smooth = line<readonly [number, number]>(
    (point) => x(point[0]),
    (point) => powerY(point[1]),
  )
  const smoothFill = area<readonly [number, number]>(
    (point) => x(point[0]),
    height,
    (point) => powerY(point[1]),
  )
  const spans = (held: Series['nights_h']) =>
    held.map(([from_h = 0, to_h = 0]) => ({ x: x(from_h), width: x(to_h - from_h) }))
  const hasSun = series.sun_w.some((value) => value > 0)
  const hasGenerator = series.generator_w.some((value) => value > 0)
  const hasOther = series.other_w.some((value) => value > 0)
  const hasUnserved = series.unserved_w.some((value) => value > 0)

  return {
    x,
    energyLine: energy(edges) ?? '',
    energyArea: energyFill(edges) ?? '',
    sunLine: hasSun ? (smooth(middles) ?? '') : '',
    sunArea: hasSun ? (smoothFill(middles) ?? '') : '',
    servedLine: power(steps(series.served_w)) ?? '',
    generatorLine: hasGenerator ? (power(steps(series.generator_w)) ?? '') : '',
    generatorArea: hasGenerator ? (powerFill(steps(series.generator_w)) ?? '') : '',
    otherLine: hasOther ? (power(steps(series.other_w)) ?? '') : '',
    unservedArea: hasUnserved ? (powerFill(steps(series.unserved_w)) ?? '') : '',
    nights: spans(series.nights_h),
    grid: spans(series.grid_h),
    levels: levelsOf(endurance, energyY),
    ticks: ticksOf(start, duration_h, x, width),
    flags: flagsOf(events, x, width),
  }
}

function stepPoints(series: Series, values: readonly number[]): (readonly [number, number])[] {
  const points = values.map((value, index) => [series.time_h[index] ?? 0, value] as const)
  const last = series.time_h.at(-1) ?? 0
  return [...points, [last, values.at(-1) ?? 0] as const]
}

function levelsOf(
  { levels, capacity_wh }: Endurance,
  y: (wattHours: number) => number,
): StripShape['levels'] {
  const keep = {
    y: y(levels.keep_frac * capacity_wh),
    label: `${levels.keep_frac > levels.floor_frac + 0.005 ? 'Keep to' : 'floor'} ${Math.round(levels.keep_frac * 100)} %`,
  }
  const life = {
    y: y(levels.life_frac * capacity_wh),
    label: `cut-off ${Math.round(levels.life_frac * 100)} %`,
  }
  if (Math.abs(levels.keep_frac - levels.life_frac) < 0.005) {
    return levels.life_frac > 0 ? [{ ...life, labelBelow: false }] : []
  }
  const lines = [{ ...keep, labelBelow: false }]
  return levels.life_frac > 0 ? [...lines, { ...life, labelBelow: true }] : lines
}

/** Four to six moments on whole hours, the first and last included. */
function ticksOf(
  start: string,
  duration_h: number,
  x: (time_h: number) => number,
  width: number,
): StripShape['ticks'] {
  const most = Math.max(2, Math.floor(width / 118))
  const stride =
    [0.25, 0.5, 1, 2, 3, 4, 6, 8, 12, 24, 48, 72, 120, 240].find((hours) => duration_h / hours <= most) ?? 240
  const times = Array.from(
    { length: Math.floor(duration_h / stride + 1e-9) + 1 },
    (_, index) => index * stride,
  )
  const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
  return times.map((time_h) => {
    const at = moment(start, time_h)
    const clock = `${String(at.getUTCHours()).padStart(2, '0')}:${String(at.getUTCMinutes()).padStart(2, '0')}`
    const anchor = time_h === 0 ? 'start' : width - x(time_h) < 50 ? 'end' : 'middle'
    return { x: x(time_h), label: `${days[at.getUTCDay()]} ${at.getUTCDate()} ${clock}`, anchor }
  })
}

/** The moments worth a flag: each tier's first drop, going dark, coming back, first overload. */
function flagsOf(events: readonly OutageEvent[], x: (time_h: number) => number, width: number): Flag[] {
  const chosen: { event: OutageEvent; label: string; isDark: boolean }[] = []
  const told = new Set<string>()
  const darkTimes = new Set(events.filter((event) => event.kind === 'dark').map((event) => event.time_h))
  for (const event of events) {
    const label = labelOf(event, darkTimes)
    const once =
      event.kind === 'dark' || event.kind === 'back_on'
        ? `${event.kind}${event.time_h}`
        : `${event.kind}${event.tier}`
    if (label === null || told.has(once)) continue
    told.add(once)
    chosen.push({ event, label, isDark: event.kind === 'dark' })
  }
  // Going dark is placed first, so that it always has its label.
  const placed = [...chosen].sort((a, b) => Number(b.isDark) - Number(a.isDark))
  const lanes: [number, number][][] = Array.from({ length: FLAG_LANES }, () => [])
  return placed.map(({ event, label, isDark }, index) => {
    const at = x(event.time_h)
    const length = label.length * LANE_CHARACTER_PX + 12
    const anchor = at + length > width ? 'end' : 'start'
    const span: [number, number] = anchor === 'start' ? [at, at + length] : [at - length, at]
    const free = lanes.findIndex((lane) => lane.every((other) => other[1] < span[0] || other[0] > span[1]))
    if (free >= 0) lanes[free]?.push(span)
    return { key: `${index}${event.kind}`, x: at, label, isDark, anchor, lane: free >= 0 ? free : null }
  })
}

function labelOf(event: OutageEvent, darkTimes: ReadonlySet<number>): string | null {
  const tier = event.tier ? TIER_NAMES[event.tier] : ''
  switch (event.kind) {
    case 'dark':
      return `${tier === 'Life' ? 'Life and Keep go' : 'Keep goes'} dark`
    case 'back_on':
      return 'back on'
    case 'dropped':
      return darkTimes.has(event.time_h) ? null : `${tier} dropped`
    case 'overloaded':
      return darkTimes.has(event.time_h)
        ? null
        : event.cause === 'switched_off'
          ? 'inverter off'
          : `${tier} over the ${event.cause === 'bank_current' ? 'bank limit' : event.cause}`
    case 'generator_on':
      return 'generator starts'
    case 'generator_off':
      return event.cause === 'out_of_fuel'
        ? 'out of fuel'
        : event.cause === 'tank_empty'
          ? 'tank empty'
          : event.cause === 'quiet_hours'
            ? 'quiet hours'
            : event.cause === 'nobody_there'
              ? 'nobody to run it'
              : null
    case 'cut_off':
      return darkTimes.has(event.time_h) ? null : 'inverter off, bank empty'
    case 'inverter_back':
      return 'inverter back on'
    case 'full':
      return 'full'
    case 'switched_over':
      return 'switched over'
    case 'array_cut':
      return 'array switched back'
    case 'fuel_fetched':
      return 'fuel fetched'
    case 'array_back':
      return 'array back on'
    default:
      return null
  }
}
