import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { effectScope } from 'vue'

import { api, queryClient } from '@/api/client'

import { type Making, useSeries } from './useSeries'
import type { Series, Swing } from './useSpeed'

const making: Making = { implement: 'driver', side: 'playing', intent: 'full', set: 1, drill: '' }
const calls: string[] = []
const kept = new Map<string, Swing[]>()
let down = false
let refusal: object | undefined

/** What the server answers to a series begun and to swings put into one. */
function answer(path: string, o: object) {
  calls.push(path)
  if (down) return Promise.reject(new TypeError('no network'))
  if (refusal && path.endsWith('/swings'))
    return Promise.resolve({ error: refusal, response: new Response('', { status: 422 }) })
  const { params, body } = o as { params: { path: Record<string, string> }; body: { id?: string; swings?: Swing[] } }
  const id = params.path.seriesId ?? body.id ?? ''
  const list = kept.get(id) ?? []
  for (const s of body.swings ?? []) {
    const at = list.findIndex((x) => x.id === s.id)
    if (at >= 0) list[at] = s
    else list.push(s)
  }
  kept.set(id, list)
  const data = { id, kind: 'training', swings: list, marks: [], summaries: [], stops: [], warnings: [] }
  return Promise.resolve({ data, response: new Response() })
}

beforeEach(() => {
  vi.useFakeTimers()
  for (const method of ['POST', 'PUT'] as const) vi.spyOn(api, method).mockImplementation(answer as never)
  localStorage.clear()
  setActivePinia(createPinia())
  queryClient.setQueryData(['session'], { id: 'una' })
  calls.length = 0
  kept.clear()
  down = false
  refusal = undefined
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
  queryClient.clear()
})

function open(saved: (s: Series) => void = () => undefined) {
  const s = effectScope().run(() => useSeries('g', saved))
  if (!s) throw new Error('no scope')
  return s
}
const run = (ms = 200) => vi.advanceTimersByTimeAsync(ms)

test('the first swing begins a series, each goes out by an id of its own', async () => {
  const s = open()
  s.add(making, 45)
  await run()
  s.add(making, 46)
  await run()
  expect(calls).toEqual([
    '/athletes/{athleteId}/speed-series',
    '/speed-series/{seriesId}/swings',
    '/speed-series/{seriesId}/swings',
  ])
  expect(s.swings.value.map((x) => x.clubMps)).toEqual([45, 46])
  expect(new Set(s.swings.value.map((x) => x.id)).size).toBe(2)
})

test('a swing is seen at once, a change takes its place', async () => {
  const s = open()
  s.add(making, 45)
  expect(s.last.value?.clubMps).toBe(45)
  await run()
  const last = s.last.value as Swing
  s.change(last, { void: 'slip' })
  expect(s.swings.value).toHaveLength(1)
  expect(s.last.value?.void).toBe('slip')
})

test('without a network nothing is lost, over a reload neither', async () => {
  const s = open()
  down = true
  s.add(making, 45)
  s.add(making, 46)
  await run()
  expect(s.swings.value).toHaveLength(2)
  const id = s.begun.value?.id
  down = false
  const again = open()
  expect(again.begun.value?.id).toBe(id)
  await run(4000)
  expect(again.swings.value.map((x) => x.clubMps)).toEqual([45, 46])
})

test('what is refused is said and taken back', async () => {
  const s = open()
  refusal = { type: 'about:blank', title: '', status: 422, detail: 'Swing 1: no club moves so.' }
  s.add(making, 12)
  await run()
  expect(s.refused.value).toBe('Swing 1: no club moves so.')
  expect(s.swings.value).toHaveLength(0)
})
