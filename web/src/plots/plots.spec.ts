import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import DifferencePlot from './DifferencePlot.vue'
import HistoryLine from './HistoryLine.vue'
import RunningOrder from './RunningOrder.vue'
import ShotSpread from './ShotSpread.vue'

const day: Schemas['Day'] = {
  id: 'd',
  date: '2026-11-24',
  name: 'Day',
  start: '09:30',
  stations: [
    { name: 'Range', minutes: 5, tiring: 0, places: 1, tests: ['hip-ir'] },
    { name: 'Lifts', minutes: 10, tiring: 2, places: 1, tests: ['trap-bar-lift'] },
  ],
  golfers: ['Ada', 'Bo'].map((name) => ({ id: name, name, junior: false, mayExert: true, clearance: '' })),
  plan: {
    slots: [
      { golfer: 0, station: 0, place: 0, start: 0, end: 5 },
      { golfer: 0, station: 1, place: 0, start: 5, end: 15 },
      { golfer: 1, station: 0, place: 0, start: 10, end: 15 },
      { golfer: 1, station: 1, place: 0, start: 15, end: 25 },
    ],
    minutes: 25,
    lowerBound: 25,
    why: 'Lifts',
    walks: 2,
    waiting: 0,
  },
}

describe('the running order', () => {
  it('puts every visit at its time, and says it in words', () => {
    const w = mount(RunningOrder, { props: { day, now: 7 } })
    const slots = w.findAll('.slot')
    expect(slots).toHaveLength(4)
    expect(slots[1]?.attributes('style')).toContain('left: 20%')
    expect(slots[1]?.find('.visually-hidden').text()).toBe('Lifts at 09:35')
    expect(slots[1]?.find('b').text()).toBe('2')
    expect(slots[1]?.classes()).toContain('tired2')
    expect(w.find('.now').attributes('style')).toMatch(/left: 28(\.0+\d)?%/)
  })

  it('counts over midnight', () => {
    const w = mount(RunningOrder, { props: { day: { ...day, start: '23:50' } } })
    expect(w.findAll('.slot')[3]?.text()).toContain('Lifts at 00:05')
  })
})

describe('a test through time', () => {
  const points = [
    { date: '2026-09-01', value: 30 },
    { date: '2026-10-01', value: 33 },
    { date: '2026-11-01', value: 32 },
  ]
  it('draws each result with its error and writes both ends', () => {
    const w = mount(HistoryLine, { props: { points, error: 1.5, open: false, label: 'Jump' } })
    expect(w.findAll('.mark')).toHaveLength(3)
    expect(w.findAll('.whisker')).toHaveLength(3)
    expect(w.findAll('text').map((t) => t.text())).toEqual(['30', '32'])
    expect(w.find('svg').attributes('aria-label')).toContain('33 on Thu 1 Oct 2026')
    const y = w.findAll('.mark').map((m) => Number(m.attributes('cy')))
    expect(Math.min(...y)).toBe(y[1])
  })
  it('is dashed and open for the trail side', () => {
    const w = mount(HistoryLine, { props: { points, error: 0, open: true, label: 'Hip trail' } })
    expect(w.find('.line').classes()).toContain('open')
  })
})

describe('differences of test and repeat', () => {
  const test: Schemas['RepeatTest'] = {
    test: 'cmj',
    name: 'Jump',
    unit: 'cm',
    decimals: 1,
    golfers: 3,
    used: 1.5,
    default: 1.5,
    source: 's',
    fromSquad: false,
    detectable: 4.2,
    pairs: [
      { golfer: 'A', side: 'lead', firstDate: '2026-11-01', secondDate: '2026-11-05', first: 30, second: 31 },
      { golfer: 'B', side: 'trail', firstDate: '2026-11-01', secondDate: '2026-11-05', first: 40, second: 40 },
      { golfer: 'C', side: 'lead', firstDate: '2026-11-01', secondDate: '2026-11-05', first: 35, second: 43 },
    ],
    repeats: {
      pairs: 3,
      mean: 36.5,
      meanChange: 3,
      changeInterval: { low: -7, high: 13 },
      sdOfDifferences: 4.4,
      typicalError: 3.1,
      typicalErrorInterval: { low: 1.6, high: 19 },
      cv: 8.5,
      icc11: 0.6,
      icc21: 0.6,
      icc31: 0.7,
      limits: { low: -5.6, high: 11.6 },
      lowerLimitInterval: { low: -24, high: 13 },
      upperLimitInterval: { low: -7, high: 30 },
      betweenSD: 5,
      smallestWorthwhile: 1,
      outliers: [2],
    },
  }
  it('marks each pair, the limits, and what lies outside', () => {
    const w = mount(DifferencePlot, { props: { test } })
    expect(w.findAll('.mark')).toHaveLength(3)
    expect(w.findAll('.mark.open')).toHaveLength(1)
    expect(w.findAll('.out')).toHaveLength(1)
    expect(w.findAll('.limit.dashed')).toHaveLength(2)
    expect(w.text()).toContain('upper limit 11.60')
    expect(w.text()).toContain('lower limit −5.60')
    expect(w.findAll('title')[2]?.text()).toContain('C lead: 35 on Sun 1 Nov 2026, 43 on Thu 5 Nov 2026')
  })
  it('draws pairs before anything can be worked out from them', () => {
    const w = mount(DifferencePlot, { props: { test: { ...test, repeats: undefined } } })
    expect(w.findAll('.mark')).toHaveLength(3)
    expect(w.findAll('.limit')).toHaveLength(0)
  })
})

it('a set of shots is as wide as its SD, and the whisker as the SD may be', () => {
  const spread = {
    shots: 10,
    mean: 1,
    meanInterval: { low: 0, high: 2 },
    sd: 2,
    sdInterval: { low: 1.4, high: 3.7 },
  }
  const w = mount(ShotSpread, { props: { spread, unit: 'deg', name: 'Start direction' } })
  const bar = Number(w.find('.bar').attributes('width'))
  const whisker = w.find('.whisker')
  const long = Number(whisker.attributes('x2')) - Number(whisker.attributes('x1'))
  expect(long / bar).toBeCloseTo(3.7 / 2, 5)
})
