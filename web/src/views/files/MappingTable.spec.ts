import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import MappingTable from './MappingTable.vue'

const test = (id: string, sides: Schemas['Test']['sides'], unit: string, trials = 3): Schemas['Test'] => ({
  id,
  name: id,
  group: 'g',
  unit,
  decimals: 1,
  sides,
  trials,
  rule: 'best',
  setup: '',
  source: '',
  typicalError: 1,
  plausible: [0, 1],
  impossible: [0, 1],
})
const upload: Schemas['Upload'] = {
  id: 'u',
  fileName: 'f.csv',
  state: 'uploaded',
  done: 0,
  total: 2,
  note: '',
  createdAt: '',
  createdBy: '',
  header: ['Name', 'CMJ', 'left over'],
  sample: [
    ['Ada', '30', ''],
    ['Bo', '31', 'x'],
  ],
}
const mapping: Schemas['Mapping'] = {
  source: '',
  decimal: '.',
  dates: 'day first',
  columns: [{ field: 'golfer' }, { field: 'measure', test: 'cmj', side: '', trial: 1, unit: 'cm' }, { field: '' }],
}

function open() {
  return mount(MappingTable, {
    props: {
      modelValue: mapping,
      'onUpdate:modelValue': (m: Schemas['Mapping']) => void w.setProps({ modelValue: m }),
      upload,
      tests: [test('cmj', 'none', 'cm'), test('grip', 'limb', 'kg')],
      wrong: { Name: 'columns both mean golfer' },
    },
  })
}
let w: ReturnType<typeof open>
const columns = () => w.props('modelValue').columns

it('shows the first values beside each column, and what is wrong with it', () => {
  w = open()
  expect(w.findAll('tbody tr')[1]?.text()).toContain('30 · 31')
  expect(w.get('[role=alert]').text()).toBe('columns both mean golfer')
  expect((w.get('[aria-label="Unit of CMJ"]').element as HTMLSelectElement).value).toBe('cm')
})

it('asks for a side and the units that fit when the test changes', async () => {
  w = open()
  await w.get('[aria-label="Test of CMJ"]').setValue('grip')
  expect(columns()[1]).toMatchObject({ field: 'measure', test: 'grip', side: 'lead', trial: 1, unit: 'kg' })
  await w.get('[aria-label="Side of CMJ"]').setValue('trail')
  await w.get('[aria-label="Unit of CMJ"]').setValue('lb')
  await w.get('[aria-label="Trial of CMJ"]').setValue(3)
  expect(columns()[1]).toMatchObject({ side: 'trail', unit: 'lb', trial: 3 })
})

it('forgets the test of a column that means something else', async () => {
  w = open()
  await w.get('[aria-label="What CMJ means"]').setValue('note')
  expect(columns()[1]).toEqual({ field: 'note', unit: 'cm' })
  await w.get('[aria-label="What left over means"]').setValue('measure')
  expect(columns()[2]).toMatchObject({ field: 'measure' })
})

it('keeps the unit a column is headed with when the test is said by hand', async () => {
  w = open()
  const headed = { ...mapping, columns: [{ field: 'golfer' }, { field: '', unit: 'lb' }, { field: '', unit: 'lb' }] }
  await w.setProps({ modelValue: headed })
  await w.get('[aria-label="What CMJ means"]').setValue('measure')
  await w.get('[aria-label="Test of CMJ"]').setValue('grip')
  expect(columns()[1]).toMatchObject({ test: 'grip', unit: 'lb' })
  await w.get('[aria-label="What left over means"]').setValue('measure')
  await w.get('[aria-label="Test of left over"]').setValue('cmj')
  expect(columns()[2]).toMatchObject({ test: 'cmj', unit: 'cm' })
})

it('offers left and right beside the sides of a test, and two values in a cell', async () => {
  w = open()
  await w.get('[aria-label="Test of CMJ"]').setValue('grip')
  const offered = w.findAll('[aria-label="Side of CMJ"] option').map((o) => o.text())
  expect(offered).toEqual([
    'which side?',
    'lead',
    'trail',
    'left',
    'right',
    'two values: left/right',
    'two values: right/left',
  ])
})

it('says what was only near, until it is looked at', async () => {
  w = open()
  const near = { ...mapping.columns[1], field: 'measure', near: true }
  await w.setProps({ modelValue: { ...mapping, columns: mapping.columns.with(1, near) } })
  expect(w.text()).toContain('is it this?')
  await w.get('[aria-label="Test of CMJ"]').setValue('grip')
  expect(w.text()).not.toContain('is it this?')
})
