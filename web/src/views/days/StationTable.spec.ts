import { mount } from '@vue/test-utils'
import { beforeEach, expect, it, vi } from 'vitest'

import type { Schemas } from '@/api/client'
import type { Test } from '@/views/screen/cells'
import type { Typing } from '@/views/screen/typing'

import StationTable from './StationTable.vue'

const test = {
  id: 'hip',
  name: 'Hip turn',
  sides: 'limb',
  trials: 1,
  unit: 'deg',
  decimals: 1,
  exertion: true,
} as unknown as Test
const row = (id: string, more: object = {}) =>
  ({
    golfer: { id, name: `Golfer ${id}`, mayExert: id !== 'jonas', junior: false },
    start: 75,
    trials: [],
    tests: [],
    variants: { hip: 'prone' },
    ...more,
  }) as unknown as Schemas['StationRow']

/** Typing of a golfer, as the table asks of it. */
function typing(texts: Record<string, string> = {}, trouble = new Map<string, { text: string; unlikely: boolean }>()) {
  return {
    typed: new Map(Object.entries(texts).map(([k, text]) => [k, { text }])),
    trouble,
    shown: (k: string) => ({ text: texts[k] ?? '', status: '', pain: k === 'hip|trail|1' ? 3 : 0 }),
    inCell: (k: string) => texts[k] ?? '',
    confirm: vi.fn(),
    drop: vi.fn(),
  } as unknown as Typing & { confirm: ReturnType<typeof vi.fn>; drop: ReturnType<typeof vi.fn> }
}
const una = typing({ 'hip|lead|1': '31' })
const open = (rows = [row('una'), row('jonas'), row('ewan')], t = una) =>
  mount(StationTable, {
    props: {
      rows,
      test,
      typings: new Map([
        ['una', t],
        ['jonas', typing()],
        ['ewan', typing()],
      ]),
      units: { speed: 'mph' },
      day: '2026-11-24',
      start: '09:00',
      across: false,
      modelValue: { row: 0, column: 0 },
    },
    attachTo: document.body,
  })
const cell = (w: ReturnType<typeof open>, at: string) => w.find<HTMLInputElement>(`[data-cell="${at}"]`)

beforeEach(() => (document.body.innerHTML = ''))

it('shows who is at the station when, what they have, and what hurt', () => {
  const result = { test: 'hip', status: 'done', date: '2026-11-24', sides: [{ side: 'lead', result: 31, cv: 2.14 }] }
  const w = open([row('una', { tests: [result] })])
  expect(w.find('tbody td').text()).toBe('10:15')
  expect(cell(w, '0:0').element.value).toBe('31')
  expect(w.find('[data-testid=station-result-0-lead]').text()).toBe('lead 31.0 · CV 2.1%')
  expect(w.find('[data-testid=pain]').text()).toBe('pain 3 in trail trial 1')
})

it('locks who is not cleared for effort, and passes them over', async () => {
  const w = open()
  expect(cell(w, '1:0').attributes('disabled')).toBeDefined()
  await cell(w, '0:0').setValue('33')
  await cell(w, '0:0').trigger('keydown', { key: 'Enter' })
  expect(w.emitted('put')).toEqual([['una', [{ test: 'hip', side: 'lead', trial: 1, text: '33', variant: 'prone' }]]])
  await vi.waitFor(() => expect((document.activeElement as HTMLElement).dataset.cell).toBe('2:0'))
})

it('puts nothing where nothing was changed', async () => {
  const w = open()
  await cell(w, '0:0').trigger('keydown', { key: 'Enter' })
  expect(w.emitted('put')).toBeUndefined()
})

it('confirms an unlikely value when it is entered once more', async () => {
  const t = typing({ 'hip|lead|1': '91' }, new Map([['hip|lead|1', { text: 'unlikely', unlikely: true }]]))
  const w = open([row('una')], t)
  await cell(w, '0:0').trigger('keydown', { key: 'Enter' })
  expect(t.confirm).toHaveBeenCalledWith('hip|lead|1')
  await cell(w, '0:0').trigger('keydown', { key: 'Escape' })
  expect(t.drop).toHaveBeenCalledWith('hip|lead|1')
})

it('takes letters as keys in a cell, and undoes and redoes', async () => {
  const w = open()
  const press = (key: string, more: object = {}) => cell(w, '2:1').trigger('keydown', { key, ...more })
  await press('s')
  expect(w.emitted('put')).toEqual([['ewan', [{ test: 'hip', side: 'trail', trial: 1, status: 'stopped' }]]])
  await press('p')
  await press('k')
  expect(w.emitted('pain')).toEqual([[{ row: 2, column: 1 }]])
  expect(w.emitted('skip')).toEqual([[{ row: 2, column: 1 }]])
  await press('z', { ctrlKey: true })
  await press('Z', { ctrlKey: true, shiftKey: true })
  await press('y', { metaKey: true })
  expect([w.emitted('undo')?.length, w.emitted('redo')?.length]).toEqual([1, 2])
})

it('moves by arrows within the table', async () => {
  const w = open()
  cell(w, '0:0').element.focus()
  await cell(w, '0:0').trigger('keydown', { key: 'ArrowDown' })
  await cell(w, '0:0').trigger('keydown', { key: 'ArrowRight' })
  expect((document.activeElement as HTMLElement).dataset.cell).toBe('0:1')
})
