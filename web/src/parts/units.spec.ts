import { expect, it } from 'vitest'

import { decimalsShown, inShown, numberShown, shownUnit, unitAfter, type Units } from './units'

const american: Units = { speed: 'mph', mass: 'lb', length: 'in', distance: 'ft' }
const metric: Units = { speed: 'm/s', mass: 'kg', length: 'cm', distance: 'm' }

// International yard and pound (1959): exact.
it.each([
  [1, 'kg', 2.2046226218, 'lb'],
  [2.54, 'cm', 1, 'in'],
  [0.3048, 'm', 1, 'ft'],
  [44.704, 'm/s', 100, 'mph'],
  [30, 'deg', 30, 'deg'],
  [12, 'reps', 12, 'reps'],
])('%s %s is %s %s', (kept, unit, shown, as) => {
  expect(inShown(kept, unit, american)).toBeCloseTo(shown, 8)
  expect(shownUnit(unit, american)).toBe(as)
  expect(inShown(kept, unit, metric)).toBe(kept)
})

it('a value is written as the practice reads it', () => {
  expect(numberShown(34.2, 'cm', 1, metric)).toBe('34.2')
  expect(numberShown(34.2, 'cm', 0, american)).toBe('13.5')
  expect(decimalsShown(2, 'm', metric)).toBe(2)
  expect(unitAfter('deg', american)).toBe('°')
  expect(unitAfter('cm', american)).toBe(' in')
  expect(unitAfter('%', american)).toBe('%')
})
