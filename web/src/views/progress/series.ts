import type { Schemas } from '@/api/client'
import { addDays } from '@/parts/days'
import { decimalsShown, inShown, shownUnit, type Units } from '@/parts/units'

/** One test through time, ready to be drawn. */
export interface Row {
  test: string
  name: string
  unit: string
  decimals: number
  lines: { side: string; points: { date: string; value: number }[]; error: number; target?: number | undefined }[]
  /** Each side's last change, in words. */
  changes: { side: string; verdict: Schemas['Verdict'] | undefined; sentence: string }[]
}

/** The tests of a read that were done more than once the same way, or once, as rows, in the units the practice reads. */
export function rowsOf(tests: Schemas['TestRead'][], units: Units): Row[] {
  return tests
    .filter((t) => t.sides.some((s) => s.history?.length))
    .map((t) => {
      const shown = (v: number) => inShown(v, t.unit, units)
      return {
        test: t.test,
        name: t.name,
        unit: shownUnit(t.unit, units),
        decimals: decimalsShown(t.decimals, t.unit, units),
        lines: t.sides
          .filter((s) => s.history?.length)
          .map((s) => ({
            side: s.side,
            points: (s.history ?? []).map((p) => ({ date: p.date, value: shown(p.value) })),
            error: shown(s.typicalError),
            target: s.target === undefined || s.compared !== s.result ? undefined : shown(s.target),
          })),
        changes: t.sides.map((s) => ({ side: s.side, verdict: s.change?.verdict, sentence: s.change?.sentence ?? '' })),
      }
    })
}

/** The days everything is drawn over: from the first result or block to the last, with a little room. */
export function spanOf(rows: Row[], blocks: Schemas['TrainedBlock'][], speeds: { date: string }[], today: string) {
  const days = [
    ...rows.flatMap((r) => r.lines.flatMap((l) => l.points.map((p) => p.date))),
    ...blocks.flatMap((b) => [b.first, b.last]),
    ...speeds.map((s) => s.date),
    today,
  ].sort()
  return { from: addDays(days[0] ?? today, -4), to: addDays(days.at(-1) ?? today, 4) }
}
