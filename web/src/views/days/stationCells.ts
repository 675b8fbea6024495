import type { Schemas } from '@/api/client'
import { SIDES, type Test } from '@/views/screen/cells'

/** A cell of the station's table: a golfer's row, and a column of the test. */
export interface Spot {
  row: number
  column: number
}

/** One trial of the test that is done at the station, on one side. */
export interface Column {
  side: string
  trial: number
}

export const columnsOf = (test: Test): Column[] =>
  SIDES[test.sides].flatMap((side) => Array.from({ length: test.trials }, (_, i) => ({ side, trial: i + 1 })))

/** Whether a golfer must not do the test: it asks for effort, and they are not cleared for it. */
export const locked = (row: Schemas['StationRow'] | undefined, test: Test) =>
  test.exertion === true && row?.golfer.mayExert !== true

/**
 * Where typing goes on after a cell: to the next golfer, and after the last to the first golfer's next trial; or,
 * across, to the next trial first. Rows that are locked are passed over.
 */
export function nextSpot(free: number[], columns: number, across: boolean, at: Spot): Spot | undefined {
  const below = free.find((row) => row > at.row)
  if (across) {
    if (at.column + 1 < columns) return { row: at.row, column: at.column + 1 }
    return below === undefined ? undefined : { row: below, column: 0 }
  }
  if (below !== undefined) return { row: below, column: at.column }
  return at.column + 1 < columns && free[0] !== undefined ? { row: free[0], column: at.column + 1 } : undefined
}

/** The clock time so many minutes after a day's start, HH:MM. */
export function clockAt(start: string, minutes: number): string {
  const [h = 0, m = 0] = start.split(':').map(Number)
  const t = h * 60 + m + minutes
  return `${String(Math.floor(t / 60) % 24).padStart(2, '0')}:${String(t % 60).padStart(2, '0')}`
}

/** "lead trial 2", or "trial 2" where there are no sides. */
export const trialWords = (c: Column) => `${c.side} trial ${c.trial}`.trim()
