import { addDays, daysBetween, monday, shortDay } from './days'

/** The stretch of weeks a season lane shows, from nine weeks ago on. */
export const WEEKS = 26
const BEFORE = 9

export interface Tick {
  /** From 0 to 1 across the lane. */
  at: number
  /** The month, where a week is its first. */
  label: string
}

/** Where days stand on a lane on a day. */
export function seasonScale(today: string) {
  const start = addDays(monday(today), -BEFORE * 7)
  const at = (date: string) => daysBetween(start, date) / (WEEKS * 7)
  const ticks: Tick[] = Array.from({ length: WEEKS + 1 }, (_, i) => {
    const day = addDays(start, i * 7)
    return { at: i / WEEKS, label: Number(day.slice(8)) <= 7 ? shortDay(day).slice(-3) : '' }
  })
  return { at, ticks, inside: (date: string) => at(date) >= 0 && at(date) <= 1 }
}
