import { ACROSS, type Line, under } from './cells'

/** A cell of the sheet: a line, and a trial from 1. */
export interface Spot {
  line: number
  trial: number
}

/** The next cell in the order of the protocol: next trial, next side, next test; lines that are locked are passed over. */
export function after(lines: Line[], locked: (line: Line) => boolean, at: Spot): Spot | undefined {
  const line = lines[at.line]
  if (line && at.trial < line.test.trials && !locked(line)) return { line: at.line, trial: at.trial + 1 }
  const next = lines.findIndex((l, i) => i > at.line && !locked(l))
  return next < 0 ? undefined : { line: next, trial: 1 }
}

/** The cell before one in that order. */
export function before(lines: Line[], locked: (line: Line) => boolean, at: Spot): Spot | undefined {
  if (at.trial > 1) return { line: at.line, trial: at.trial - 1 }
  const i = lines.findLastIndex((l, j) => j < at.line && !locked(l))
  const line = lines[i]
  return line && { line: i, trial: line.test.trials }
}

/** Up or down: within the stacked trials of a long test first, then to the next line. */
export function vertical(lines: Line[], at: Spot, by: 1 | -1): Spot {
  const stacked = at.trial + by * ACROSS
  if (stacked >= 1 && stacked <= (lines[at.line]?.test.trials ?? 0)) return { line: at.line, trial: stacked }
  const next = lines[at.line + by]
  if (!next) return at
  const places = under(next, ((at.trial - 1) % ACROSS) + 1)
  return { line: at.line + by, trial: (by === 1 ? places[0] : places.at(-1)) ?? next.test.trials }
}
