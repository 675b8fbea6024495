import { computed, type Ref } from 'vue'

import type { Schemas } from '@/api/client'
import { groupBy } from '@/parts/groupBy'

import { ACROSS, type CellChange, type Line, linesOf, type Test, testsOf } from './cells'

/**
 * The lines of a sheet: the tests of the screen's set and whatever else holds something, one line a side. Lines, and the
 * trials of a line, keep their identity while they stay the same, so that only what changed is drawn anew.
 */
export function useSheetLines(
  all: () => Test[],
  screen: Ref<Schemas['Screen'] | undefined>,
  typed: Map<string, CellChange>,
) {
  const tests = computed(() =>
    testsOf(all(), screen.value?.set ?? [], [
      ...(screen.value?.trials ?? []).map((t) => t.test),
      ...[...typed.values()].map((c) => c.test),
    ]),
  )
  /** Which tests, as one text. */
  const ids = computed(() => tests.value.map((t) => t.id).join(' '))
  const lines = computed<Line[]>(() => {
    const wanted = ids.value.split(' ')
    return linesOf(wanted.flatMap((id) => all().find((t) => t.id === id) ?? []))
  })
  const trialsBySide = computed((before: Map<string, Schemas['Trial'][]> | undefined) => {
    const now = groupBy(screen.value?.trials ?? [], (t) => `${t.test}|${t.side ?? ''}`)
    for (const [key, list] of now) {
      const old = before?.get(key)
      if (old && old.length === list.length && old.every((t, i) => t === list[i])) now.set(key, old)
    }
    return now
  })
  const none: Schemas['Trial'][] = []
  const columns = computed(() => Math.min(ACROSS, Math.max(1, ...tests.value.map((t) => t.trials))))
  const reads = computed(() => new Map((screen.value?.tests ?? []).map((t) => [t.test, t])))
  return {
    lines,
    columns,
    reads,
    trialsOf: (line: Line) => trialsBySide.value.get(`${line.test.id}|${line.side}`) ?? none,
  }
}
