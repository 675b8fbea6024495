import type { Schemas } from '@/api/client'
import { shownUnit, type Units } from '@/parts/units'

export type Test = Schemas['Test']
export type CellChange = Schemas['CellChange']

/** One line of the sheet: a test, or one side of it. */
export interface Line {
  test: Test
  side: string
  first: boolean
  sides: number
}

export const SIDES: Record<Test['sides'], string[]> = {
  none: [''],
  limb: ['lead', 'trail'],
  direction: ['toward', 'away'],
  swing: ['playing', 'other'],
}

export function linesOf(tests: Test[]): Line[] {
  return tests
    .filter((t) => t.rule !== 'derived')
    .flatMap((test) => SIDES[test.sides].map((side, i, all) => ({ test, side, first: i === 0, sides: all.length })))
}

/** Trials shown beside each other; the rest stand beneath. */
export const ACROSS = 5

/** The trials that stand under a column: 2, 7, 12 under the second. */
export function under(line: Line, column: number): number[] {
  const out = []
  for (let t = column; t <= line.test.trials; t += ACROSS) out.push(t)
  return out
}

/** Tests the dynamometer can record. */
export const recordable = (t: Test) => t.id.startsWith('grip') && t.unit === 'kg' && t.sides === 'limb'

/** The tests of a sheet: those of its battery in its order, then others that hold something already. */
export function testsOf(all: Test[], set: string[], used: Iterable<string>): Test[] {
  const byId = new Map(all.map((t) => [t.id, t]))
  const wanted = new Set(set)
  const extra = new Set(used)
  const inSet = set.flatMap((id) => byId.get(id) ?? [])
  return [...inSet, ...all.filter((t) => extra.has(t.id) && !wanted.has(t.id))]
}

/** The unit a test's values are shown and typed in. */
export const unitShown = (test: Test, units: Units): string => (test.unit === 'deg' ? '°' : shownUnit(test.unit, units))

/** How a value of a test is written, so that the coach need not guess. */
export function howTyped(test: Test, unit: string): string {
  if (test.rule === 'one-rm') return `${unit} x reps @ reserve`
  if (test.rule === 'ladder') return `${unit} @ grams`
  return unit
}

/**
 * Whether a letter in a cell's field is a key and not a part of what is typed: nothing is being typed in it, or all of
 * it is chosen. CellInput marks what is being typed.
 */
export function letterIsKey(input: HTMLInputElement): boolean {
  if (input.dataset.typing === undefined || input.value === '') return true
  return input.selectionStart === 0 && input.selectionEnd === input.value.length
}

/** What a side came to on the day of a sheet; an older result is not the sheet's. */
export function resultOn(read: Schemas['TestRead'] | undefined, side: string, day: string) {
  return read?.date === day ? read.sides.find((s) => s.side === side)?.result : undefined
}

/** What a side came to the last time before a sheet's day, and, once there is a result to judge, how sure the change is. */
export function lastResult(
  read: Schemas['TestRead'] | undefined,
  side: string,
  day: string,
): { value: number; verdict?: Schemas['Change']['verdict'] } | undefined {
  const s = read?.sides.find((x) => x.side === side)
  if (resultOn(read, side, day) !== undefined) return s?.change && { value: s.change.before, verdict: s.change.verdict }
  const value = s?.result ?? s?.history?.at(-1)?.value
  return value === undefined ? undefined : { value }
}

/** Names a cell of a screen among the others. */
export function cellKey(c: { test: string; side?: string | undefined; trial: number }): string {
  return `${c.test}|${c.side ?? ''}|${c.trial}`
}

/**
 * Lays a block copied from a spreadsheet over the sheet, its first cell on the given line and trial. Either every
 * cell finds a place, or the answer says which one does not and nothing is laid.
 */
export function layPaste(
  text: string,
  lines: Line[],
  at: { line: number; trial: number },
): { cells: CellChange[] } | { error: string } {
  const rows = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n')
  if (rows.length > lines.length - at.line) {
    return {
      error: `${rows.length} rows were pasted, but only ${lines.length - at.line} are left from here. Nothing was pasted: copy fewer rows, or bring them in as a CSV file.`,
    }
  }
  const cells: CellChange[] = []
  for (const [i, row] of rows.entries()) {
    const line = lines[at.line + i]
    if (!line) continue
    for (const [j, value] of row.split('\t').entries()) {
      const trial = at.trial + j
      if (value.trim() === '') continue
      if (trial > line.test.trials) {
        return {
          error: `Row ${i + 1}, column ${j + 1} of what was pasted has no place: ${line.test.name} has ${line.test.trials} trials. Nothing was pasted.`,
        }
      }
      cells.push({ test: line.test.id, side: line.side, trial, text: value.trim() })
    }
  }
  return { cells }
}

/** Whether pasted text is a CSV of trials with its own header, to be brought in and not laid over the sheet. */
export function looksLikeTrialsFile(text: string): boolean {
  const head = text.split('\n', 1)[0]?.toLowerCase() ?? ''
  return head.includes('test') && head.includes('trial') && head.includes('value')
}

/** Every saved trial of a test as a change that says it again, with something about it changed. */
export function rewritten(
  saved: Map<string, Schemas['Trial']>,
  lines: Line[],
  test: Test,
  change: Partial<CellChange>,
): CellChange[] {
  return lines
    .filter((l) => l.test.id === test.id)
    .flatMap(({ side }) =>
      Array.from({ length: test.trials }, (_, i) => ({
        side,
        t: saved.get(cellKey({ test: test.id, side, trial: i + 1 })),
      })),
    )
    .flatMap(({ side, t }) =>
      t
        ? [
            {
              test: t.test,
              side,
              trial: t.trial,
              text: t.text,
              status: t.status,
              variant: t.variant,
              pain: t.pain,
              region: t.region,
              tingling: t.tingling,
              note: t.note,
              gaveOut: t.gaveOut as CellChange['gaveOut'],
              device: t.device,
              confirmed: true,
              ...change,
            },
          ]
        : [],
    )
}
