/** The kinds of reading as the editor shows them: fields, units, and what a new one starts from. */
import type { Known, Load, StartKnown } from '@/api/client'

export interface ReadingField {
  key: string
  label: string
  unit: string
  /** A part shown in percent, and only for a load fed through the inverter; empty means the usual one. */
  onlyAc?: boolean
}

export interface ReadingKind {
  value: string
  title: string
  fields: readonly ReadingField[]
}

export const QUALITIES = [
  { value: 'measured', title: 'Measured' },
  { value: 'label', title: 'From a label' },
  { value: 'nameplate', title: 'From a nameplate' },
  { value: 'guess', title: 'Guess' },
]

export const READING_KINDS: readonly ReadingKind[] = [
  { value: 'typed', title: 'Watts as typed', fields: [] },
  {
    value: 'nameplate',
    title: 'Nameplate V × A',
    fields: [
      { key: 'volts_v', label: 'Volts', unit: 'V' },
      { key: 'current_a', label: 'Amps', unit: 'A' },
      { key: 'power_factor', label: 'Power factor', unit: '' },
    ],
  },
  {
    value: 'spot',
    title: 'Plug-in meter, one look',
    fields: [
      { key: 'reading_w', label: 'It shows', unit: 'W' },
      { key: 'step_w', label: 'Round up to', unit: 'W' },
    ],
  },
  {
    value: 'meter',
    title: 'Plug-in meter over hours',
    fields: [
      { key: 'energy_kwh', label: 'Energy', unit: 'kWh' },
      { key: 'over_h', label: 'Over', unit: 'h' },
      { key: 'running_w', label: 'While it runs', unit: 'W' },
    ],
  },
  {
    value: 'label',
    title: 'Energy label, a year',
    fields: [
      { key: 'energy_kwh_per_year', label: 'A year', unit: 'kWh' },
      { key: 'running_w', label: 'While it runs', unit: 'W' },
    ],
  },
  {
    value: 'dc_amps',
    title: 'Amps on the DC side',
    fields: [
      { key: 'current_a', label: 'Amps', unit: 'A' },
      { key: 'at_v', label: 'At', unit: 'V' },
      { key: 'through_efficiency_frac', label: 'Through inverter', unit: '%', onlyAc: true },
    ],
  },
  { value: 'speeds', title: 'Speed settings', fields: [] },
  { value: 'typical', title: 'Typical device', fields: [] },
]

export const START_KINDS: readonly ReadingKind[] = [
  { value: 'typed', title: 'Watts as typed', fields: [] },
  {
    value: 'multiple',
    title: 'Multiple of running',
    fields: [{ key: 'multiple', label: 'Times', unit: '×' }],
  },
  {
    value: 'code',
    title: 'Code letter and hp',
    fields: [{ key: 'horsepower_hp', label: 'Horsepower', unit: 'hp' }],
  },
]
export const CODE_LETTERS = [...'ABCDEFGHJKLMNPRSTUV'].map((letter) => ({ value: letter, title: letter }))

/** What a new reading starts from, to be corrected: the efficiency of a lightly loaded inverter with its own draw. */
const THROUGH_FRAC = 0.85

const tidy = (value: number) => Math.max(Math.round(value * 100) / 100, 0.01)

/** A reading of the kind that says what the row says already, for the user to correct. */
export function blankReading(kind: string, load: Load, mains_v: number, bank_v: number): Known {
  const running_w = Math.max(load.running_w, 1)
  const average_w = running_w * load.duty_frac
  switch (kind) {
    case 'nameplate':
      return { kind, volts_v: mains_v, current_a: tidy(running_w / mains_v), power_factor: 1 }
    case 'spot':
      return { kind, reading_w: running_w, step_w: 5 }
    case 'meter':
      return { kind, energy_kwh: tidy((average_w * 24) / 1000), over_h: 24, running_w }
    case 'label':
      return { kind, energy_kwh_per_year: tidy(average_w * 8.76), running_w }
    case 'dc_amps':
      // Through an inverter the battery gives more than the load takes; the part is kept with the reading.
      return load.supply === 'ac' || load.supply === 'ac240'
        ? {
            kind,
            current_a: tidy(running_w / bank_v / THROUGH_FRAC),
            at_v: bank_v,
            through_efficiency_frac: THROUGH_FRAC,
          }
        : { kind, current_a: tidy(running_w / bank_v), at_v: bank_v }
    case 'speeds':
      return {
        kind,
        settings: [
          { name: 'low', power_w: tidy(running_w / 2) },
          { name: 'high', power_w: running_w },
        ],
        chosen: 'high',
        quality: 'nameplate',
      }
    case 'typical':
      return { kind }
    default:
      return { kind: 'typed', quality: 'guess' }
  }
}

export function blankStart(kind: string): StartKnown {
  if (kind === 'multiple') return { kind, multiple: 3 }
  if (kind === 'code') return { kind, code_letter: 'K', horsepower_hp: 0.5 }
  return { kind: 'typed', quality: 'guess' }
}

/** The mark of each quality beside its watts: exact, an average, an upper end, about. */
export const QUALITY_MARKS: Record<string, { sign: string; word: string }> = {
  measured: { sign: '=', word: 'measured' },
  label: { sign: 'ø', word: 'from a label' },
  nameplate: { sign: '≤', word: 'from a nameplate' },
  guess: { sign: '≈', word: 'a guess' },
}

/** A row's marks beside its name: how it is fed, and when it waits. */
export function marksOf(load: Load): string {
  const supply = { ac: '', ac240: '240 V', dc: 'DC', dc_converted: 'DC conv.', panel: 'panel' }[load.supply]
  return [supply, load.flexible_h ? `any ${load.flexible_h} h` : ''].filter(Boolean).join(' · ')
}
