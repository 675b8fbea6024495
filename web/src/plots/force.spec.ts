import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import type { Schemas } from '@/api/client'
import type { Trace } from '@/views/force/trace'

import FootPlan from './FootPlan.vue'
import OrderLine from './OrderLine.vue'
import TracePlot from './TracePlot.vue'

beforeEach(() => vi.useFakeTimers())
afterEach(() => vi.useRealTimers())

const values = new Float32Array(1001).map((_, i) => 100 * Math.sin(i / 50))
function plot(more: object = {}) {
  return mount(TracePlot, {
    props: {
      lines: [{ name: 'vertical', values, by: 1, look: 'thick', colour: 'black' }],
      rate: 1000,
      start: 2,
      unit: 'N',
      events: [
        { key: 'impactS', name: 'impact', t: 2.6, movable: true },
        { key: 'topS', name: 'top', t: 2.3, movable: true, guess: true },
        { key: 'later', name: 'later', t: 9, movable: true },
      ],
      label: 'Force',
      from: 2,
      to: 3,
      cursor: 2.5,
      ...more,
    },
  })
}

describe('the plot of signals', () => {
  it('draws its lines and the events in view', () => {
    const w = plot({ parts: [{ name: 'flight', from: 2.1, to: 2.4 }] })
    expect(w.findAll('path.line')).toHaveLength(1)
    expect(w.findAll('.event')).toHaveLength(2)
    expect(w.find('[data-testid=event-topS]').classes()).toContain('guess')
    expect(w.text()).toContain('flight')
    expect(w.find('[data-testid=event-impactS]').attributes('aria-valuenow')).toBe('2.6')
  })

  it('moves an event by a sample with the arrows, by ten with Shift, and tells once they rest', async () => {
    const w = plot()
    const impact = w.find('[data-testid=event-impactS]')
    await impact.trigger('keydown', { key: 'ArrowRight' })
    await impact.trigger('keydown', { key: 'ArrowLeft', shiftKey: true })
    await impact.trigger('keydown', { key: 'x' })
    const moving = w.emitted('moving') as [string, number][]
    expect(moving[0]).toEqual(['impactS', 2.601])
    expect(moving[1]?.[1]).toBeCloseTo(2.59, 9)
    expect(w.emitted('move')).toBeUndefined()
    vi.advanceTimersByTime(400)
    expect(w.emitted('move')).toHaveLength(1)
  })

  it('keeps events and cursor within the signal', async () => {
    const w = plot({ cursor: 3 })
    await w.find('.grip').trigger('keydown', { key: 'ArrowRight' })
    expect(w.emitted('update:cursor')).toBeUndefined()
    await w.find('.grip').trigger('keydown', { key: 'ArrowLeft' })
    expect((w.emitted('update:cursor') as number[][])[0]?.[0]).toBeCloseTo(2.999, 9)
  })

  it('zooms with the wheel only while Ctrl or Shift is held: the page scrolls otherwise', async () => {
    const w = plot()
    w.find('svg').element.getBoundingClientRect = () => ({ left: 0, width: 760 }) as DOMRect
    await w.find('svg').trigger('wheel', { deltaY: 100 })
    expect(w.emitted('view')).toBeUndefined()
    await w.find('svg').trigger('wheel', { deltaY: -100, ctrlKey: true })
    const [from, to] = (w.emitted('view') as number[][])[0] ?? []
    expect((to ?? 0) - (from ?? 0)).toBeLessThan(1)
  })
})

function trace(cop: boolean): Trace {
  const y = (v: number) => new Float32Array(100).fill(v)
  const channels: Trace['channels'] = [{ foot: 'both', name: 'leadShare', unit: 'ratio', values: y(0.75) }]
  for (const [foot, x, up] of [
    ['lead', 0.25, 600],
    ['trail', -0.25, 200],
  ] as const) {
    channels.push({ foot, name: 'up', unit: 'N', values: y(up) })
    if (cop) {
      channels.push({ foot, name: 'copToTarget', unit: 'm', values: y(x) })
      channels.push({ foot, name: 'copToBall', unit: 'm', values: y(0) })
    }
  }
  return { rateHz: 1000, startS: 0, samples: 100, channels }
}

describe('the foot plan', () => {
  const props = { at: 0.05, from: 0, to: 0.09, bodyWeight: 800 }
  it('puts the target to the left of golfers who play from the right, and to the right of the others', () => {
    for (const [side, leadLeft] of [
      ['right', true],
      ['left', false],
    ] as const) {
      const w = mount(FootPlan, { props: { ...props, side, trace: trace(true) } })
      const [lead, trail] = w.findAll('circle').map((c) => Number(c.attributes('cx')))
      expect((lead ?? 0) < (trail ?? 0)).toBe(leadLeft)
      expect(w.find('svg').attributes('aria-label')).toContain('the lead foot carries 75%')
      expect(w.findAll('circle')[1]?.classes()).toContain('open')
    }
  })

  it('says what it cannot draw', () => {
    const w = mount(FootPlan, { props: { ...props, side: 'right', trace: trace(false) } })
    expect(w.text()).toContain('was not recorded')
  })
})

describe('the order line', () => {
  const effort = (s: number) => ({ timeBeforeImpactS: s })
  const swing = {
    order: ['lateral', 'vertical'],
    downswingS: 0.28,
    lateral: effort(0.14),
    rotational: null,
    vertical: effort(0.07),
  } as unknown as Schemas['SwingResult']
  it('shows peaks in their order with the gap between them', () => {
    const w = mount(OrderLine, { props: { swing } })
    expect(w.find('svg').attributes('aria-label')).toBe('Before impact: lateral 140 ms, vertical 70 ms')
    expect(w.text()).toContain('70 ms')
    const [a, b] = w.findAll('circle').map((c) => Number(c.attributes('cx')))
    expect(a).toBeLessThan(b ?? 0)
  })
})
