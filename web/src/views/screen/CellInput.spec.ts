import { mount } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'

import CellInput from './CellInput.vue'

/** Typed, and not left yet. */
async function type(input: { element: HTMLInputElement; trigger: (event: string) => Promise<void> }, text: string) {
  input.element.value = text
  await input.trigger('input')
}

it('keeps what is being typed while the sheet around it changes', async () => {
  const cell = mount(CellInput, { props: { value: '' }, attrs: { class: 'x' } })
  const input = cell.get('input')
  await type(input, '3')
  await cell.setProps({ value: '99' })
  cell.vm.$forceUpdate()
  await cell.vm.$nextTick()
  expect(input.element.value).toBe('3')
  await input.trigger('keydown', { key: 'Enter' })
  expect(cell.emitted('commit')).toEqual([['3']])
  expect(input.element.value).toBe('99')
  await input.trigger('blur')
  expect(cell.emitted('commit')).toHaveLength(1)
})

it('gives over by leaving, and Escape puts back', async () => {
  const cell = mount(CellInput, { props: { value: '7' } })
  const input = cell.get('input')
  await type(input, '8')
  await input.trigger('keydown', { key: 'Escape' })
  await input.trigger('blur')
  expect(cell.emitted('commit')).toBeUndefined()
  expect(input.element.value).toBe('7')
  await type(input, '9')
  await input.trigger('blur')
  expect(cell.emitted('commit')?.[0]).toEqual(['9'])
})

it('takes back only what is being typed over, and leaves the sheet’s undo alone', async () => {
  const around = vi.fn()
  const cell = mount(CellInput, { props: { value: '7' }, attrs: { onKeydown: around } })
  const input = cell.get('input')
  await type(input, '78')
  await input.trigger('keydown', { key: 'z', ctrlKey: true })
  expect(input.element.value).toBe('7')
  expect(around).not.toHaveBeenCalled()
  await input.trigger('keydown', { key: 'z', ctrlKey: true })
  expect(around).toHaveBeenCalledOnce()
  await input.trigger('blur')
  expect(cell.emitted('commit')).toBeUndefined()
})
