import { expect, test } from 'vitest'

import { readTyped } from './typed'

test('one speed, in the unit of the practice', () => {
  expect(readTyped('100', 'mph').swings[0]?.clubMps).toBeCloseTo(44.704, 3)
  expect(readTyped('45,5', 'm/s').swings).toEqual([{ clubMps: 45.5 }])
})

test('a column, a row, and rows with ball and carry', () => {
  expect(readTyped('45\n46.2\r\n47', 'm/s').swings.map((s) => s.clubMps)).toEqual([45, 46.2, 47])
  expect(readTyped('45 46 47', 'm/s').swings).toHaveLength(3)
  expect(readTyped('45\t66\t210', 'm/s').swings).toEqual([{ clubMps: 45, ballMps: 66, carryM: 210 }])
  const yards = readTyped('101 148 240', 'mph').swings
  expect(yards).toHaveLength(1)
  expect(yards[0]?.carryM).toBeCloseTo(219.456, 3)
})

test('what is no club speed is said, and the rest is read', () => {
  const got = readTyped('45\nfast\n300\n46', 'm/s')
  expect(got.swings.map((s) => s.clubMps)).toEqual([45, 46])
  expect(got.wrong).toEqual(['“fast” holds no speeds', '300 m/s is no club speed'])
  expect(readTyped('  ', 'mph')).toEqual({ swings: [], wrong: [] })
})
