/** Words of the Logbook: what can be entered, and entries in a line. */
import type { Design, KeptEntry, QuantityInfo } from '@/api/client'
import { plain, temperature, volume, type Unit } from '@/fields/units'
import { amount, calendarMoment } from '@/shared/format'

/** A unit that readings are kept in, as the project's practice shows it. */
export function unitOf(kept: string, design: Design): Unit {
  return kept === '°C' ? temperature(design) : kept === 'L' ? volume(design) : plain(kept)
}

export interface EventInfo {
  what: string
  title: string
  /** What its amount counts; empty where it counts nothing. */
  unit: string
  /** Whether it is asked if all is well. */
  isChecked?: boolean
  /** What its part is. */
  part?: string
}

/** Large keys beside readings, in the order of how often they are pressed. */
export const EVENTS: readonly EventInfo[] = [
  { what: 'fan_check', title: 'Fan check', unit: '', isChecked: true, part: 'Which fan' },
  { what: 'watered', title: 'Cells watered', unit: 'L' },
  { what: 'cleaned', title: 'Panels cleaned', unit: '' },
  { what: 'snow_cleared', title: 'Snow cleared', unit: '' },
  { what: 'equalised', title: 'Equalised', unit: 'h' },
  { what: 'fuel_bought', title: 'Fuel bought', unit: 'L' },
  { what: 'fuel_turned_over', title: 'Fuel turned over', unit: 'L' },
  { what: 'failure', title: 'Something failed', unit: '', part: 'What failed' },
  { what: 'replaced', title: 'Part replaced', unit: '', part: 'Which part' },
  { what: 'note', title: 'Note', unit: '' },
]

const TITLES: Record<string, string> = {
  gate: 'Gate',
  cross: 'Cross-reading',
  watts: 'Watts',
  load_test: 'Load test',
  drawdown: 'Drawdown test',
  capacity: 'Capacity test',
  outage: 'Outage',
}

interface Body {
  what?: string
  is_well?: boolean
  amount?: number | null
  part?: string
  note?: string
  values?: Record<string, number>
  gate?: string
  signing?: string
  start?: string
  hours_h?: number
  dark_after_h?: number | null
}

/** What an entry says, in a line. */
export function entryText(
  body: Record<string, unknown>,
  kind: string,
  quantities: ReadonlyMap<string, QuantityInfo>,
  design: Design,
): string {
  const told = body as Body
  const shown = (value: number, kept: string) => {
    const unit = unitOf(kept, design)
    return `${amount(unit.show(value))} ${unit.label}`
  }
  const note = told.note ? `: ${told.note}` : ''
  if (kind === 'reading') {
    const values = Object.entries(told.values ?? {}).map(([key, value]) => {
      const info = quantities.get(key)
      return `${info?.label ?? key} ${shown(value, info?.unit ?? '')}`
    })
    return `${told.part ? `${told.part}: ` : ''}${values.join(', ')}${note}`
  }
  if (kind === 'event') {
    const info = EVENTS.find((entry) => entry.what === told.what)
    const parts = [info?.title ?? (told.what === 'upkeep' ? 'Upkeep done' : (told.what ?? ''))]
    if (told.part) parts.push(told.part)
    if (told.amount != null) parts.push(shown(told.amount, info?.unit ?? ''))
    if (told.is_well === false) parts.push('not well')
    return parts.join(', ') + note
  }
  if (kind === 'gate') return `Gate ${told.gate ?? ''}, ${told.signing ?? ''}${note}`
  if (kind === 'outage')
    return `Outage from ${calendarMoment(told.start ?? '')}, ${amount(told.hours_h ?? 0)} h${told.dark_after_h == null ? ', carried' : `, dark after ${amount(told.dark_after_h)} h`}${note}`
  return `${TITLES[kind] ?? kind}${note}`
}

/** Days from now, in words. */
export function daysText(days: number): string {
  if (days < 0) return `${-days} ${days === -1 ? 'day' : 'days'} overdue`
  return days === 0 ? 'today' : `in ${days} ${days === 1 ? 'day' : 'days'}`
}

export const isEntry = (entry: KeptEntry) => entry.kind !== 'gate' || entry.body['signing'] !== 'read'
