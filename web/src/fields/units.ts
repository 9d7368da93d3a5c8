/** Practice units at the edge: the design holds SI, the screen shows what the project's practice uses. */
import type { Design } from '@/api/client'

export interface Unit {
  label: string
  /** From the design's unit to the screen's. */
  show: (value: number) => number
  /** From the screen's unit to the design's. */
  keep: (value: number) => number
}

const round = (value: number, digits: number) => Math.round(value * 10 ** digits) / 10 ** digits

export function plain(label: string): Unit {
  return { label, show: (value) => value, keep: (value) => value }
}

/** A part of a whole, shown in percent. */
export const asPercent: Unit = {
  label: '%',
  show: (value) => round(value * 100, 4),
  keep: (value) => round(value / 100, 6),
}

export function temperature(design: Design): Unit {
  if (design.practice === 'metric_230') return plain('°C')
  return {
    label: '°F',
    show: (value) => round(value * 1.8 + 32, 1),
    keep: (value) => round((value - 32) / 1.8, 4),
  }
}

export function elevation(design: Design): Unit {
  if (design.practice === 'metric_230') return plain('m')
  return { label: 'ft', show: (value) => round(value / 0.3048, 0), keep: (value) => round(value * 0.3048, 2) }
}

/** A length of cable, one way. */
export function cableLength(design: Design): Unit {
  if (design.practice === 'metric_230') return plain('m')
  return { label: 'ft', show: (value) => round(value / 0.3048, 2), keep: (value) => round(value * 0.3048, 4) }
}

const LITRES_A_GALLON = 3.785412

/** Litres, or US gallons where the practice counts in them. */
export function volume(design: Design): Unit {
  return volumeOf(design.practice)
}

export function volumeOf(practice: Design['practice']): Unit {
  if (practice === 'metric_230') return plain('L')
  return {
    label: 'gal',
    show: (value) => round(value / LITRES_A_GALLON, 2),
    keep: (value) => round(value * LITRES_A_GALLON, 4),
  }
}

/** Fuel an hour. */
export function flow(design: Design): Unit {
  if (design.practice === 'metric_230') return plain('L/h')
  return {
    label: 'gal/h',
    show: (value) => round(value / LITRES_A_GALLON, 3),
    keep: (value) => round(value * LITRES_A_GALLON, 4),
  }
}

/** Fuel for each kilowatt-hour. */
export function flowOfEnergy(design: Design): Unit {
  return { ...flow(design), label: design.practice === 'metric_230' ? 'L' : 'gal' }
}

const METRES_A_SECOND_OF_MPH = 0.44704

export function windSpeed(design: Design): Unit {
  if (design.practice === 'metric_230') return plain('m/s')
  return {
    label: 'mph',
    show: (value) => round(value / METRES_A_SECOND_OF_MPH, 1),
    keep: (value) => round(value * METRES_A_SECOND_OF_MPH, 4),
  }
}
