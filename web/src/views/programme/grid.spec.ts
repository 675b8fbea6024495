import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import { gridOf } from './grid'

function item(place: string, slot: string, name: string): Schemas['Item'] {
  return {
    place,
    slot,
    exercise: name,
    name,
    zone: 'Z4',
    dose: { sets: 3, unit: 'reps', sides: 'two', restSeconds: 60 },
    doseText: '3 × 5',
    loadText: '',
    minutes: 5,
    cues: [],
    reason: { finding: '', rule: '', text: '', source: '' },
  }
}
function week(number: number, sessions: [string, Schemas['Item'][]][]): Schemas['Week'] {
  return {
    place: `b1.w${number}`,
    number,
    kind: 'rising',
    start: '2026-11-30',
    home: [],
    totals: { minutes: 0, swings: 0, throws: 0, contacts: 0, setsByZone: {} },
    sessions: sessions.map(([letter, items], i) => ({
      place: `b1.w${number}.s${i + 1}`,
      date: '2026-11-30',
      letter,
      title: letter,
      budgetMinutes: 60,
      minutes: 50,
      items,
    })),
  }
}

it('puts the same slot of the same kind of day in one row, whatever week', () => {
  const programme = {
    blocks: [
      {
        place: 'b1',
        emphasis: '',
        weeks: [
          week(1, [
            ['C', [item('1', 'throw', 'Scoop')]],
            ['A', [item('2', 'main-lift', 'Deadlift'), item('3', 'range', 'Hip'), item('4', 'range', 'Ankle')]],
          ]),
          week(2, [['A', [item('5', 'throw', 'Slam'), item('6', 'main-lift', 'Squat'), item('7', 'range', 'Hip')]]]),
        ],
      },
    ],
  } as unknown as Schemas['Programme']
  const days = gridOf(programme, ['throw', 'main-lift', 'range'])
  expect(days.map((d) => d.letter)).toEqual(['C', 'A'])
  expect(days[0]?.sessions[1]).toBeUndefined()
  expect(days[1]?.rows.map((r) => [r.name, ...r.cells.map((c) => c?.place)])).toEqual([
    ['Slam', undefined, '5'],
    ['Deadlift', '2', '6'],
    ['Hip', '3', '7'],
    ['Ankle', '4', undefined],
  ])
})
