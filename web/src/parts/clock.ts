/** A moment as the practice's clock shows it: 27 Nov 2026, 14:05. */
export function moment(at: string, zone: string | undefined): string {
  if (!at) return ''
  return new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short', timeZone: zone || 'UTC' }).format(
    new Date(at),
  )
}

/** The time of day of a moment on the practice's clock: 14:05. */
export function timeOfDay(at: string | undefined, zone: string | undefined): string {
  if (!at) return ''
  return new Intl.DateTimeFormat('en-GB', { timeStyle: 'short', timeZone: zone || 'UTC' }).format(new Date(at))
}
