import { expect, it } from 'vitest'

import { groupBy } from './groupBy'

it('keeps the order of groups and of what is in them', () => {
  const groups = groupBy([5, 2, 7, 4], (n) => (n % 2 ? 'odd' : 'even'))
  expect([...groups]).toEqual([
    ['odd', [5, 7]],
    ['even', [2, 4]],
  ])
  expect(groupBy([], String).size).toBe(0)
})
