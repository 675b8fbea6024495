import { expect, it } from 'vitest'

import type { Test } from './cells'
import { hasParts, partsOf, textOf } from './fields'

it('takes a value apart and puts it together again', () => {
  for (const [text, lift] of [
    ['150x5@2', true],
    ['102.5x3@1.5', true],
    ['118.5@310', false],
  ] as const)
    expect(textOf(partsOf(text), lift)).toBe(text)
})

it('has nothing to say of what is no such value', () => {
  for (const text of ['', 'stopped', '150x5', '42.5']) expect(partsOf(text)).toEqual({})
})

it('writes nothing while a part is missing', () => {
  expect(textOf({ first: 150, second: 2 }, true)).toBe('')
  expect(textOf({ first: 150, reps: 5 }, true)).toBe('')
  expect(textOf({ first: 118 }, false)).toBe('')
})

it('is offered where a value has parts', () => {
  const test = (rule: Test['rule']) => ({ rule }) as Test
  expect(['one-rm', 'ladder', 'best'].map((r) => hasParts(test(r as Test['rule'])))).toEqual([true, true, false])
  expect(hasParts(undefined)).toBe(false)
})
