import { expect, it } from 'vitest'

import { eventRows } from './eventRows'

it('puts names in two rows where they would cover each other, whatever order they come in', () => {
  const rows = eventRows([
    { key: 'landing', at: 400 },
    { key: 'onset', at: 100 },
    { key: 'take-off', at: 140 },
    { key: 'push', at: 180 },
  ])
  expect(Object.fromEntries(rows)).toEqual({ onset: 0, 'take-off': 1, push: 0, landing: 0 })
})
