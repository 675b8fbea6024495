import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'
import BlocksInTime from '@/plots/BlocksInTime.vue'
import TimeRow from '@/plots/TimeRow.vue'

import { rowsOf, spanOf } from './series'

const side = (s: Partial<Schemas['SideRead']>): Schemas['SideRead'] => ({
  side: '',
  valid: 3,
  cv: 1,
  typicalError: 1,
  ...s,
})
const test = (t: Partial<Schemas['TestRead']>): Schemas['TestRead'] => ({
  test: 'cmj',
  name: 'Jump',
  group: 'Jumps',
  unit: 'cm',
  decimals: 1,
  status: 'measured',
  date: '2026-11-24',
  sides: [],
  sentence: '',
  source: '',
  errorFrom: '',
  ...t,
})
const block = (b: Partial<Schemas['TrainedBlock']>): Schemas['TrainedBlock'] => ({
  version: 1,
  first: '2026-11-02',
  last: '2026-11-15',
  phase: 'preparation',
  emphasis: 'grip',
  school: 'Barn',
  weeks: [
    { start: '2026-11-02', words: 'rising', sessions: 3, minutes: 60 },
    { start: '2026-11-09', words: 'easier', sessions: 3, minutes: 40 },
  ],
  qualities: [
    { quality: 'grip', name: 'grip', level: 'lead', minutes: [30, 15] },
    { quality: 'control', name: 'control', level: 'build', minutes: [10, 5] },
  ],
  ...b,
})

it('makes a row of each test that has results, speeds in the unit they are read in', () => {
  const history = [
    { date: '2026-10-01', value: 44.704 },
    { date: '2026-11-24', value: 45.1 },
  ]
  const rows = rowsOf(
    [
      test({
        test: 'driver-speed',
        unit: 'm/s',
        sides: [
          side({
            history,
            typicalError: 0.44704,
            change: { from: '2026-10-01', before: 1, by: 1, verdict: 'real', sentence: 'Faster.' },
          }),
        ],
      }),
      test({ test: 'none', sides: [side({})] }),
      test({ sides: [side({ side: 'lead', history }), side({ side: 'trail', history })] }),
    ],
    { speed: 'mph' },
  )
  expect(rows.map((r) => [r.test, r.unit, r.lines.length])).toEqual([
    ['driver-speed', 'mph', 1],
    ['cmj', 'cm', 2],
  ])
  expect(rows[0]?.lines[0]?.points[0]?.value).toBe(100) // 44.704 m/s are 100 mph
  expect(rows[0]?.lines[0]?.error).toBe(1)
  expect(rows[0]?.changes).toEqual([{ side: '', verdict: 'real', sentence: 'Faster.' }])
})

it('draws everything over one span of days', () => {
  const rows = rowsOf([test({ sides: [side({ history: [{ date: '2026-10-01', value: 1 }] })] })], { speed: 'mph' })
  expect(spanOf(rows, [block({})], [{ date: '2026-09-20' }], '2026-11-24')).toEqual({
    from: '2026-09-16',
    to: '2026-11-28',
  })
  expect(spanOf([], [], [], '2026-11-24')).toEqual({ from: '2026-11-20', to: '2026-11-28' })
})

it('draws a test with its error, the trail side open, and writes the last results', () => {
  const points = [
    { date: '2026-10-01', value: 30 },
    { date: '2026-11-24', value: 33 },
  ]
  const w = mount(TimeRow, {
    props: {
      lines: [
        { side: 'lead', points, error: 1, target: 35 },
        { side: 'trail', points: [{ date: '2026-11-24', value: 33 }], error: 1 },
      ],
      from: '2026-09-20',
      to: '2026-12-01',
      label: 'Hip',
      decimals: 1,
    },
  })
  expect(w.findAll('.band')).toHaveLength(1)
  expect(w.findAll('.mark')).toHaveLength(3)
  expect(w.findAll('.mark.open')).toHaveLength(1)
  expect(w.find('.target').exists()).toBe(true)
  const ends = w.findAll('text')
  expect(ends.map((e) => e.text())).toEqual(['33.0', '33.0'])
  expect(Math.abs(Number(ends[0]?.attributes('y')) - Number(ends[1]?.attributes('y')))).toBeGreaterThanOrEqual(12)
  expect(w.attributes('aria-label')).toContain('lead 30 on Thu 1 Oct 2026')
})

it('stacks the minutes of each week by what they were for', () => {
  const w = mount(BlocksInTime, {
    props: {
      blocks: [block({}), block({ version: 2, first: '2027-06-01', last: '2027-06-28' })],
      from: '2026-10-01',
      to: '2026-12-01',
      today: '2026-11-24',
    },
  })
  expect(w.findAll('.bar.lead')).toHaveLength(2)
  const [first, second] = w.findAll('.bar.lead').map((r) => Number(r.attributes('height')))
  expect(first).toBeCloseTo(2 * (second ?? 0), 5)
  expect(w.attributes('aria-label')).toContain('Leads: grip. Built: control.')
  expect(w.attributes('aria-label')).not.toContain('Version 2')
})
