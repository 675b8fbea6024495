import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import TestFacts from './TestFacts.vue'
import TestTargets from './TestTargets.vue'

const test = {
  id: 'cmj',
  name: 'Countermovement jump',
  group: 'Jumps',
  unit: 'cm',
  sides: 'none',
  trials: 3,
  rule: 'best',
  setup: 'Hands on hips',
  say: 'Jump as high as you can',
  voids: ['a step before the jump'],
  plausible: [15, 70],
  impossible: [3, 100],
  typicalError: 1.1,
  errorFrom: 'a study',
  source: 'a book',
  targets: [{ sex: 'male', band: '18-39', value: 40, spread: 5 }],
} as unknown as Schemas['Test']
const VBtn = { template: '<button><slot /></button>' }
const open = (t: Schemas['Test']) => mount(TestTargets, { props: { test: t }, global: { stubs: { VBtn } } })
const press = (w: ReturnType<typeof open>, name: string) =>
  w
    .findAll('button')
    .find((b) => b.text() === name)
    ?.trigger('click')

it('says how a test is done and where its numbers come from', () => {
  const text = mount(TestFacts, { props: { test } }).text()
  for (const part of [
    'Hands on hips',
    'no sides; result: best trial',
    'a step before',
    '15 to 70 cm',
    '1.1 cm',
    'a book',
  ])
    expect(text).toContain(part)
})

it('keeps targets only when the coach says so', async () => {
  const w = open(test)
  expect(w.text()).not.toContain('Keep these targets')
  await w.find('[aria-label="Target 1"]').setValue(42)
  expect(w.emitted('keep')).toBeUndefined()
  await press(w, 'Keep these targets')
  expect(w.emitted('keep')).toEqual([[[{ sex: 'male', band: '18-39', value: 42, spread: 5 }]]])
})

it('adds and removes targets, and forgets what was typed when another test is shown', async () => {
  const w = open(test)
  await press(w, 'Add a target')
  expect(w.findAll('tbody tr')).toHaveLength(2)
  await press(w, 'Remove')
  expect(w.findAll('tbody tr')).toHaveLength(1)
  await w.setProps({ test: { ...test, id: 'grip', targets: [] } })
  expect(w.text()).toContain('published table')
  expect(w.text()).not.toContain('Keep these targets')
})

it('goes back to the targets that came with it', async () => {
  const w = open({ ...test, ownTarget: true } as Schemas['Test'])
  await press(w, 'Back to ours')
  expect(w.emitted('reset')).toHaveLength(1)
})
