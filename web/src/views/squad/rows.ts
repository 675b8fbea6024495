import type { Schemas } from '@/api/client'
import { addDays, earlierFirst, monday } from '@/parts/days'

export type SquadRow = Schemas['SquadRow']

/** The orders of a squad. */
export const sorts = [
  { value: 'due', title: 'what is due first' },
  { value: 'name', title: 'by name' },
  { value: 'peak', title: 'next peak first' },
  { value: 'age', title: 'youngest first' },
] as const
export type Sort = (typeof sorts)[number]['value']

/** One line of the board: a golfer, or what the golfers under it have in common. */
export type Line = { kind: 'golfer'; row: SquadRow } | { kind: 'head'; text: string; count: number }

/** The next event the golfer peaks for, or a day behind all of them. */
export function nextPeak(row: SquadRow, today: string): string {
  const days = row.lane.competitions.filter((c) => c.peak && c.date >= today).map((c) => c.date)
  return days.sort()[0] ?? '9999'
}

/** How grave what is due is: what stops training comes before what opens it. */
const gravity = (r: SquadRow) => (r.clearance === 'red-flag' ? 0 : r.clearance !== 'clear' ? 1 : 2)

export interface Chosen {
  text: string
  group: string
  sort: Sort
}

/** The golfers that are asked for, in the order that is asked for. */
export function board(rows: SquadRow[], c: Chosen, today: string): Line[] {
  const words = c.text.toLowerCase().split(/\s+/).filter(Boolean)
  const wanted = rows.filter((r) => {
    const says = `${r.name} ${r.note} ${r.groups.join(' ')} ${r.notes}`.toLowerCase()
    return words.every((w) => says.includes(w)) && (c.group === '' || r.groups.includes(c.group))
  })
  const by: Record<Sort, (a: SquadRow, b: SquadRow) => number> = {
    due: (a, b) => earlierFirst(a.dueOn, b.dueOn) || gravity(a) - gravity(b),
    name: () => 0,
    peak: (a, b) => earlierFirst(nextPeak(a, today), nextPeak(b, today)),
    age: (a, b) => a.age - b.age,
  }
  // The server's order is by name: a steady sort leaves it among equals.
  const sorted = [...wanted].sort(by[c.sort])
  const golfers = sorted.map((row): Line => ({ kind: 'golfer', row }))
  if (c.sort !== 'due' || golfers.length === 0) return golfers
  const sunday = addDays(monday(today), 6)
  const n = sorted.filter((r) => r.dueOn <= sunday).length
  if (n === 0 || n === sorted.length) return golfers
  return [
    { kind: 'head', text: 'Due this week', count: n },
    ...golfers.slice(0, n),
    { kind: 'head', text: 'Later', count: sorted.length - n },
    ...golfers.slice(n),
  ]
}

/** The groups there are, by name. */
export const groupsOf = (rows: SquadRow[]) => [...new Set(rows.flatMap((r) => r.groups))].sort()
