import type { Schemas } from '@/api/client'

type Programme = Schemas['Programme']
export type Item = Schemas['Item']
export type PlannedSession = Schemas['PlannedSession']

/** One row of the sheet: a slot of one kind of day, with what stands there in each week. */
export interface GridRow {
  key: string
  slot: string // in words
  name: string
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

/**
 * Turns a programme's weeks into rows and columns: the sessions of one weekday stand beside each other, and the same
 * slot shares a row. Slots stand in the order in which they are done.
 */
export function gridOf(programme: Programme, slots: Schemas['SlotInfo'][]): GridDay[] {
  const weeks = programme.blocks.flatMap((b) => b.weeks)
  const offset = (w: Schemas['Week'], s: PlannedSession) => (Date.parse(s.date) - Date.parse(w.start)) / 86_400_000
  const days = [...new Set(weeks.flatMap((w) => w.sessions.map((s) => offset(w, s))))].sort((a, b) => a - b)
  return days.map((day) => {
    const sessions = weeks.map((w) => w.sessions.find((s) => offset(w, s) === day))
    const there = sessions.filter((s) => s !== undefined)
    const first = (slot: string) =>
      Math.min(...there.map((s) => s.items.findIndex((i) => i.slot === slot)).map((at) => (at < 0 ? 1000 : at)))
    const rows: GridRow[] = []
    for (const slot of [...slots].sort((a, b) => first(a.id) - first(b.id))) {
      const inSlot = sessions.map((s) => s?.items.filter((i) => i.slot === slot.id) ?? [])
      const depth = Math.max(0, ...inSlot.map((items) => items.length))
      for (let i = 0; i < depth; i++) {
        const cells = inSlot.map((items) => items[i])
        rows.push({ key: `${day}|${slot.id}|${i}`, slot: slot.name, name: cells.find((c) => c)?.name ?? '', cells })
      }
    }
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

/** Every item of a programme, in the order of its weeks; those of home days too. */
export function itemsOf(programme: Programme): Item[] {
  return programme.blocks.flatMap((b) =>
    b.weeks.flatMap((w) => [...w.sessions.flatMap((s) => s.items), ...w.home.flatMap((h) => h.items)]),
  )
}
