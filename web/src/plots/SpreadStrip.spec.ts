import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import SpreadStrip from './SpreadStrip.vue'

const base: Schemas['TestRead'] = {
  test: 'hip-ir',
  name: 'Hip',
  group: '',
  unit: 'deg',
  decimals: 1,
  status: 'measured',
  date: '2026-11-24',
  sides: [],
  sentence: 's',
  source: '',
  errorFrom: 'our default',
}
const side = (name: 'lead' | 'trail', position: number): Schemas['SideRead'] => ({
  side: name,
  valid: 1,
  cv: 0,
  typicalError: 3,
  position,
  errorSpreads: 0.4,
})

describe('a strip', () => {
  it('marks lead filled and trail open, each with its whisker', () => {
    const strip = mount(SpreadStrip, { props: { test: { ...base, sides: [side('lead', -1), side('trail', 0)] } } })
    const marks = strip.findAll('circle')
    expect(marks.map((m) => m.classes('open'))).toEqual([false, true])
    expect(marks[0]?.attributes('cx')).toBe('40.00%') // two of five spreads along
    expect(strip.findAll('.whisker.open')).toHaveLength(1)
    expect(strip.attributes('aria-label')).toContain('lead -1.00 spreads from target')
  })
  it('shows a dash on a dotted line when nothing was measured', () => {
    const strip = mount(SpreadStrip, { props: { test: { ...base, status: 'not-measured' } } })
    expect(strip.find('.dash').text()).toBe('–')
    expect(strip.find('.axis').classes('dotted')).toBe(true)
    expect(strip.attributes('aria-label')).toBe('Hip: not measured')
  })
  it('keeps a mark beyond the axis at its end and says so', () => {
    const strip = mount(SpreadStrip, { props: { test: { ...base, sides: [side('lead', -5)] } } })
    expect(strip.find('circle').attributes('cx')).toBe('0.00%')
    expect(strip.text()).toContain('‹')
  })
})
