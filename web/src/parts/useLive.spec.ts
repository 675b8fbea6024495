import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { FakeSource, inside, settled } from '@/testing'

import { type LiveEvent, useLive } from './useLive'

const heard: string[] = []
const use = () =>
  inside(() =>
    useLive<LiveEvent>({
      path: '/devices/grip/live',
      refused: { state: 'refused', text: 'It does not answer.' },
      gone: { state: 'gone', text: 'The line broke.' },
      over: ['ended'],
      take(e) {
        heard.push(e.state)
        live.state.value = e.state
      },
    }),
  )
let live: ReturnType<typeof use>
const event = (state: string, more: Partial<LiveEvent> = {}) => ({ state, garbage: 0, health: {}, ...more })

beforeEach(() => {
  heard.length = 0
  vi.stubGlobal('fetch', (url: string, init?: RequestInit) => Promise.resolve(FakeSource.answer(url, init)))
  live = use()
})
afterEach(() => vi.unstubAllGlobals())

it('looks, hears, and counts what is wrong in words', async () => {
  live.start({ state: 'waiting', text: 'Looking …' }, { kind: 'jump' })
  expect([live.state.value, live.text.value]).toEqual(['waiting', 'Looking …'])
  await settled()
  expect(JSON.parse(FakeSource.last.body)).toEqual({ kind: 'jump' })
  await FakeSource.last.say(
    event('live', { device: 'grip 7', garbage: 2, lost: 1, health: { late: 3, gaps: 1, missing: 0 } }),
  )
  expect(heard).toEqual(['live'])
  expect(live.device.value).toBe('grip 7')
  expect(live.health.value).toEqual(['1 loss of the instrument', '2 unreadable lines', '3 late samples', '1 pauses'])
})

it('says that the line broke, unless all was said', async () => {
  live.start({ state: 'waiting', text: '' })
  await settled()
  await FakeSource.last.end()
  expect([live.state.value, live.text.value]).toEqual(['gone', 'The line broke.'])
  live.start({ state: 'waiting', text: '' })
  await settled()
  await FakeSource.last.say(event('ended'))
  expect(FakeSource.last.closed).toBe(true)
  expect(live.state.value).toBe('ended')
})

it('gives the server’s reason where it is refused, or its own', async () => {
  const refuse = (body: object) =>
    vi.stubGlobal('fetch', () => Promise.resolve(new Response(JSON.stringify(body), { status: 503 })))
  refuse({ detail: 'Somebody else records.' })
  live.start({ state: 'waiting', text: '' })
  await settled()
  expect(live.text.value).toBe('Somebody else records.')
  refuse({})
  live.start({ state: 'waiting', text: '' })
  await settled()
  expect([live.state.value, live.text.value]).toEqual(['refused', 'It does not answer.'])
})

it('closes with its view', async () => {
  const w = mount({ setup: () => ((live = useLiveAgain()), () => null) })
  live.start({ state: 'waiting', text: '' })
  await settled()
  w.unmount()
  expect(FakeSource.last.closed).toBe(true)
})
function useLiveAgain() {
  return useLive<LiveEvent>({
    path: '/x',
    refused: { state: 'r', text: '' },
    gone: { state: 'g', text: '' },
    over: [],
    take: () => {},
  })
}
