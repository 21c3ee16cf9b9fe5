/** Times as people at the shop read them: 24 hours, the shop's time zone whatever the device is set to. */
const formats = new Map<string, Intl.DateTimeFormat>()

function formatted(at: number | Date, timeZone: string, options: Intl.DateTimeFormatOptions): string {
  const key = timeZone + JSON.stringify(options)
  let format = formats.get(key)
  if (!format) formats.set(key, (format = new Intl.DateTimeFormat('en-GB', { ...options, timeZone })))
  return format.format(at)
}

/** `14:05` */
export const clockTime = (at: number | Date, timeZone: string) =>
  formatted(at, timeZone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })

/** `14:05:32`, where minutes are too coarse. */
export const clockSeconds = (at: number | Date, timeZone: string) =>
  formatted(at, timeZone, { hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23' })

/** `24 Nov 2026` */
export const day = (at: number | Date, timeZone: string) =>
  formatted(at, timeZone, { day: 'numeric', month: 'short', year: 'numeric' })

/** `24 Nov 2026, 14:05` */
export const dayAndTime = (at: number | Date, timeZone: string) =>
  `${day(at, timeZone)}, ${clockTime(at, timeZone)}`

/** A plain date, `2026-11-24`, to read. */
export const plainDay = (date: string) => day(new Date(`${date}T12:00:00Z`), 'UTC')

const DAY_S = 86_400

/** A time that a rule asks for: `10 min`, where `10 min 00 s` would be a clock. */
export const ruleTime = (seconds: number): string =>
  seconds >= 60 && seconds < 3600 && seconds % 60 === 0 ? `${seconds / 60} min` : duration(seconds)

/** `12 min 05 s`, `1 h 10 min`, `8 days` */
export function duration(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds))
  if (whole >= 2 * DAY_S) return `${Math.round(whole / DAY_S)} days`
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60]
  if (h > 0) return `${h} h ${String(m).padStart(2, '0')} min`
  return m > 0 ? `${m} min ${String(s).padStart(2, '0')} s` : `${s} s`
}

/** A time to come as a range in whole minutes: `4 to 11 min`, `less than 2 min`, `12 min or more`. */
export function minutesRange(leastS: number, mostS: number): string {
  const least = Math.max(0, Math.floor(leastS / 60))
  if (!Number.isFinite(mostS)) return `${Math.max(1, least)} min or more`
  const most = Math.max(1, Math.ceil(mostS / 60))
  if (least === 0) return `less than ${most} min`
  return least === most ? `${most} min` : `${least} to ${most} min`
}

/** `2026-11-24 14:05`, for other programs. */
export function localTime(at: number | Date, timeZone: string): string {
  const part = (options: Intl.DateTimeFormatOptions) => formatted(at, timeZone, options)
  const [month, date] = [part({ month: '2-digit' }), part({ day: '2-digit' })]
  return `${part({ year: 'numeric' })}-${month}-${date} ${clockTime(at, timeZone)}`
}
