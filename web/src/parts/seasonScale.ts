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

/** Where the name of something stands beside its pole; nowhere where it would be cut or lie over another's. */
export type NameAt = 'right' | 'left' | ''

/** About how wide a letter of a name is, and what stands around it, in pixels. */
const LETTER = 7.5
const AROUND = 12

/** Places names along a lane of this width; `at` is where their poles stand in order, from 0 to 1. */
export function placeNames(poles: { at: number; name: string }[], width: number): NameAt[] {
  let taken = 0
  return poles.map((p, i) => {
    const x = p.at * width
    const wide = p.name.length * LETTER + AROUND
    const next = (poles[i + 1]?.at ?? 1) * width
    if (x >= taken && x + wide <= next) {
      taken = x + wide
      return 'right'
    }
    if (x - wide >= taken) {
      taken = x
      return 'left'
    }
    taken = Math.max(taken, x)
    return ''
  })
}
