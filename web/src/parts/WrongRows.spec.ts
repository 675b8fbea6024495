import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import WrongRows from './WrongRows.vue'

const row = (n: number, unlikely = false) => ({ row: n, column: 'value', detail: `wrong ${n}`, unlikely })

it('names the row, the column and what is wrong, and marks what is only unlikely', () => {
  const w = mount(WrongRows, { props: { rows: [row(3), row(4, true), { ...row(0), column: '' }] } })
  expect(w.findAll('tbody tr').map((r) => r.findAll('td').map((c) => c.text()))).toEqual([
    ['3', 'value', 'wrong 3'],
    ['4', 'value', 'wrong 4'],
    ['–', '', 'wrong 0'],
  ])
  expect(w.findAll('tr.attention')).toHaveLength(1)
})

it('says how many are not shown', () => {
  const w = mount(WrongRows, { props: { rows: Array.from({ length: 230 }, (_, i) => row(i + 1)) } })
  expect(w.findAll('tbody tr')).toHaveLength(200)
  expect(w.text()).toContain('And 30 more.')
})
