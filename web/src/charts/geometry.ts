/** The shapes of a chart: places evenly along the axis, values up from its foot. */
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'

/** line: through the values; area: filled below them; bar: one a place; mark: a short line at each. */
export type ChartKind = 'line' | 'area' | 'bar' | 'mark'

export interface ChartSeries {
  key: string
  title: string
  kind: ChartKind
  /** Role of its colour. */
  role: 'sun' | 'ink' | 'slate' | 'pine' | 'ember' | 'umber' | 'wine'
  values: readonly number[]
  /** Where bars begin, instead of the foot. */
  base?: readonly number[]
  /** What the reading and the table say, where it is not the height drawn: a bar's own part of a stack. */
  own?: readonly number[]
  /** Lines are told apart by their dashes, not by colour alone. */
  dash?: string
}

export interface DrawnSeries {
  key: string
  role: ChartSeries['role']
  area: string
  line: string
  dash: string | undefined
}

export interface Drawn {
  width: number
  series: DrawnSeries[]
  levels: { value: number; y: number }[]
  x: (place: number) => number
}

const BAR_PART = 0.62

export function drawn(
  series: readonly ChartSeries[],
  places: number,
  width: number,
  height: number,
  upTo = 0,
): Drawn {
  const most = Math.max(1e-9, upTo, ...series.flatMap((entry) => entry.values))
  const x = scaleLinear([-0.5, places - 0.5], [0, width])
  const y = scaleLinear([0, most * 1.06], [height, 0])
  const half = (x(1) - x(0)) / 2
  const through = line<number>(
    (_, place) => x(place),
    (value) => y(value),
  )
  const below = area<number>(
    (_, place) => x(place),
    height,
    (value) => y(value),
  )

  function shapesOf(entry: ChartSeries): Pick<DrawnSeries, 'area' | 'line'> {
    const values = [...entry.values]
    switch (entry.kind) {
      case 'line':
        return { area: '', line: through(values) ?? '' }
      case 'area':
        return { area: below(values) ?? '', line: through(values) ?? '' }
      case 'mark':
        return {
          area: '',
          line: values
            .map((value, place) => `M${x(place) - 0.85 * half} ${y(value)}H${x(place) + 0.85 * half}`)
            .join(''),
        }
      case 'bar':
        return {
          area: values
            .map((value, place) => {
              const left = x(place) - BAR_PART * half
              return `M${left} ${y(entry.base?.[place] ?? 0)}V${y(value)}h${2 * BAR_PART * half}V${y(entry.base?.[place] ?? 0)}z`
            })
            .join(''),
          line: '',
        }
    }
  }

  return {
    width,
    series: series.map((entry) => ({
      key: entry.key,
      role: entry.role,
      dash: entry.dash,
      ...shapesOf(entry),
    })),
    levels: y.ticks(height < 100 ? 3 : 4).map((value) => ({ value, y: y(value) })),
    x,
  }
}
