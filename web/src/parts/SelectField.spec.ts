import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import SelectField from './SelectField.vue'

const items = [
  { title: 'not said', value: '' },
  { title: 'left', value: 'L', props: { subtitle: 'target on the right' } },
  { title: 'never', value: null },
]
const open = (props: object) => mount(SelectField, { props: { label: 'Side', items, ...props } })

describe('one of a few', () => {
  it('shows what is chosen with what is said of it, and gives back what was meant, not its words', async () => {
    const w = open({ modelValue: 'L' })
    expect(w.get('select').element.selectedOptions[0]?.text).toBe('left')
    expect(w.get('p').text()).toBe('target on the right')
    expect(w.get('select').attributes('aria-describedby')).toBe(w.get('p').attributes('id'))
    await w.get('select').setValue('2')
    await w.get('select').setValue('0')
    expect(w.emitted('update:modelValue')).toEqual([[null], ['']])
  })
  it('is empty while nothing of the list is chosen', () => {
    const w = open({ modelValue: 'other', placeholder: 'asked' })
    expect(w.get('select').element.selectedOptions[0]?.text).toBe('asked')
    expect(w.find('p').exists()).toBe(false)
  })
  it('takes a list of words or numbers as it is', async () => {
    const w = open({ items: ['club', 2], modelValue: 2 })
    expect(w.findAll('option').map((o) => o.text())).toEqual(['club', '2'])
    await w.get('select').setValue('0')
    expect(w.emitted('update:modelValue')).toEqual([['club']])
  })
  it('says what is wrong, to eyes and ears', () => {
    const w = open({ modelValue: '', errorMessages: 'Choose a side.' })
    expect(w.get('p').text()).toBe('Choose a side.')
    expect(w.get('select').attributes('aria-invalid')).toBe('true')
    expect(w.get('label').attributes('for')).toBe(w.get('select').attributes('id'))
  })
})
