import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'
import type { Test } from '@/views/screen/cells'

import { clockAt, columnsOf, locked, nextSpot, trialWords } from './stationCells'

const jump = { id: 'cmj', sides: 'none', trials: 3, exertion: true } as unknown as Test
const grip = { id: 'grip', sides: 'limb', trials: 2 } as unknown as Test
const at = (row: number, column: number) => ({ row, column })

it('has a column for each trial of each side', () => {
  expect(columnsOf(jump).map(trialWords)).toEqual(['trial 1', 'trial 2', 'trial 3'])
  expect(columnsOf(grip).map(trialWords)).toEqual(['lead trial 1', 'lead trial 2', 'trail trial 1', 'trail trial 2'])
})

it('goes down the golfers, then to the next trial, past those who are locked', () => {
  const free = [1, 3]
  expect(nextSpot(free, 2, false, at(1, 0))).toEqual(at(3, 0))
  expect(nextSpot(free, 2, false, at(3, 0))).toEqual(at(1, 1))
  expect(nextSpot(free, 2, false, at(3, 1))).toBeUndefined()
  expect(nextSpot([], 2, false, at(0, 0))).toBeUndefined()
})

it('goes across the trials first where that is wished', () => {
  const free = [0, 2]
  expect(nextSpot(free, 2, true, at(0, 0))).toEqual(at(0, 1))
  expect(nextSpot(free, 2, true, at(0, 1))).toEqual(at(2, 0))
  expect(nextSpot(free, 2, true, at(2, 1))).toBeUndefined()
})

it('locks tests of effort for who is not cleared', () => {
  const row = (mayExert: boolean) => ({ golfer: { mayExert } }) as unknown as Schemas['StationRow']
  expect(locked(row(false), jump)).toBe(true)
  expect(locked(row(true), jump)).toBe(false)
  expect(locked(row(false), grip)).toBe(false)
  expect(locked(undefined, jump)).toBe(true)
})

it('counts the clock over midnight', () => {
  expect(clockAt('09:00', 75)).toBe('10:15')
  expect(clockAt('23:50', 15)).toBe('00:05')
})
