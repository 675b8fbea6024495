import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import AnswerStrip from './AnswerStrip.vue'

const answer = (quality: string, level: string, more: object = {}) =>
  ({
    quality,
    name: quality,
    level,
    needShare: 0.5,
    doseWanted: 20,
    doseHigh: 30,
    unit: 'contacts',
    unitWords: 'landings',
    dosePerWeek: [24, 24, 30, 15],
    minutesPerWeek: [10, 10, 12, 6],
    sharePerWeek: [22, 21, 20, 18],
    shareWanted: 0,
    met: true,
    held: '',
    ...more,
  }) as Schemas['Answer']
const open = (list: Schemas['Answer'][], unanswered: Schemas['Unanswered'][] = []) =>
  mount(AnswerStrip, { props: { answer: list, unanswered } })

describe('asked and given', () => {
  it('draws what is wanted and what each week gives, and says it', () => {
    const w = open([answer('jumps', 'lead', { shareWanted: 20 })])
    expect(w.findAll('.plot .bar')).toHaveLength(4)
    expect(w.get('.band').attributes('style')).toContain('left: 63.4')
    expect(w.text()).toContain('24 of 20 landings, 20% of the minutes')
    expect(w.get('li').attributes('aria-label')).toContain('given 24, 24, 30, 15 week by week; met')
  })
  it('names what holds a quality, and what stays unanswered', () => {
    const held = answer('grip', 'build', { met: false, held: 'CONTRA: limit on wrist' })
    const w = open([held], [{ finding: 'Lead hand squeezes 30 kg.', why: 'CONTRA: limit on wrist.' }])
    expect(w.get('.held').text()).toBe('CONTRA: limit on wrist')
    expect(w.get('[data-testid=unanswered]').text()).toContain('Not answered: CONTRA')
  })
  it('folds what is kept up as asked, and says an even mix where nothing leads', async () => {
    const w = open([answer('jumps', 'keep'), answer('grip', 'keep')])
    expect(w.text()).toContain('an even mix')
    expect(w.findAll('li')).toHaveLength(0)
    await w.get('button[aria-expanded]').trigger('click')
    expect(w.findAll('li')).toHaveLength(2)
  })
  it('shows nothing for programmes of before', () => {
    expect(open([]).find('section').exists()).toBe(false)
  })
})
