import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import { gridOf, itemsOf, walked } from './grid'

function item(place: string, slot: Schemas['Slot'], name: string): Schemas['Item'] {
  return {
    id: `id-${place}`,
    place,
    slot,
    exercise: name,
    name,
    zone: 'Z4',
    dose: { sets: 3, unit: 'reps', sides: 'two', restSeconds: 60 },
    doseText: '3 × 5',
    typed: '3x5',
    loadText: '',
    minutes: 5,
    serves: {},
    level: 'keep' as const,
    cues: [],
    reason: { finding: '', rule: '', text: '', source: '' },
  }
}
function week(number: number, sessions: [Schemas['PlannedSession']['letter'], Schemas['Item'][]][]): Schemas['Week'] {
  return {
    id: `w${number}`,
    place: `b1.w${number}`,
    number,
    kind: 'rising',
    kindWords: 'rising',
    start: '2026-11-30',
    home: [],
    totals: { minutes: 0, swings: 0, throws: 0, contacts: 0, setsByZone: {} },
    sessions: sessions.map(([letter, items], i) => ({
      id: `w${number}s${i + 1}`,
      place: `b1.w${number}.s${i + 1}`,
      date: `2026-${letter === 'A' ? '12-02' : letter === 'B' ? '12-04' : '11-30'}`,
      letter,
      title: letter,
      budgetMinutes: 60,
      minutes: 50,
      items,
    })),
  }
}

const slots: Schemas['SlotInfo'][] = [
  { id: 'throw', name: 'throws' },
  { id: 'main-lift', name: 'main lift' },
  { id: 'range', name: 'range' },
]
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

it('puts the same slot of the same kind of day in one row, whatever week', () => {
  const days = gridOf(programme, slots)
  expect(days.map((d) => d.letter)).toEqual(['C', 'A'])
  expect(days[0]?.sessions[1]).toBeUndefined()
  expect(days[1]?.rows.map((r) => [r.slot, r.name, ...r.cells.map((c) => c?.place)])).toEqual([
    ['throws', 'Slam', undefined, '5'],
    ['main lift', 'Deadlift', '2', '6'],
    ['range', 'Hip', '3', '7'],
    ['range', 'Ankle', '4', undefined],
  ])
})

it('walks the sheet by arrow keys, over empty cells and from day to day', () => {
  const days = gridOf(programme, slots)
  const to = (from: string, key: string) => walked(days, `id-${from}`, key)?.place
  expect(to('2', 'ArrowRight')).toBe('6')
  expect(to('6', 'ArrowLeft')).toBe('2')
  expect(to('2', 'ArrowDown')).toBe('3')
  expect(to('2', 'ArrowUp')).toBe('1') // over the row that is empty in this week, to the day before
  expect(to('1', 'ArrowUp')).toBeUndefined()
  expect(to('4', 'ArrowRight')).toBeUndefined()
  expect(to('2', 'Enter')).toBeUndefined()
  expect(to('gone', 'ArrowDown')).toBeUndefined()
})

it('lists every item, those of home days too', () => {
  const [block] = programme.blocks
  const [first, ...others] = block?.weeks ?? []
  const home = { id: 'h', place: 'b1.w1.h1', date: '2026-12-01', items: [item('8', 'range', 'Hip')] }
  const withHome = { ...programme, blocks: [{ ...block, weeks: [{ ...first, home: [home] }, ...others] }] }
  expect(itemsOf(withHome as Schemas['Programme']).map((i) => i.place)).toEqual([
    '1',
    '2',
    '3',
    '4',
    '8',
    '5',
    '6',
    '7',
  ])
})
