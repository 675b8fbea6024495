import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'
import { defineComponent } from 'vue'

import NamesAsked from './NamesAsked.vue'

const asks = [
  { written: 'T. Brae', rows: 2, near: [{ id: '1', name: 'Torquil Brae' }] },
  {
    written: 'Saltness',
    rows: 1,
    near: [
      { id: '2', name: 'Eilidh Saltness' },
      { id: '3', name: 'Finn Saltness' },
    ],
  },
]
const all = [
  { id: '1', name: 'Torquil Brae' },
  { id: '4', name: 'Marit Hellyer' },
]
const choice = defineComponent({
  name: 'VAutocomplete',
  props: {
    items: { type: Array, default: () => [] },
    modelValue: { type: String, default: '' },
    label: { type: String, default: '' },
  },
  template: '<i />',
})
const button = { template: '<button><slot /></button>' }
const open = (mayAdd = false) =>
  mount(NamesAsked, {
    props: { asks, what: 'golfers', all, mayAdd },
    global: { stubs: { VAutocomplete: choice, VBtn: button } },
  })

it('has the only one who is near chosen, and takes nothing that was not said', async () => {
  const w = open()
  expect(w.text()).toContain('2 rows')
  await w.findAll('button').at(-1)?.trigger('click')
  expect(w.emitted('take')?.[0]).toEqual([{ 'T. Brae': '1' }])
})

it('offers who is near first, then to leave out, then everybody; new golfers where they may be made', () => {
  const items = (w: ReturnType<typeof open>) =>
    (w.findAllComponents(choice)[1]?.props('items') as { title: string }[]).map((i) => i.title)
  expect(items(open())).toEqual([
    'Eilidh Saltness',
    'Finn Saltness',
    'leave these rows out',
    'Torquil Brae',
    'Marit Hellyer',
  ])
  expect(items(open(true))).toContain('a new golfer')
})
