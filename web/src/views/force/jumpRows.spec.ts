import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import { rowsOf, shown } from './jumpRows'

const rows = rowsOf({ onsetRule: 'back30ms' } as Schemas['JumpResult'])
const row = (key: string) => {
  const found = rows.find((r) => r.key === key)
  if (!found) throw new Error(key)
  return found
}

it('shows metres in centimetres, and what was not measured as a dash', () => {
  expect(shown(0.3186, row('jumpHeightM'))).toBe('31.9')
  expect(shown(null, row('jumpHeightM'))).toBe('–')
  expect(shown(-0.012, row('heightDifferenceM'))).toBe('−1.2')
  expect(shown(-0.00004, row('heightDifferenceM'))).toBe('0.0')
})

it('says how the onset was found', () => {
  expect(row('timeToTakeoffS').how).toBe('onset 30 ms back')
  expect(
    rowsOf({ onsetRule: '5sd' } as unknown as Schemas['JumpResult']).find((r) => r.key === 'timeToTakeoffS')?.how,
  ).toBe('from onset')
})
