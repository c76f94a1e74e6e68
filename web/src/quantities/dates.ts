import { LANGUAGE } from './locale'

/** Days and times where the walker is, as the browser's language writes them. */

const format = (how: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat(LANGUAGE, how)
const DAY = format({ day: 'numeric', month: 'short', year: 'numeric' })
const LONG_DAY = format({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' })
const TIME = format({ hour: '2-digit', minute: '2-digit' })

/** `23 May 2026` */
export const day = (at: string) => DAY.format(new Date(at))
/** `2026-05-23`, of the day that it is here. */
export const isoDay = (at = new Date()) =>
  [at.getFullYear(), at.getMonth() + 1, at.getDate()].map((part) => String(part).padStart(2, '0')).join('-')
/** `Saturday 23 May 2026` */
export const longDay = (at: Date) => LONG_DAY.format(at)
/** `4 Sep 2027`, of a day that is no moment anywhere: `2027-09-04`. */
export const dayOfTrip = (iso: string) => DAY.format(new Date(`${iso}T12:00:00`))
/** `15:42` today, `23 May 2026, 15:42` before. */
export const momentOf = (at: Date) =>
  isoDay(at) === isoDay() ? TIME.format(at) : `${DAY.format(at)}, ${TIME.format(at)}`
/** `15:42` */
export const timeOf = (at: string) => TIME.format(new Date(at))

const MONTH = format({ month: 'long' })
const MONTH_OF_YEAR = format({ month: 'long', year: 'numeric' })
/** So many months from now: `today`, `March`, `March 2028` once it is over a year on. */
export function monthName(after: number, now = new Date()): string {
  if (after === 0) return 'today'
  const at = new Date(now.getFullYear(), now.getMonth() + after, 1)
  return (after < 12 ? MONTH : MONTH_OF_YEAR).format(at)
}
