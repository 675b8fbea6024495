import { expect, test } from 'vitest'

import { itemWords, stepsOf } from './steps'
import type { Item } from './useWarmUp'

const item = (what: Partial<Item>): Item => ({
  id: 'a',
  phase: 'joints',
  name: 'Head turns',
  seconds: 21,
  side: 'each',
  repetitions: 5,
  holdSeconds: 0,
  swings: 0,
  intentPercent: 0,
  ...what,
})

test('what is done a side is called side by side, in the same time', () => {
  const steps = stepsOf([item({})])
  expect(steps.map((s) => s.side)).toEqual(['first side', 'change sides'])
  expect(steps.reduce((s, x) => s + x.seconds, 0)).toBe(21)
  expect(new Set(steps.map((s) => s.id)).size).toBe(2)
})

test('one side is named, both at once are not', () => {
  expect(stepsOf([item({ side: 'lead' })])[0]?.side).toBe('lead side')
  expect(stepsOf([item({ side: 'lead' })], 'left')[0]?.side).toBe('right side')
  expect(stepsOf([item({ side: 'away' })], 'right')[0]?.side).toBe('to your right')
  expect(stepsOf([item({ side: 'other', swings: 3 })])[0]?.side).toBe('other side')
  expect(stepsOf([item({ side: '' })])[0]?.side).toBeUndefined()
  expect(stepsOf([item({ side: 'playing', swings: 3 })])).toHaveLength(1)
})

test('an item in a line of text', () => {
  expect(itemWords(item({ dose: '5 a side' }))).toBe('Head turns (5 a side)')
  expect(itemWords(item({ phase: 'raise', name: 'Walk' }))).toBe('Walk (21 s)')
})
