import { expect, it } from 'vitest'

import { golferPages, pageAt, topPages } from './pages'
import { router } from './router'

it('gives every page a letter of its own, and knows where it leads', () => {
  const letters = [...topPages, ...golferPages].map((p) => p.letter)
  expect(new Set(letters).size).toBe(letters.length)
  expect(letters.every((l) => /^[a-z]$/.test(l) && l !== 'g')).toBe(true)
  for (const p of topPages) expect(router.resolve({ name: p.name }).meta.title).toBe(p.title)
  expect(pageAt('q', '')).toEqual({ name: 'squad' })
  expect(pageAt('p', 'a')).toEqual({ name: 'programme', params: { id: 'a' } })
  expect(pageAt('p', '')).toBeUndefined()
  expect(pageAt('z', 'a')).toBeUndefined()
})
