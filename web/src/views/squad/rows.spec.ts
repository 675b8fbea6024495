import { expect, it } from 'vitest'

import { board, type Chosen, groupsOf, type Line, type SquadRow } from './rows'

const TODAY = '2026-11-24' // a Tuesday: the week ends on the 29th
const row = (name: string, more: Partial<SquadRow> = {}): SquadRow => ({
  id: name,
  name,
  age: 30,
  playingSide: 'right',
  clearance: 'clear',
  note: 'On version 1',
  step: 'programme',
  dueOn: TODAY,
  groups: [],
  notes: '',
  lane: { screens: [], competitions: [], blocks: [] },
  ...more,
})
const peak = (date: string) => ({
  lane: { screens: [], competitions: [{ date, name: 'Cup', peak: true }], blocks: [] } as SquadRow['lane'],
})
const says = (lines: Line[]) => lines.map((l) => (l.kind === 'golfer' ? l.row.name : `${l.text} ${l.count}`))
const all: Chosen = { text: '', group: '', sort: 'due' }

it('puts what is due this week first, the gravest of a day before the others', () => {
  const rows = [
    row('Ada', { dueOn: '2026-12-13' }),
    row('Bo', { clearance: 'not-asked' }),
    row('Cy', { dueOn: '2026-11-29' }),
    row('Di', { clearance: 'red-flag' }),
    row('Ed', { dueOn: '2026-11-30' }),
  ]
  expect(says(board(rows, all, TODAY))).toEqual(['Due this week 3', 'Di', 'Bo', 'Cy', 'Later 2', 'Ed', 'Ada'])
})

it('has no headings where all are alike, and none in another order', () => {
  expect(says(board([row('Ada'), row('Bo')], all, TODAY))).toEqual(['Ada', 'Bo'])
  const rows = [row('Ada', peak('2027-03-01')), row('Bo'), row('Cy', peak('2026-12-01')), row('Di', peak('2026-01-01'))]
  expect(says(board(rows, { ...all, sort: 'peak' }, TODAY))).toEqual(['Cy', 'Ada', 'Bo', 'Di'])
  const ages = [row('Ada', { age: 40 }), row('Bo', { age: 12 })]
  expect(says(board(ages, { ...all, sort: 'age' }, TODAY))).toEqual(['Bo', 'Ada'])
})

it('finds by name, group, note and what is due; a group holds who is in it', () => {
  const rows = [
    row('Ada', { groups: ['Juniors'] }),
    row('Bo', { notes: 'sore wrist' }),
    row('Cy', { note: 'Screen: none yet' }),
  ]
  for (const [text, found] of [
    ['jun', 'Ada'],
    ['wrist', 'Bo'],
    ['none screen', 'Cy'],
    ['nobody', ''],
  ])
    expect(says(board(rows, { ...all, text: text ?? '' }, TODAY)).join(' ')).toBe(found)
  expect(says(board(rows, { ...all, group: 'Juniors' }, TODAY))).toEqual(['Ada'])
  expect(groupsOf([...rows, row('Di', { groups: ['Barn', 'Juniors'] })])).toEqual(['Barn', 'Juniors'])
})
