import { expect, it } from 'vitest'

import { capital, signed, spaced } from './words'

it('writes names, sentences and numbers as they are read', () => {
  expect(spaced('no-loaded-flexion')).toBe('no loaded flexion')
  expect(capital('lead hip')).toBe('Lead hip')
  expect(capital('')).toBe('')
  expect([signed(-1.25, 1), signed(2), signed(-0.04, 1), signed(-0.04), signed(-0.5, 1), signed(-0.4)]).toEqual([
    '−1.3',
    '2',
    '0.0',
    '0',
    '−0.5',
    '0',
  ])
})
