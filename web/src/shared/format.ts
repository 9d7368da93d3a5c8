/** Numbers and times as they are written on every page. */

// A rounded nothing has no sign.
const style = { signDisplay: 'negative' } as const
const whole = new Intl.NumberFormat('en-US', { ...style, maximumFractionDigits: 0 })
const one = new Intl.NumberFormat('en-US', { ...style, minimumFractionDigits: 1, maximumFractionDigits: 1 })
const upToTwo = new Intl.NumberFormat('en-US', { ...style, maximumFractionDigits: 2 })

/** 1 page, 3 pages */
export function counted(number: number, thing: string): string {
  return `${count(number)} ${thing}${number === 1 ? '' : 's'}`
}

/** 12,345 */
export function count(value: number): string {
  return whole.format(value)
}

/** Up to two decimals. */
export function amount(value: number): string {
  return upToTwo.format(value)
}

/** A number of a working: as many decimals as its size makes worth reading. */
export function worked(value: number): string {
  const size = Math.abs(value)
  const digits = size >= 1000 ? 0 : size >= 100 ? 1 : size >= 0.1 || size === 0 ? 2 : 4
  return new Intl.NumberFormat('en-US', { ...style, maximumFractionDigits: digits }).format(value)
}

/** 36 h 41, or 72 h. */
export function hours(value: number): string {
  const minutes = Math.round(Math.abs(value) * 60)
  const rest = minutes % 60
  const text = `${whole.format(Math.floor(minutes / 60))} h`
  return rest === 0 ? text : `${text} ${String(rest).padStart(2, '0')}`
}

/** +2 h 15, −0 h 20, or ±0 h. */
export function hoursChange(value: number): string {
  if (Math.round(Math.abs(value) * 60) === 0) return '±0 h'
  return `${value > 0 ? '+' : '−'}${hours(value)}`
}

/** 10.2 kWh, or 430 Wh below one kilowatt-hour. */
export function kilowattHours(wattHours: number): string {
  if (Math.abs(wattHours) < 999.5) return `${whole.format(wattHours)} Wh`
  return `${one.format(wattHours / 1000)} kWh`
}

/** 2.4 kW, or 300 W below one kilowatt. */
export function kilowatts(watts: number): string {
  return watts < 999.5 ? `${whole.format(watts)} W` : `${upToTwo.format(watts / 1000)} kW`
}

/** 45 % */
export function percent(fraction: number): string {
  return `${Math.round(fraction * 100)} %`
}

/** 45 %; neither 0 nor 100 unless it is exactly that. */
export function sharePercent(fraction: number): string {
  const whole = Math.round(fraction * 100)
  return `${fraction <= 0 ? 0 : fraction >= 1 ? 100 : Math.min(Math.max(whole, 1), 99)} %`
}

const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']

/** A moment of the outage: local standard time, so the browser's own zone never enters. */
export function moment(start: string, offsetHours: number): Date {
  return new Date(Date.parse(`${start}Z`) + offsetHours * 3_600_000)
}

/** Mon 12 17:00 */
export function dayAndTime(start: string, offsetHours: number): string {
  const at = moment(start, offsetHours)
  const time = `${String(at.getUTCHours()).padStart(2, '0')}:${String(at.getUTCMinutes()).padStart(2, '0')}`
  return `${weekdays[at.getUTCDay()]} ${at.getUTCDate()} ${time}`
}

/** Mon 12 Jan */
export function calendarDay(start: string, dayIndex: number): string {
  const at = moment(`${start.slice(0, 10)}T00:00:00`, dayIndex * 24)
  const month = at.toLocaleString('en-US', { month: 'short', timeZone: 'UTC' })
  return `${weekdays[at.getUTCDay()]} ${at.getUTCDate()} ${month}`
}

/** Mon 12 Jan 17:00 */
export function calendarMoment(start: string): string {
  return `${calendarDay(start, 0)} ${start.slice(11, 16)}`
}

/** When a design was saved, in the reader's own time. */
export function savedAt(iso: string): string {
  return new Date(iso).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })
}

/** Keeps a figure and its unit on one line. */
export function unbroken(text: string): string {
  return text.replace(/(\d) (?=(%|W|Wh|kW|A|V|°[CF]|h|s)(?![a-z]))/g, '$1\u00a0')
}

/** How long something takes, roughly. */
export function waitText(time_s: number): string {
  if (time_s < 100) return `${Math.max(1, Math.round(time_s))} s`
  return `${Math.round(time_s / 60)} min`
}
