import { expect, it } from 'vitest'

import { ACROSS, type Line } from './cells'
import { after, before, vertical } from './sheetWalk'

const line = (id: string, trials: number) => ({ test: { id, trials }, side: '' }) as unknown as Line
const lines = [line('mass', 2), line('jump', 3), line('swings', ACROSS + 2), line('lift', 1)]
const open = () => false
const at = (l: number, trial: number) => ({ line: l, trial })

it('goes on to the next trial, and after the last to the next line', () => {
  expect(after(lines, open, at(0, 1))).toEqual(at(0, 2))
  expect(after(lines, open, at(0, 2))).toEqual(at(1, 1))
  expect(after(lines, open, at(3, 1))).toBeUndefined()
})

it('goes back the same way', () => {
  for (const spot of [at(0, 1), at(0, 2), at(1, 3), at(2, 7)])
    expect(before(lines, open, after(lines, open, spot) ?? spot)).toEqual(spot)
  expect(before(lines, open, at(0, 1))).toBeUndefined()
  expect(before(lines, (l) => l.test.id === 'jump', at(2, 1))).toEqual(at(0, 2))
})

it('passes over what is locked', () => {
  const jump = (l: Line) => l.test.id === 'jump'
  expect(after(lines, jump, at(0, 2))).toEqual(at(2, 1))
  expect(after(lines, jump, at(1, 1))).toEqual(at(2, 1))
})

it('moves within the stacked trials of a long test before it leaves it', () => {
  expect(vertical(lines, at(2, 1), 1)).toEqual(at(2, 1 + ACROSS))
  expect(vertical(lines, at(2, 1 + ACROSS), 1)).toEqual(at(3, 1))
  expect(vertical(lines, at(3, 1), -1)).toEqual(at(2, 1 + ACROSS))
  expect(vertical(lines, at(1, 3), -1)).toEqual(at(0, 2))
})

it('stays where there is nothing further', () => {
  expect(vertical(lines, at(0, 1), -1)).toEqual(at(0, 1))
  expect(vertical(lines, at(3, 1), 1)).toEqual(at(3, 1))
})
