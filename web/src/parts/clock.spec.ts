import { expect, it } from 'vitest'

import { moment, timeOfDay } from './clock'

it('shows clock times in the practice’s zone, wherever the browser is', () => {
  const at = '2026-11-27T23:30:00Z'
  expect(moment(at, 'Pacific/Auckland')).toBe('Sat 28 Nov 2026, 12:30')
  expect(moment(at, 'Europe/London')).toBe('Fri 27 Nov 2026, 23:30')
  expect(timeOfDay(at, 'America/New_York')).toBe('18:30')
  expect(moment('', 'UTC') + timeOfDay(undefined, 'UTC')).toBe('')
})
