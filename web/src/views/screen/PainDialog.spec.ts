import { mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import { createVuetify } from 'vuetify'

import PainDialog from './PainDialog.vue'

describe('pain on a trial', () => {
  beforeEach(() => {
    document.body.innerHTML = ''
  })
  async function dialog(pain: number) {
    const w = mount(PainDialog, {
      props: { open: true, regions: ['knee', 'heart'], stopsAt: 5 },
      global: { plugins: [createVuetify()], stubs: { VDialog: { template: '<div><slot /></div>' } } },
    })
    await w.findAll('[role=radio]')[pain]?.trigger('click')
    await w.get('select').setValue('0')
    await w.find('form').trigger('submit')
    return w
  }
  it('stops the test from where the core says', async () => {
    const w = await dialog(5)
    expect(w.text()).toContain('5 and over stops the test')
    expect(w.emitted('save')).toEqual([[{ pain: 5, region: 'knee', note: '' }, true]])
  })
  it('notes what is less', async () => {
    const w = await dialog(4)
    expect(w.text()).toContain('1 to 4: noted')
    expect(w.emitted('save')).toEqual([[{ pain: 4, region: 'knee', note: '' }, false]])
  })
  it('does not offer the heart as a place that hurts', async () => {
    const w = await dialog(1)
    expect(w.findAll('option:not([hidden])').map((o) => o.text())).toEqual(['knee'])
  })
})
