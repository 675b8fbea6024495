import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { createVuetify } from 'vuetify'

import TrialActions from './TrialActions.vue'

const open = (props: Partial<InstanceType<typeof TrialActions>['$props']> = {}) =>
  mount(TrialActions, {
    props: { what: 'Grip lead trial 2', disabled: false, undo: true, redo: false, ...props },
    global: { plugins: [createVuetify()] },
  })

it('says which trial it speaks of, and offers all that a keyboard does', async () => {
  const w = open()
  expect(w.get('[role=group]').text()).toContain('Grip lead trial 2')
  for (const b of w.findAll('button')) await b.trigger('click')
  expect(Object.keys(w.emitted()).filter((k) => k !== 'click')).toEqual(['pain', 'stopped', 'skip', 'undo'])
})

it('sets a value of several parts by fields', async () => {
  const w = open({ parts: true })
  await w
    .findAll('button')
    .find((b) => b.text() === 'Fields…')
    ?.trigger('click')
  expect(w.emitted('fields')).toHaveLength(1)
})

it('offers nothing of a trial that may not be done', () => {
  const w = open({ disabled: true, undo: false })
  expect(w.findAll('button').every((b) => b.attributes('disabled') !== undefined)).toBe(true)
})
