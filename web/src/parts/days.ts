/** Civil dates as YYYY-MM-DD. Only shown and placed here; every rule about dates is the server's. */

const DAY = 86_400_000

function ms(date: string): number {
  return Date.parse(`${date}T00:00:00Z`)
}

export function addDays(date: string, days: number): string {
  return new Date(ms(date) + days * DAY).toISOString().slice(0, 10)
}

/** Orders days and moments as they are written: the earlier first. No words: a language's order of them is not needed. */
export function earlierFirst(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0
}

/** Days from a to b. */
export function daysBetween(a: string, b: string): number {
  return Math.round((ms(b) - ms(a)) / DAY)
}

/** The Monday on or before a date. */
export function monday(date: string): string {
  const weekday = (new Date(ms(date)).getUTCDay() + 6) % 7
  return addDays(date, -weekday)
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']

/** 4 Dec */
export function shortDay(date: string): string {
  return date ? `${Number(date.slice(8, 10))} ${months[Number(date.slice(5, 7)) - 1]}` : ''
}

/** Fri 4 Dec 2026 */
export function dayAndYear(date: string): string {
  return date ? `${longDay(date)} ${date.slice(0, 4)}` : ''
}

/** Fri 4 Dec */
export function longDay(date: string): string {
  return date ? `${weekdays[new Date(ms(date)).getUTCDay()]} ${shortDay(date)}` : ''
}
