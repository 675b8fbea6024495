import { beforeEach, expect, it, vi } from 'vitest'
import { effectScope, nextTick, reactive } from 'vue'

import { useHandedOver } from './useHandedOver'

const focus = vi.fn()
const cell = () => document.querySelector('input') as HTMLInputElement

beforeEach(() => {
  focus.mockClear()
  document.body.innerHTML = '<input data-cell="0:2" />'
  cell().focus()
})

function open() {
  const asked = reactive(new Set<string>())
  const hand = effectScope().run(() => useHandedOver<string>((at) => asked.has(at), focus))
  return { asked, hand: hand ?? vi.fn() }
}

it('goes back to the value that has to be confirmed', async () => {
  const { asked, hand } = open()
  hand('0:1')
  await nextTick()
  expect(focus).not.toHaveBeenCalled()
  asked.add('0:1')
  await nextTick()
  expect(focus).toHaveBeenCalledWith('0:1')
})

it('stays where somebody is typing already', async () => {
  const { asked, hand } = open()
  hand('0:1')
  cell().dataset.typing = ''
  asked.add('0:1')
  await nextTick()
  expect(focus).not.toHaveBeenCalled()
})

it('leaves cells alone that were given over before', async () => {
  const { asked, hand } = open()
  hand('0:1')
  hand('0:2')
  asked.add('0:1')
  await nextTick()
  expect(focus).not.toHaveBeenCalled()
})
