import { mount } from '@vue/test-utils'
import { expect, it, vi } from 'vitest'
import { reactive } from 'vue'
import { createVuetify } from 'vuetify'

import type { Schemas } from '@/api/client'

import { type CellChange, cellKey } from './cells'
import SheetRow from './SheetRow.vue'
import type { Trouble } from './typing'

const shots: Schemas['Test'] = {
  id: 'offline',
  name: 'Offline distance',
  group: 'Accuracy',
  unit: 'm',
  decimals: 1,
  sides: 'none',
  trials: 7,
  rule: 'spread',
  setup: '',
  source: '',
  typicalError: 2,
  plausible: [-50, 50],
  impossible: [-150, 150],
}
const read = (change?: Schemas['Change']): Schemas['TestRead'] => ({
  test: 'offline',
  name: 'Offline distance',
  group: 'Accuracy',
  unit: 'm',
  decimals: 1,
  status: 'measured',
  date: '2026-11-24',
  sentence: '',
  source: '',
  errorFrom: 'our default',
  sides: [{ side: '', valid: 2, cv: 0, typicalError: 2, result: 3.27, ...(change ? { change } : {}) }],
})

function open(trials: Schemas['Trial'][] = [], r = read()) {
  const typed = reactive(new Map<string, CellChange>())
  const trouble = reactive(new Map<string, Trouble>())
  const act = {
    commit: vi.fn(),
    key: vi.fn(),
    here: vi.fn(),
    paste: vi.fn(),
    rewrite: vi.fn(),
    record: vi.fn(),
    back: vi.fn(),
  }
  const wrapper = mount(SheetRow, {
    props: {
      line: { test: shots, side: '', first: true, sides: 1 },
      index: 4,
      columns: 5,
      read: r,
      trials,
      variant: '',
      locked: false,
      day: '2026-11-24',
      units: { speed: 'mph' },
      on: false,
      typing: { typed, trouble },
      act,
    },
    global: { plugins: [createVuetify()] },
  })
  return { wrapper, typed, trouble, act }
}
const trial = (n: number, text: string): Schemas['Trial'] => ({
  test: 'offline',
  trial: n,
  status: 'done',
  value: 1,
  text,
})

it('stacks what does not fit beside each other', () => {
  const { wrapper } = open()
  const places = wrapper.findAll('td.cell').map((td) => td.findAll('input').map((i) => i.attributes('data-cell')))
  expect(places).toEqual([['4:1', '4:6'], ['4:2', '4:7'], ['4:3'], ['4:4'], ['4:5']])
})

it('shows typed over saved, states, and what is wrong', async () => {
  const { wrapper, typed, trouble } = open([trial(1, '-3'), { ...trial(2, ''), status: 'stopped' }])
  const at = (n: number) => wrapper.get<HTMLInputElement>(`[data-cell="4:${n}"]`)
  expect(at(1).element.value).toBe('-3')
  expect(at(2).element.value).toBe('stopped')
  typed.set(cellKey({ test: 'offline', trial: 1 }), { test: 'offline', trial: 1, text: '90' })
  trouble.set(cellKey({ test: 'offline', trial: 1 }), { text: 'unlikely', unlikely: true })
  await wrapper.vm.$nextTick()
  expect(at(1).element.value).toBe('90')
  expect(at(1).classes()).toContain('unlikely')
  expect(at(1).attributes('aria-invalid')).toBe('true')
})

it('names a spread as one, and how sure a difference is', () => {
  const change = { from: '2026-10-01', before: 5.1, by: -1.8, verdict: 'within error' as const, sentence: '' }
  const { wrapper } = open([], read(change))
  expect(wrapper.get('[data-testid="result-offline-"]').text()).toBe('SD 3.27 m')
  expect(wrapper.text()).toContain('5.10 • within error')
})

it('hands over what is typed with its place', async () => {
  const { wrapper, act } = open()
  const cell = wrapper.get<HTMLInputElement>('[data-cell="4:6"]')
  await cell.trigger('focus')
  expect(act.here).toHaveBeenCalledWith(4, 6)
  cell.element.value = '12'
  await cell.trigger('input')
  await cell.trigger('keydown', { key: 'Enter' })
  expect(act.commit).toHaveBeenCalledWith(expect.objectContaining({ side: '' }), 6, '12')
  expect(act.key).toHaveBeenCalled()
})

it('shows noted pain in its row, and keeps digits out of lists', async () => {
  const { wrapper } = open([
    { test: 'offline', trial: 2, status: 'done', value: 3, text: '3', pain: 3, region: 'hip' } as Schemas['Trial'],
  ])
  expect(wrapper.get('[data-testid=pain]').text()).toBe('pain 3 in trial 2')
  expect(wrapper.findAll('input.hurt')).toHaveLength(1)
  await wrapper.setProps({
    line: { test: { ...shots, rule: 'one-rm' }, side: '', first: true, sides: 1 },
  } as never)
  const list = wrapper.get('select').element
  const press = (key: string) => {
    const event = new KeyboardEvent('keydown', { key, cancelable: true })
    list.dispatchEvent(event)
    return event.defaultPrevented
  }
  expect(press('4')).toBe(true)
  expect(press('ArrowDown')).toBe(false)
})
