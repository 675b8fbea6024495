import type { Schemas } from '@/api/client'

type Programme = Schemas['Programme']
export type Item = Schemas['Item']
export type PlannedSession = Schemas['PlannedSession']

/** One row of the sheet: a slot of one kind of day, with what stands there in each week. */
export interface GridRow {
  key: string
  slotId: string
  slot: string // in words
  name: string
  exercises: Set<string>
  cells: (Item | undefined)[]
}

/** The rows of one training day with its session in each week. */
export interface GridDay {
  key: string
  letter: Schemas['PlannedSession']['letter']
  title: string
  sessions: (PlannedSession | undefined)[]
  rows: GridRow[]
}

/** How well an item stands in a row: the same exercise best, the same slot well, else not at all. */
function fit(row: GridRow, item: Item): number {
  if (row.slotId !== item.slot) return 0
  return row.exercises.has(item.exercise) ? 3 : 2
}

/**
 * Puts a session's items into rows in the order in which they are done: as many as can share a row with those of other
 * weeks do (the best alignment of the two orders); the others get rows of their own between.
 */
function align(
  rows: GridRow[],
  items: Item[],
  week: number,
  weeks: number,
  slotName: (id: string) => string,
  key: string,
) {
  const best = Array.from({ length: rows.length + 1 }, () => Array<number>(items.length + 1).fill(0))
  const at = (r: number, i: number) => best[r]?.[i] ?? 0
  for (let r = rows.length - 1; r >= 0; r--)
    for (let i = items.length - 1; i >= 0; i--) {
      const f = fit(rows[r] as GridRow, items[i] as Item)
      const line = best[r]
      if (line) line[i] = Math.max(at(r + 1, i), at(r, i + 1), f > 0 ? f + at(r + 1, i + 1) : 0)
    }
  const out: GridRow[] = []
  let r = 0
  let i = 0
  while (r < rows.length || i < items.length) {
    const row = rows[r]
    const item = items[i]
    const f = row && item ? fit(row, item) : 0
    if (row && item && f > 0 && at(r, i) === f + at(r + 1, i + 1)) {
      row.cells[week] = item
      row.exercises.add(item.exercise)
      out.push(row)
      r++
      i++
    } else if (row && (!item || at(r, i) === at(r + 1, i))) {
      out.push(row)
      r++
    } else if (item) {
      const cells = Array<Item | undefined>(weeks).fill(undefined)
      cells[week] = item
      out.push({
        key: `${key}|${item.id}`,
        slotId: item.slot,
        slot: slotName(item.slot),
        name: item.name,
        exercises: new Set([item.exercise]),
        cells,
      })
      i++
    }
  }
  return out
}

/**
 * Turns a programme's weeks into rows and columns: the sessions of one weekday stand beside each other, the same slot
 * shares a row, and every column reads down in the order in which its items are done.
 */
export function gridOf(programme: Programme, slots: Schemas['SlotInfo'][]): GridDay[] {
  const weeks = programme.blocks.flatMap((b) => b.weeks)
  const offset = (w: Schemas['Week'], s: PlannedSession) => (Date.parse(s.date) - Date.parse(w.start)) / 86_400_000
  const days = [...new Set(weeks.flatMap((w) => w.sessions.map((s) => offset(w, s))))].sort((a, b) => a - b)
  const slotName = (id: string) => slots.find((s) => s.id === id)?.name ?? id
  return days.map((day) => {
    const sessions = weeks.map((w) => w.sessions.find((s) => offset(w, s) === day))
    const there = sessions.filter((s) => s !== undefined)
    let rows: GridRow[] = []
    sessions.forEach((s, week) => {
      if (s) rows = align(rows, s.items, week, weeks.length, slotName, String(day))
    })
    for (const row of rows) row.name = row.cells.find((c) => c)?.name ?? row.name
    return { key: String(day), letter: there[0]?.letter ?? 'A', title: there[0]?.title ?? '', sessions, rows }
  })
}

const MOVES: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
}

/** The item an arrow key leads to from one of the sheet: up and down within a week, left and right between weeks. */
export function walked(days: GridDay[], from: string, key: string): Item | undefined {
  const move = MOVES[key]
  const rows = days.flatMap((d) => d.rows)
  const row = rows.findIndex((r) => r.cells.some((c) => c?.id === from))
  if (!move || row < 0) return undefined
  let r = row + move[0]
  let w = (rows[row]?.cells.findIndex((c) => c?.id === from) ?? -1) + move[1]
  for (let cells = rows[r]?.cells; cells && w >= 0 && w < cells.length; cells = rows[r]?.cells) {
    const cell = cells[w]
    if (cell) return cell
    r += move[0]
    w += move[1]
  }
  return undefined
}

/** The cells between two of the sheet, both included: those of the rows and weeks they span. */
export function between(days: GridDay[], a: string, b: string): string[] {
  const rows = days.flatMap((d) => d.rows)
  const find = (id: string) => {
    const row = rows.findIndex((r) => r.cells.some((c) => c?.id === id))
    return { row, week: rows[row]?.cells.findIndex((c) => c?.id === id) ?? -1 }
  }
  const from = find(a)
  const to = find(b)
  if (from.row < 0 || to.row < 0) return [b]
  const [top, bottom] = [Math.min(from.row, to.row), Math.max(from.row, to.row)]
  const [left, right] = [Math.min(from.week, to.week), Math.max(from.week, to.week)]
  return rows.slice(top, bottom + 1).flatMap((r) => r.cells.slice(left, right + 1).flatMap((c) => (c ? [c.id] : [])))
}

/** The session or home day an item stands in, with what stands there; undefined where it is gone. */
export function placeOf(
  programme: Programme,
  item: string,
): { id: string; items: Item[]; week: Schemas['Week'] } | undefined {
  for (const week of programme.blocks.flatMap((b) => b.weeks))
    for (const list of [...week.sessions, ...week.home])
      if (list.items.some((i) => i.id === item)) return { id: list.id, items: list.items, week }
  return undefined
}

/** Every item of a programme, in the order of its weeks; those of home days too. */
export function itemsOf(programme: Programme): Item[] {
  return programme.blocks.flatMap((b) =>
    b.weeks.flatMap((w) => [...w.sessions.flatMap((s) => s.items), ...w.home.flatMap((h) => h.items)]),
  )
}
