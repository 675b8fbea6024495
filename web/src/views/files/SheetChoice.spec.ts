import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import SheetChoice from './SheetChoice.vue'

const upload: Schemas['Upload'] = {
  id: 'u',
  fileName: 'f.xlsx',
  state: 'uploaded',
  done: 0,
  total: 2,
  note: '',
  createdAt: '',
  createdBy: '',
  pages: [
    { name: 'Squad', rows: 3 },
    { name: 'Old', rows: 1, hidden: true },
  ],
  first: [
    { line: 1, cells: ['Autumn'] },
    { line: 3, cells: ['Name', 'CMJ'] },
    { line: 4, cells: ['Ada', '31'] },
  ],
  header: ['Name', 'CMJ'],
  sample: [['Ada', '31']],
}
const open = (layout: Schemas['Layout']) =>
  mount(SheetChoice, {
    props: { upload, layout, busy: false },
    global: { stubs: { SelectField: { template: '<i />' } } },
  })

it('shows the rows as they stand, with the header marked, where there are several sheets', () => {
  const w = open({ sheet: 0, top: 3, heads: 1 })
  expect(w.get('button').text()).toContain('sheet Squad, header in row 3')
  expect(w.findAll('tbody tr.head').map((r) => r.text())).toEqual([expect.stringContaining('Name')])
})

it('takes another row for the header', async () => {
  const w = open({ sheet: 0, top: 3, heads: 1 })
  await w.get('[aria-label="Header begins in row 4"]').trigger('click')
  expect(w.emitted('change')?.[0]).toEqual([{ sheet: 0, top: 4, heads: 1 }])
})

it('marks every row of a header of two, and the one golfers stand in of a turned sheet', () => {
  expect(open({ sheet: 0, top: 1, heads: 2 }).findAll('tr.head')).toHaveLength(2)
  expect(open({ sheet: 0, top: 3, heads: 2, turned: true }).findAll('tr.head')).toHaveLength(1)
})
