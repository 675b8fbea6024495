import { expect, it } from 'vitest'

import { placeNames, seasonScale } from './seasonScale'

it('puts nine weeks before the week of a day, and marks the first week of each month', () => {
  const scale = seasonScale('2026-11-25') // a Wednesday: its week began on the 23rd
  expect(scale.at('2026-09-21')).toBe(0)
  expect(scale.at('2026-11-23')).toBeCloseTo(9 / 26)
  expect(scale.inside('2027-03-22')).toBe(true)
  expect(scale.inside('2027-03-23')).toBe(false)
  expect(scale.ticks.map((t) => t.label).filter(Boolean)).toEqual(['Oct', 'Nov', 'Dec', 'Jan', 'Feb', 'Mar'])
})

it('sets a name right of its pole, left where there is no room, and nowhere where there is none at all', () => {
  const poles = [
    { at: 0.5, name: 'Winter foursomes' },
    { at: 0.74, name: 'Inter-island match' },
  ]
  expect(placeNames(poles, 900)).toEqual(['right', 'right'])
  expect(placeNames(poles, 560)).toEqual(['right', ''])
  expect(placeNames(poles.slice(1), 400)).toEqual(['left'])
  expect(placeNames(poles, 150)).toEqual(['', ''])
  expect(placeNames([], 400)).toEqual([])
})
