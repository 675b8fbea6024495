import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import { allNo, answerOf, withAnswer } from './clearance'

const questions = ['faint', 'heart', 'joint'].map((id) => ({ id, text: id, redFlag: id === 'faint' }))
const open: Schemas['Clearance'] = { answeredOn: '', yes: [] }
const answer = (c: Schemas['Clearance'], ...said: [string, boolean][]) =>
  said.reduce((now, [id, yes]) => withAnswer(now, questions, id, yes, '2026-11-24'), c)

it('keeps each no by itself until every question has an answer', () => {
  const two = answer(open, ['faint', false], ['heart', false])
  expect(two).toEqual({ answeredOn: '', yes: [], no: ['faint', 'heart'] })
  expect(questions.map((q) => answerOf(two, q.id))).toEqual(['no', 'no', ''])
  expect(answer(two, ['joint', false])).toEqual({ answeredOn: '2026-11-24', yes: [] })
})

it('counts a yes at once, and the rest as answered with it', () => {
  const c = answer(open, ['faint', false], ['heart', true])
  expect(c).toEqual({ answeredOn: '2026-11-24', yes: ['heart'] })
  expect(answerOf(c, 'heart')).toBe('yes')
})

it('takes a yes back, and changes nothing it was given', () => {
  const before = answer(open, ['heart', true])
  const frozen = JSON.stringify(before)
  expect(answer(before, ['heart', false])).toEqual({ answeredOn: '2026-11-24', yes: [] })
  expect(JSON.stringify(before)).toBe(frozen)
})

it('answers no to what is open, and leaves a yes', () => {
  expect(allNo(open, questions, '2026-11-24')).toEqual({ answeredOn: '2026-11-24', yes: [] })
  const some = allNo(answer(open, ['heart', false]), questions, '2026-11-24')
  expect(some).toEqual({ answeredOn: '2026-11-24', yes: [] })
  const yes = { answeredOn: '2026-11-20', yes: ['heart'] }
  expect(allNo(yes, questions, '2026-11-24')).toEqual(yes)
})
