import { expect, it } from 'vitest'
import { reactive, ref } from 'vue'

import type { Schemas } from '@/api/client'

import type { CellChange, Test } from './cells'
import { useSheetLines } from './useSheetLines'

const test = (id: string, sides: Test['sides'], trials: number) =>
  ({ id, name: id, group: 'g', sides, trials }) as unknown as Test
const all = [test('mass', 'none', 2), test('grip', 'limb', 3), test('rope', 'none', 1)]
const trial = (id: string, side: string, n: number) => ({ test: id, side, trial: n }) as unknown as Schemas['Trial']
const screen = (trials: Schemas['Trial'][]) =>
  ({ set: ['mass', 'grip'], trials, tests: [] }) as unknown as Schemas['Screen']

it('has a line for each side of the tests of the set, and of whatever else holds something', () => {
  const shown = ref<Schemas['Screen'] | undefined>(screen([]))
  const typed = reactive(new Map<string, CellChange>())
  const s = useSheetLines(() => all, shown, typed)
  const names = () => s.lines.value.map((l) => `${l.test.id} ${l.side}`.trim())
  expect(names()).toEqual(['mass', 'grip lead', 'grip trail'])
  expect(s.columns.value).toBe(3)
  typed.set('rope||1', { test: 'rope', trial: 1, text: '12' } as CellChange)
  expect(names()).toContain('rope')
  typed.clear()
  shown.value = screen([trial('rope', '', 1)])
  expect(names()).toContain('rope')
})

it('keeps lines, and lists of trials, that stay the same', () => {
  const lead = trial('grip', 'lead', 1)
  const shown = ref<Schemas['Screen'] | undefined>(screen([lead]))
  const s = useSheetLines(() => all, shown, new Map())
  const lines = s.lines.value
  const [mass, grip] = lines
  if (!mass || !grip) throw new Error('no lines')
  const before = s.trialsOf(grip)
  shown.value = screen([lead, trial('mass', '', 1)])
  expect(s.lines.value).toBe(lines)
  expect(s.trialsOf(grip)).toStrictEqual(before)
  expect(s.trialsOf(mass)).toHaveLength(1)
  shown.value = undefined
  expect(s.trialsOf(mass)).toEqual([])
})
