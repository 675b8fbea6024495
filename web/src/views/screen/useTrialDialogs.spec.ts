import { expect, it, vi } from 'vitest'

import { useTrialDialogs } from './useTrialDialogs'

function open(text: string) {
  const write = vi.fn()
  const focus = vi.fn()
  const give = vi.fn()
  const next = (n: number) => (n < 9 ? n + 1 : undefined)
  const d = useTrialDialogs<number>({ textAt: () => text, write, give, next, focus })
  return { d, write, give, focus }
}
const hip = (pain: number) => ({ pain, region: 'hip', note: '' })

it('writes pain beside the value, and goes on after it', () => {
  const { d, write, focus } = open('42')
  d.askPain(3)
  expect(d.painOpen.value).toBe(true)
  d.savePain(hip(2), false)
  expect(write).toHaveBeenCalledWith(3, { text: '42', status: 'done', ...hip(2) })
  expect(d.painOpen.value).toBe(false)
  d.goOn()
  expect(focus).toHaveBeenCalledWith(4)
})

it('takes the value away where pain stops the test, and stops where there is none', () => {
  const { d, write } = open('42')
  d.askPain(3)
  d.savePain(hip(5), true)
  expect(write).toHaveBeenCalledWith(3, { text: '', status: 'stopped', ...hip(5) })
  const empty = open('')
  empty.d.askPain(3)
  empty.d.savePain(hip(1), false)
  expect(empty.write).toHaveBeenCalledWith(3, { text: '', status: 'stopped', ...hip(1) })
})

it('skips with a reason, stays at the last cell, and goes back where nothing was said', () => {
  const { d, write, focus } = open('')
  d.askSkip(9)
  d.saveSkip('no time')
  expect(write).toHaveBeenCalledWith(9, { status: 'skipped', note: 'no time' })
  d.goOn()
  expect(focus).toHaveBeenLastCalledWith(9)
  d.askSkip(2)
  d.close()
  expect(d.skipOpen.value).toBe(false)
  d.goOn()
  expect(focus).toHaveBeenLastCalledWith(2)
  d.savePain(hip(1), false)
  d.saveSkip('late')
  expect(write).toHaveBeenCalledTimes(1)
})

it('gives a value set by fields over like a typed one', () => {
  const { d, give, focus } = open('150x5@2')
  d.askFields(3)
  expect([d.fieldsOpen.value, d.fieldsText.value]).toEqual([true, '150x5@2'])
  d.saveFields('155x5@1')
  expect(give).toHaveBeenCalledWith(3, '155x5@1')
  expect(d.fieldsOpen.value).toBe(false)
  d.goOn()
  expect(focus).toHaveBeenCalledWith(4)
})
