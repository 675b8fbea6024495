import { dayAndYear } from './days'

/** A moment as the practice's clock shows it: Fri 27 Nov 2026, 14:05. */
export function moment(at: string, zone: string | undefined): string {
  if (!at) return ''
  const day = new Intl.DateTimeFormat('sv-SE', { dateStyle: 'short', timeZone: zone || 'UTC' }).format(new Date(at))
  return `${dayAndYear(day)}, ${timeOfDay(at, zone)}`
}

/** The time of day of a moment on the practice's clock: 14:05. */
export function timeOfDay(at: string | undefined, zone: string | undefined): string {
  if (!at) return ''
  return new Intl.DateTimeFormat('en-GB', { timeStyle: 'short', timeZone: zone || 'UTC' }).format(new Date(at))
}
