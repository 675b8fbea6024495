import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import ZeroToTen from './ZeroToTen.vue'

it('is one tap, a digit, or the arrows, and stays between 0 and 10', async () => {
  const w = mount(ZeroToTen, {
    props: { label: 'Pain', modelValue: 0, 'onUpdate:modelValue': (v: number) => w.setProps({ modelValue: v }) },
    attachTo: document.body,
  })
  const on = () => w.findAll('[role=radio]').findIndex((b) => b.attributes('aria-checked') === 'true')
  const press = (key: string, more: object = {}) => w.get('[role=radiogroup]').trigger('keydown', { key, ...more })
  expect(w.findAll('[role=radio]').map((b) => b.text())).toEqual([
    '0',
    '1',
    '2',
    '3',
    '4',
    '5',
    '6',
    '7',
    '8',
    '9',
    '10',
  ])
  await w.findAll('[role=radio]')[6]?.trigger('click')
  expect(on()).toBe(6)
  await press('ArrowRight')
  expect(on()).toBe(7)
  await press('1')
  await press('0')
  expect(on()).toBe(10)
  await press('ArrowUp')
  expect(on()).toBe(10)
  await press('0')
  expect(on()).toBe(0)
  await press('ArrowLeft')
  await press('x')
  await press('5', { ctrlKey: true })
  expect(on()).toBe(0)
  expect(document.activeElement?.textContent?.trim()).toBe('0')
  w.unmount()
})
