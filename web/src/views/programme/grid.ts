import type { Schemas } from '@/api/client'

type Programme = Schemas['Programme']
export type Item = Schemas['Item']
export type PlannedSession = Schemas['PlannedSession']

/** One row of the sheet: a slot of one kind of day, with what stands there in each week. */
export interface GridRow {
  key: string
  slot: string
  name: string
  cells: (Item | undefined)[]
}

/** The rows of one kind of day (A, B or C) with its session in each week. */
export interface GridDay {
  letter: string
  title: string
  sessions: (PlannedSession | undefined)[]
  rows: GridRow[]
}

/** Turns a programme's weeks into rows and columns: the same slot of the same kind of day shares a row. */
export function gridOf(programme: Programme, slots: string[]): GridDay[] {
  const weeks = programme.blocks.flatMap((b) => b.weeks)
  const letters = [...new Set(weeks.flatMap((w) => w.sessions.map((s) => s.letter)))].sort(
    (a, b) => firstOn(weeks, a) - firstOn(weeks, b),
  )
  return letters.map((letter) => {
    const sessions = weeks.map((w) => w.sessions.find((s) => s.letter === letter))
    const rows: GridRow[] = []
    for (const slot of slots) {
      const inSlot = sessions.map((s) => s?.items.filter((i) => i.slot === slot) ?? [])
      const depth = Math.max(0, ...inSlot.map((items) => items.length))
      for (let i = 0; i < depth; i++) {
        const cells = inSlot.map((items) => items[i])
        rows.push({ key: `${letter}|${slot}|${i}`, slot, name: cells.find((c) => c)?.name ?? '', cells })
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
