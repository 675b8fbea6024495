import { expect, it } from 'vitest'

import rules from '../../../internal/core/rulebook/rules.json?raw'

import { ruleName, weight } from './rules'

const book = JSON.parse(rules) as {
  rules: { id: string; severity: string }[]
}

it('calls every rule of the book by a name of its own, and says how much it weighs', () => {
  expect(book.rules.length).toBeGreaterThan(20)
  const names = book.rules.map((r) => ruleName(r.id))
  expect(new Set(names).size).toBe(names.length)
  // A rule without a name would be called by its code.
  const plain = book.rules.filter((r) => ruleName(r.id).toLowerCase() === r.id.toLowerCase().replaceAll('-', ' '))
  expect(plain.map((r) => r.id)).toEqual(['BOTH-SIDES', 'IN-SEASON', 'RETEST'])
  expect(book.rules.filter((r) => !weight[r.severity])).toEqual([])
})

it('says what it does not know in plain letters', () => {
  expect(ruleName('NEW-RULE')).toBe('New rule')
})
