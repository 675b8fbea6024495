import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { ref } from 'vue'

import { queryClient, type Schemas } from '@/api/client'

import { useStationTyping } from './useStationTyping'

const row = (id: string) => ({ golfer: { id }, trials: [] }) as unknown as Schemas['StationRow']
const cell = (text: string) => ({ test: 'mass', side: '', trial: 1, text })
let sent: { url: string; cells: { text: string }[] }[] = []
const saved = vi.fn(async () => {})

beforeEach(() => {
  localStorage.clear()
  queryClient.setQueryData(['session'], { id: 'una' })
  sent = []
  saved.mockClear()
  vi.stubGlobal('fetch', async (r: Request) => {
    sent.push({ url: r.url, ...((await r.json()) as { cells: { text: string }[] }) })
    return new Response('{}', { status: 200, headers: { 'Content-Type': 'application/json' } })
  })
})
afterEach(() => vi.unstubAllGlobals())

function open(ids: string[]) {
  let got!: ReturnType<typeof useStationTyping>
  const w = mount(
    {
      setup: () => {
        got = useStationTyping({
          dayId: 'd',
          rows: ref(ids.map(row)),
          tests: () => [],
          units: () => ({ speed: 'mph' }),
          ready: () => true,
          saved,
        })
        return () => null
      },
    },
    { global: { plugins: [createPinia(), [VueQueryPlugin, { queryClient: new QueryClient() }]] } },
  )
  return { w, ...got }
}

it('saves each golfer by themselves', async () => {
  const s = open(['a', 'b'])
  expect([...s.typings.keys()]).toEqual(['a', 'b'])
  s.put('a', [cell('80')])
  s.put('b', [cell('75')])
  await flushPromises()
  expect(sent.map((x) => [x.url.split('/').at(-1), x.cells[0]?.text])).toEqual([
    ['a', '80'],
    ['b', '75'],
  ])
  expect(saved.mock.calls).toEqual([['a'], ['b']])
})

it('takes back what was typed last, whoever it was of, and brings it back', async () => {
  const s = open(['a', 'b'])
  s.put('a', [cell('80')])
  await flushPromises()
  s.put('b', [cell('75')])
  await flushPromises()
  s.takeBack()
  await flushPromises()
  expect(sent.at(-1)?.url).toContain('/golfers/b')
  expect(sent.at(-1)?.cells[0]?.text).toBe('')
  expect([s.order, s.undone]).toEqual([['a'], ['b']])
  s.bringBack()
  await flushPromises()
  expect(s.order).toEqual(['a', 'b'])
  s.put('a', [cell('81')])
  expect(s.undone).toEqual([])
  s.takeBack()
  s.takeBack()
  s.takeBack()
  s.takeBack()
  expect(s.order).toEqual([])
})

it('sends what an earlier visit left unsent', async () => {
  localStorage.setItem('dunnock.unsent.una.station.d.a', JSON.stringify([cell('82')]))
  open(['a'])
  await flushPromises()
  expect(sent.map((x) => x.cells[0]?.text)).toEqual(['82'])
})
