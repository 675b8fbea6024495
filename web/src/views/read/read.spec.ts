import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import ChangeList from './ChangeList.vue'
import NextTests from './NextTests.vue'
import QualityList from './QualityList.vue'
import QualityReasons from './QualityReasons.vue'
import SpeedSection from './SpeedSection.vue'
import StrengthSection from './StrengthSection.vue'

const VBtn = { template: '<button><slot /></button>' }
const quality = (id: string, rank: number, more: object = {}) => ({
  id,
  name: id,
  status: rank ? 'ranked' : 'not-measured',
  rank,
  gap: 0.6,
  need: -0.25,
  relevance: 1,
  coverage: 0.8,
  sentence: `${id} in full`,
  why: '',
  level: rank === 1 ? 'lead' : 'keep',
  verdict: 'clear',
  against: 'clearly below target',
  ...more,
})
const test = (id: string, more: object = {}) => ({
  test: id,
  name: id,
  sides: [],
  source: 'a book',
  unit: 'cm',
  decimals: 0,
  ...more,
})
const stubs = { SpreadStrip: true, HistoryLine: true, VBtn }

describe('the order of qualities', () => {
  const read = {
    screenDate: '2026-11-19',
    leaders: ['mobility'],
    qualities: [quality('mobility', 1), quality('grip', 2), quality('control', 0)],
  } as unknown as Schemas['Read']
  const tests = new Map([['mobility', [test('hip')]]]) as unknown as Map<string, Schemas['TestRead'][]>
  const open = (modelValue: string) =>
    mount(QualityList, { props: { read, tests, waiting: false, modelValue }, global: { stubs } })
  it('shows what the core said of each, and opens one', async () => {
    const w = open('mobility')
    expect(w.findAll('ol > li, .qualities > li').length).toBeGreaterThan(2)
    expect(w.text()).toContain('clearly below target')
    expect(w.find('.level.lead').text()).toBe('leads')
    expect(w.text(), 'the leader is said in the headline').not.toContain('mobility in full')
    expect(w.find('.open').text()).toBe('grip in full')
    await w.findAll('button.q')[1]?.trigger('click')
    expect(w.emitted('update:modelValue')).toEqual([['grip']])
  })
  it('keeps what is not ranked apart, with why', () => {
    const w = open('grip')
    expect(w.find('section h2').text()).toBe('Not ranked')
    expect(w.find('section').text()).toContain('control in full')
  })
})

it('says what a quality rests on, and where its error comes from', () => {
  const tests = [test('hip', { sentence: 'short by 13°', detectable: 8.2, errorFrom: 'our squad' })]
  const w = mount(QualityReasons, {
    props: {
      quality: quality('mobility', 1, { why: 'Gap 1.07 spreads' }),
      tests,
      ranges: [{ test: 'hip', side: 'lead', for: 'a line' }],
      units: { speed: 'mph' },
    } as never,
    global: { stubs },
  })
  for (const part of [
    'Gap 1.07 spreads',
    '80% of the quality',
    'short by 13°',
    'Real from 8.2 cm; error: our squad',
    'a line',
  ])
    expect(w.text()).toContain(part)
})

it('draws what a leader could be worth, and says where the band comes from', () => {
  const worth = {
    low: 1,
    high: 3,
    carryLow: 4,
    carryHigh: 15,
    from: 'squad',
    golfers: 24,
    sentence: 'Closing it could be worth 2.2 to 6.7 mph: an upper bound.',
    basis: '24 golfers here',
    source: 'this practice',
  }
  const w = mount(QualityReasons, {
    props: { quality: quality('jump', 1, { worth }), tests: [], ranges: [], units: { speed: 'mph' } } as never,
    global: { stubs },
  })
  expect(w.text()).toContain('an upper bound')
  expect(w.text()).toContain('From this squad')
  expect(w.find('figure').attributes('aria-label')).toBe('2.2 to 6.7 mph on a scale from 0 to 8')
  expect(w.find('.scale i').attributes('style')).toContain('left: 27.5')
})

it('lists changes with how sure they are', () => {
  const change = (verdict: string) => ({ from: '', before: 1, by: 2, verdict, sentence: `is ${verdict}` })
  const tests = [
    test('jump', { sides: [{ side: '', change: change('real') }] }),
    test('grip', { sides: [{ side: 'lead' }] }),
  ]
  const w = mount(ChangeList, { props: { tests: tests as never } })
  expect(w.findAll('li').map((l) => l.text())).toEqual(['→jump: is real'])
  expect(
    mount(ChangeList, { props: { tests: [] } })
      .find('section')
      .exists(),
  ).toBe(false)
})

it('shows six tests to do next, and the rest when asked', async () => {
  const next = Array.from({ length: 8 }, (_, i) => ({
    test: `t${i}`,
    name: `t${i}`,
    sentence: `test ${i}`,
    chance: 0.1,
  }))
  const w = mount(NextTests, { props: { next }, global: { stubs } })
  expect(w.findAll('li')).toHaveLength(6)
  await w.find('button').trigger('click')
  expect(w.findAll('li')).toHaveLength(8)
  expect(w.find('button').text()).toBe('Fewer')
})

it('shows speed in the unit of the practice', () => {
  const speed = { goalSentence: 'g', shareSentence: 's', driver: 44.704, cruise: 40, shareOfCeiling: 0.9 }
  const text = (unit: 'mph' | 'm/s') => mount(SpeedSection, { props: { speed: speed as never, unit } }).text()
  expect(text('mph')).toContain('ceiling 100.0 mph')
  expect(text('m/s')).toContain('course 40.0 m/s')
  expect(text('m/s')).toContain('Other-side gap: not measured.')
})

it('puts the equations of a single between the lowest and the highest', () => {
  const equations = [100, 110].map((oneRM) => ({ name: `e${oneRM}`, source: '', oneRM }))
  const strength = { oneRM: 105, sentence: 'about 105', equations, valid: false }
  const w = mount(StrengthSection, { props: { strength: strength as never } })
  const left = w.findAll('i:not(.table)').map((i) => i.attributes('style'))
  expect(left).toEqual(['left: 5%;', 'left: 95%;'])
  expect(w.text()).toContain('none of them is advised')
})
