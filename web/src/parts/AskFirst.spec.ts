import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { createVuetify } from 'vuetify'

import { inPlace } from '@/testing'

import AskFirst from './AskFirst.vue'

it('does nothing until it is said, and can be left', async () => {
  const w = mount(AskFirst, {
    props: { modelValue: true, title: 'Discard?', verb: 'Discard it', error: 'It went.' },
    slots: { default: 'All of it.' },
    global: { plugins: [createVuetify()], stubs: { LateDialog: inPlace } },
  })
  expect(w.text()).toContain('All of it.')
  expect(w.get('[role=alert]').text()).toBe('It went.')
  await w.findAll('button')[1]?.trigger('click')
  expect(w.emitted('update:modelValue')).toEqual([[false]])
  expect(w.emitted('yes')).toBeUndefined()
  await w.get('form').trigger('submit')
  expect(w.emitted('yes')).toHaveLength(1)
})
