import { describe, expect, it } from 'vitest'

import { addDays, daysBetween, longDay, monday, shortDay } from './days'
import { fromShown, toShown } from './speed'

describe('civil dates', () => {
  it('walks over months, leap days and clock changes', () => {
    expect(addDays('2028-02-28', 1)).toBe('2028-02-29')
    expect(addDays('2026-10-24', 2)).toBe('2026-10-26')
    expect(daysBetween('2026-03-28', '2026-03-30')).toBe(2)
    expect(monday('2026-11-29')).toBe('2026-11-23')
    expect(monday('2026-11-30')).toBe('2026-11-30')
  })
  it('is written the way it is read', () => {
    expect(shortDay('2026-12-04')).toBe('4 Dec')
    expect(longDay('2026-12-04')).toBe('Fri 4 Dec')
    expect(shortDay('')).toBe('')
  })
})

describe('speeds', () => {
  it('come back as they were typed', () => {
    for (const typed of [70, 88.5, 104.9, 120]) expect(toShown(fromShown(typed, 'mph'), 'mph')).toBe(typed)
    expect(fromShown(100, 'mph')).toBe(44.704)
    expect(toShown(44.704, 'm/s')).toBe(44.7)
  })
})
