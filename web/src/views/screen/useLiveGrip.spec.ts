import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'

import { FakeSource, settled } from '@/testing'

import { useLiveGrip, WINDOW } from './useLiveGrip'

const health = { kept: 0, duplicates: 0, late: 0, missing: 0, impossible: 0, thinned: 0, gaps: 0, full: false }
const say = (source: FakeSource, e: object) =>
  source.say({ samples: [], squeezes: [], garbage: 0, lost: 0, health, state: 'live', ...e })

beforeEach(() => vi.stubGlobal('fetch', async (u: string, init?: RequestInit) => FakeSource.answer(u, init)))
afterEach(() => vi.unstubAllGlobals())

async function open() {
  let live!: ReturnType<typeof useLiveGrip>
  const wrapper = mount(defineComponent({ setup: () => ((live = useLiveGrip()), () => null) }))
  live.start()
  await settled()
  return { live, wrapper, source: FakeSource.last }
}

it('keeps the trace of the last seconds and the squeezes as they are measured', async () => {
  const { live, source } = await open()
  expect(live.state.value).toBe('waiting')
  await say(source, {
    device: 'Stand-in',
    samples: [
      [0, 1],
      [1, 40],
    ],
  })
  await say(source, { samples: [[WINDOW + 0.5, 2]], squeezes: [{ peak: 40 }] })
  expect(live.state.value).toBe('live')
  expect(live.trace.value.map((p) => p[0])).toEqual([1, WINDOW + 0.5])
  expect(live.squeezes.value).toHaveLength(1)
})

it('says what was wrong with the line', async () => {
  const { live, source } = await open()
  await say(source, { garbage: 3, lost: 1, health: { ...health, duplicates: 2, thinned: 900 } })
  expect(live.health.value).toEqual([
    '1 loss of the instrument',
    '3 unreadable lines',
    '2 samples sent twice',
    '900 samples thinned out',
  ])
})

it('keeps what was recorded when the connection ends, and hangs up when it is left', async () => {
  const { live, source, wrapper } = await open()
  await say(source, { squeezes: [{ peak: 40 }] })
  await source.end()
  expect(live.state.value).toBe('ended')
  expect(live.squeezes.value).toHaveLength(1)
  live.start()
  await settled()
  const second = FakeSource.last
  wrapper.unmount()
  expect(second.closed).toBe(true)
})

it('tells why there is no instrument', async () => {
  vi.stubGlobal('fetch', async () => new Response(JSON.stringify({ detail: 'Start the stand-in' }), { status: 404 }))
  const { live } = await open()
  expect(live.text.value).toBe('Start the stand-in')
  expect(live.state.value).toBe('refused')
})
