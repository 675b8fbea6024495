import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { reactive } from 'vue'

import { createVuetify } from 'vuetify'

import FactRows from './FactRows.vue'

const shown = (rows: { name: string }[]) =>
  mount(FactRows<{ name: string }>, {
    props: {
      modelValue: rows,
      title: 'Matches',
      add: 'Add a match',
      fresh: () => ({ name: 'New' }),
      named: (m: { name: string }) => m.name,
      none: 'No matches.',
    },
    slots: { default: ({ row, i }: { row: { name: string }; i: number }) => `${i + 1}: ${row.name}` },
    global: { plugins: [createVuetify()], stubs: { InTurns: { template: '<slot />' } } },
  })

describe('facts in any number', () => {
  it('says that there are none, and adds one', async () => {
    const rows = reactive<{ name: string }[]>([])
    const view = shown(rows)
    expect(view.text()).toContain('No matches.')
    await view.get('button').trigger('click')
    expect(rows).toEqual([{ name: 'New' }])
    expect(view.text()).toContain('1: New')
    expect(view.text()).not.toContain('No matches.')
  })

  it('takes out the row whose button was pressed', async () => {
    const rows = reactive([{ name: 'Spring' }, { name: 'Autumn' }])
    const view = shown(rows)
    await view.get('[aria-label="Remove Spring"]').trigger('click')
    expect(rows).toEqual([{ name: 'Autumn' }])
  })
})
