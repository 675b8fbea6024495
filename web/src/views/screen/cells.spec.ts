import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import { cellKey, lastResult, layPaste, letterIsKey, linesOf, looksLikeTrialsFile, rewritten, type Test } from './cells'

function make(id: string, sides: Test['sides'], trials: number): Test {
  return {
    id,
    name: id,
    group: 'g',
    unit: 'kg',
    decimals: 1,
    sides,
    trials,
    rule: 'best',
    setup: '',
    source: '',
    plausible: [0, 1],
    impossible: [0, 1],
    typicalError: 1,
  }
}
const lines = linesOf([
  make('mass', 'none', 2),
  make('grip', 'limb', 3),
  make('throw', 'direction', 3),
  make('speed', 'swing', 5),
])

describe('the lines of the sheet', () => {
  it('gives each side a line of its own, in sheet order', () => {
    expect(lines.map((l) => `${l.test.id} ${l.side}`.trim())).toEqual([
      'mass',
      'grip lead',
      'grip trail',
      'throw toward',
      'throw away',
      'speed playing',
      'speed other',
    ])
  })
})

describe('laying a pasted block', () => {
  it('starts at the cell and skips empty ones', () => {
    const laid = layPaste('40\t\t42\r\n38\t39\r\n', lines, { line: 1, trial: 1 })
    expect(laid).toEqual({
      cells: [
        { test: 'grip', side: 'lead', trial: 1, text: '40' },
        { test: 'grip', side: 'lead', trial: 3, text: '42' },
        { test: 'grip', side: 'trail', trial: 1, text: '38' },
        { test: 'grip', side: 'trail', trial: 2, text: '39' },
      ],
    })
  })
  it('lays nothing when a column has no place, and names it', () => {
    expect(layPaste('70\t71\t72', lines, { line: 0, trial: 1 })).toEqual({
      error: expect.stringContaining('Row 1, column 3 of what was pasted has no place: mass has 2 trials') as string,
    })
  })
  it('lays nothing when there are more rows than lines', () => {
    expect(layPaste('1\n'.repeat(1000), lines, { line: 5, trial: 1 })).toEqual({
      error: expect.stringContaining('1000 rows were pasted, but only 2 are left') as string,
    })
  })
})

it('knows a file of trials by its header', () => {
  expect(looksLikeTrialsFile('date,test,side,trial,value\n')).toBe(true)
  expect(looksLikeTrialsFile('date;test;trial;value')).toBe(true)
  expect(looksLikeTrialsFile('40\t41\t42')).toBe(false)
})

describe('letters in a cell', () => {
  const input = document.createElement('input')
  const at = (value: string, start: number, end: number) => {
    input.value = value
    input.setSelectionRange(start, end)
    input.dataset.typing = ''
    return letterIsKey(input)
  }
  it('are keys where nothing is typed or all is chosen, and text otherwise: 330lbs is not “stopped”', () => {
    expect(at('', 0, 0)).toBe(true)
    expect(at('42', 0, 2)).toBe(true)
    expect(at('330lb', 5, 5)).toBe(false)
    expect(at('0.53', 4, 4)).toBe(false)
    expect(at('42', 0, 1)).toBe(false)
    delete input.dataset.typing
    expect(letterIsKey(input)).toBe(true)
  })
})

it('says every saved trial of a test again, with something changed', () => {
  const grip = make('grip', 'limb', 2)
  const other = make('mass', 'none', 1)
  const trial = (side: string, n: number) => ({
    test: 'grip',
    side,
    trial: n,
    text: '40',
    status: 'done',
    variant: 'a',
  })
  const saved = new Map(
    [trial('lead', 1), trial('trail', 2)].map((t) => [cellKey(t), t as unknown as Schemas['Trial']]),
  )
  const cells = rewritten(saved, linesOf([other, grip]), grip, { variant: 'b' })
  expect(cells.map((c) => [c.side, c.trial, c.text, c.variant, c.confirmed])).toEqual([
    ['lead', 1, '40', 'b', true],
    ['trail', 2, '40', 'b', true],
  ])
})

describe('what a side came to last time', () => {
  const read = (date: string, side: object) =>
    ({ date, sides: [{ side: 'lead', ...side }] }) as unknown as Schemas['TestRead']

  it('is judged only where the sheet has a result of its own', () => {
    const change = { before: 30, verdict: 'real' }
    expect(lastResult(read('2026-11-24', { result: 34, change }), 'lead', '2026-11-24')).toEqual({
      value: 30,
      verdict: 'real',
    })
    expect(lastResult(read('2026-11-01', { result: 34, change }), 'lead', '2026-11-24')).toEqual({ value: 34 })
  })

  it('stays in sight while only the other side is done', () => {
    const history = [{ date: '2026-11-01', value: 31 }]
    expect(lastResult(read('2026-11-24', { history }), 'lead', '2026-11-24')).toEqual({ value: 31 })
    expect(lastResult(read('2026-11-24', {}), 'lead', '2026-11-24')).toBeUndefined()
  })
})
