import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import HeldInput from './HeldInput.vue'

describe('a field that is being typed into', () => {
  it('keeps what is typed while something else is saved, and tells of it when it is left', async () => {
    const w = mount(HeldInput, { props: { value: 'old' } })
    const field = w.find('input')
    field.element.value = 'lighter shaft'
    await field.trigger('input')
    await w.setProps({ value: 'saved meanwhile' })
    expect(field.element.value).toBe('lighter shaft')
    await field.trigger('blur')
    await field.trigger('blur')
    expect(w.emitted('change')).toEqual([['lighter shaft']])
  })
  it('shows what others save while nobody types', async () => {
    const w = mount(HeldInput, { props: { value: 'old' } })
    await w.setProps({ value: 'new' })
    expect(w.find('input').element.value).toBe('new')
    await w.find('input').trigger('blur')
    expect(w.emitted('change')).toBeUndefined()
  })
})
