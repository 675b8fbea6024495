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

/** The rows of one kind of day (A, B or C) with its session in each week. */
export interface GridDay {
  letter: Schemas['PlannedSession']['letter']
  title: string
  sessions: (PlannedSession | undefined)[]
  rows: GridRow[]
}

/** Turns a programme's weeks into rows and columns: the same slot of the same kind of day shares a row. */
export function gridOf(programme: Programme, slots: Schemas['SlotInfo'][]): GridDay[] {
  const weeks = programme.blocks.flatMap((b) => b.weeks)
  const letters = [...new Set(weeks.flatMap((w) => w.sessions.map((s) => s.letter)))].sort(
    (a, b) => firstOn(weeks, a) - firstOn(weeks, b),
  )
  return letters.map((letter) => {
    const sessions = weeks.map((w) => w.sessions.find((s) => s.letter === letter))
    const rows: GridRow[] = []
    for (const slot of slots) {
      const inSlot = sessions.map((s) => s?.items.filter((i) => i.slot === slot.id) ?? [])
      const depth = Math.max(0, ...inSlot.map((items) => items.length))
      for (let i = 0; i < depth; i++) {
        const cells = inSlot.map((items) => items[i])
        rows.push({ key: `${letter}|${slot.id}|${i}`, slot: slot.name, name: cells.find((c) => c)?.name ?? '', cells })
      }
    }
    return { letter, title: sessions.find((s) => s)?.title ?? '', sessions, rows }
  })
}

function firstOn(weeks: Schemas['Week'][], letter: string): number {
  for (const w of weeks) {
    const at = w.sessions.findIndex((s) => s.letter === letter)
    if (at >= 0) return at
  }
  return 0
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
