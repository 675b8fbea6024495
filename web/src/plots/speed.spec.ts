import { mount } from '@vue/test-utils'
import { expect, test } from 'vitest'

import type { Schemas } from '@/api/client'

import LoadLine from './LoadLine.vue'
import SeriesPlot from './SeriesPlot.vue'
import WarmUpStrip from './WarmUpStrip.vue'

const point = (id: string, value: number, more = {}) => ({
  id,
  value,
  side: 'playing',
  counts: true,
  aside: false,
  set: 1,
  name: `Swing ${id}`,
  ...more,
})

test('a series shows best and stop line, and marks what does not count', async () => {
  const w = mount(SeriesPlot, {
    props: {
      points: [
        point('1', 100),
        point('2', 101),
        point('3', 60, { counts: false }),
        point('4', 92, { side: 'other', set: 2 }),
      ],
      best: 101,
      stop: 96,
      unit: 'mph',
      chosen: '2',
    },
  })
  expect(w.attributes('aria-label')).toBe('4 swings, best 101.0 mph, stop below 96.0')
  expect(w.text()).toContain('stop 96.0')
  expect(w.findAll('circle')).toHaveLength(3)
  expect(w.findAll('.point.out')).toHaveLength(1)
  expect(w.findAll('.point path')).toHaveLength(1)
  expect(w.findAll('.set')).toHaveLength(1)
  await w.findAll('.point')[0]?.trigger('click')
  expect(w.emitted('choose')).toEqual([['1']])
})

test('the speed line has a band only where there is one', () => {
  const profile: Schemas['SpeedProfile'] = {
    points: [
      { massG: 250, bestMps: 50 },
      { massG: 310, bestMps: 48 },
    ],
    mpsPerKg: -33,
    residualSd: 0,
    r2: 1,
    line: [
      { massG: 250, mps: 50 },
      { massG: 310, mps: 48 },
    ],
    emphasis: '',
  }
  const props = { profile, own: 310, show: (v: number) => v, unit: 'm/s' }
  const two = mount(LoadLine, { props })
  expect(two.attributes('aria-label')).toBe('Best speed by mass: 250 g 50.0 m/s, 310 g 48.0 m/s')
  expect(two.find('.band').exists()).toBe(false)
  const banded = { ...profile, line: profile.line.map((l) => ({ ...l, band: { low: l.mps - 1, high: l.mps + 1 } })) }
  expect(
    mount(LoadLine, { props: { ...props, profile: banded, other: profile } }).findAll('.band, path.mark'),
  ).toHaveLength(3)
})

test('the strip draws phases as lengths, the ladder as steps and the tee time as a pennant', async () => {
  const item = (id: string, phase: string, seconds: number, more = {}) => ({
    id,
    phase,
    name: id,
    seconds,
    side: '',
    repetitions: 0,
    holdSeconds: 0,
    swings: 0,
    intentPercent: 0,
    ...more,
  })
  const warmup = {
    title: 'x',
    request: { purpose: 'tee', minutes: 4, place: 'tee' },
    totalSeconds: 180,
    freeSeconds: 60,
    dropped: [],
    notes: [],
    rules: [],
    startAt: '08:41',
    onTeeAt: '08:55',
    items: [
      item('walk', 'raise', 60),
      item('neck', 'joints', 40),
      item('half', 'ladder', 40, {
        swings: 4,
        intentPercent: 50,
        side: 'playing',
        implementPercent: 35,
        implementId: 'h',
        round: 1,
      }),
      item('over', 'ladder', 20, {
        swings: 2,
        intentPercent: 50,
        side: 'other',
        implementPercent: 0,
        implementId: 'd',
        round: 1,
      }),
      item('fast', 'ladder', 20, {
        swings: 3,
        intentPercent: 100,
        side: 'playing',
        implementPercent: 0,
        implementId: 'd',
        round: 1,
      }),
    ],
  } as unknown as Schemas['WarmUp']
  const w = mount(WarmUpStrip, { props: { warmup } })
  expect(w.attributes('aria-label')).toBe('Raise 60 s, Joints 40 s, Ladder 80 s; start 08:41, on the tee 08:55')
  expect(w.findAll('.phase')).toHaveLength(3)
  expect(w.findAll('.other')).toHaveLength(1)
  expect(w.findAll('.mass').map((m) => m.text())).toEqual(['+35%', 'own'])
  expect(w.find('.steps').attributes('d')).toMatch(/^M[\d.]+ [\d.]+H[\d.]+H[\d.]+V[\d.]+H[\d.]+$/)
  expect(w.find('[data-testid=pennant]').text()).toContain('08:55')
  await w.findAll('.hit')[2]?.trigger('click')
  expect(w.emitted('choose')).toEqual([['half']])
})
