import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import { handOf } from '@/parts/choices'

import TermNote from './TermNote.vue'
import { type Term, terms } from './terms'

it('knows the hands and the turns of a golfer', () => {
  expect(['lead', 'trail', 'toward', 'away', 'other', ''].map((s) => handOf(s, 'right'))).toEqual([
    'left',
    'right',
    'left',
    'right',
    '',
    '',
  ])
  expect(['lead', 'trail'].map((s) => handOf(s, 'left'))).toEqual(['right', 'left'])
  expect(handOf('lead', undefined)).toBe('')
})

it('says a word of ours, and draws what is about sides for this golfer', () => {
  const left = mount(TermNote, {
    props: { term: 'lead', playingSide: 'left' },
    slots: { default: 'lead' },
  })
  expect(left.get('button').text()).toBe('lead')
  expect(left.get('[popover]').attributes('id')).toBe(left.get('button').attributes('popovertarget'))
  expect(left.text()).toContain('lead is the right, trail the left')
  expect(left.get('svg').attributes('aria-label')).toContain('from the left')
  const spread = mount(TermNote, { props: { term: 'spread' }, slots: { default: 'spread' } })
  expect(spread.find('svg').exists()).toBe(false)
  for (const t of Object.values<Term>(terms)) expect(t.text.length, t.title).toBeGreaterThan(60)
})
