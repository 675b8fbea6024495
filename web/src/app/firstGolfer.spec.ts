import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import { firstGolfer } from './firstGolfer'

type Row = Schemas['SquadRow']
const row = (id: string, clearance: Row['clearance'], screens: string[] = [], blocks: string[] = []): Row => ({
  id,
  name: id,
  age: 34,
  playingSide: 'right',
  clearance,
  note: '',
  step: 'read',
  dueOn: '2026-11-24',
  groups: [],
  notes: '',
  lane: {
    screens,
    competitions: [],
    blocks: blocks.map(
      (status) => ({ start: '2026-11-30', weeks: 4, emphasis: '', status }) as Row['lane']['blocks'][0],
    ),
  },
})
const next = (squad: Row[]) => {
  const s = firstGolfer(squad).find((x) => !x.done)
  return [s?.title, typeof s?.to === 'object' && 'name' in s.to ? s.to.name : '']
}

it('leads from an empty squad to a printed block', () => {
  expect(next([])).toEqual(['Add a golfer', 'squad'])
  expect(next([row('a', 'not-asked')])).toEqual(['Ask the questions', 'intake'])
  expect(next([row('a', 'clear')])).toEqual(['Screen', 'screen'])
  expect(next([row('a', 'clear', ['2026-11-24'])])).toEqual(['Read and draft', 'read'])
  expect(next([row('a', 'clear', ['2026-11-24'], ['draft'])])).toEqual(['Issue', 'programme'])
  expect(next([row('a', 'clear', ['2026-11-24'], ['issued'])])).toEqual(['Print', 'programme'])
})

it('follows the golfer who is farthest, and goes back where something is missing', () => {
  const squad = [row('a', 'not-asked'), row('b', 'clear', ['2026-11-24'])]
  expect(firstGolfer(squad).find((s) => !s.done)?.to).toEqual({ name: 'read', params: { id: 'b' } })
  expect(next([row('a', 'not-asked', ['2026-11-24'])])[0]).toBe('Ask the questions')
})
