import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { defineComponent } from 'vue'

import { useUi } from '@/app/ui'

import { merged, useSheet } from './useSheet'

const screen = {
  id: 's',
  athleteId: 'a',
  revision: 1,
  date: '2026-11-24',
  circumstances: {},
  set: [],
  trials: [] as unknown[],
  tests: [],
  mayExert: true,
  clearance: '',
  variants: {},
}
const session = { name: '', email: '', practice: '', units: { speed: 'mph' }, today: '2026-11-24' }
let version = 1
let patches: { cells: { test: string; text?: string; confirmed?: boolean; seen?: number }[] }[] = []
let answer: (n: number) => Response | Promise<Response>
/** Holds back the answers to asking for the screen. */
let held: Promise<void> | undefined

function json(body: unknown, status = 200) {
  return new Response(JSON.stringify(body), {
    status,
    headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
  })
}

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  patches = []
  answer = () => json({ ...screen, revision: 2 })
  vi.stubGlobal('fetch', async (r: Request) => {
    if (r.method === 'PATCH') {
      patches.push((await r.json()) as (typeof patches)[0])
      return answer(patches.length)
    }
    if (r.url.endsWith('/version')) return json({ version })
    if (r.url.endsWith('/session')) return json(session)
    const then = json(screen)
    await held
    return then
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

async function open() {
  let sheet!: ReturnType<typeof useSheet>
  const host = defineComponent({ setup: () => ((sheet = useSheet('s', 'a', () => [])), () => null) })
  const pinia = createPinia()
  const wrapper = mount(host, { global: { plugins: [pinia, [VueQueryPlugin, { queryClient: new QueryClient() }]] } })
  await settle()
  return { sheet, wrapper, ui: useUi(pinia) }
}
async function settle(ms = 0) {
  for (let i = 0; i < 5; i++) {
    await vi.advanceTimersByTimeAsync(i === 0 ? ms : 0)
    await flushPromises()
  }
}

it('sends what was typed together, once typing rests', async () => {
  const { sheet, ui } = await open()
  sheet.put([{ test: 'mass', trial: 1, text: '80' }])
  sheet.put([{ test: 'mass', trial: 2, text: '81' }])
  expect(ui.save).toBe('saving')
  await settle(300)
  expect(patches).toHaveLength(1)
  expect(patches[0]?.cells.map((c) => c.text)).toEqual(['80', '81'])
  expect(ui.save).toBe('saved')
  expect(sheet.typed.size).toBe(0)
})

it('marks the cell that is refused and sends the others without it', async () => {
  answer = (n) =>
    n === 1
      ? json(
          {
            type: '',
            title: '',
            status: 422,
            detail: 'Nothing was saved',
            errors: [{ field: 'cells[0].value', detail: 'unlikely', unlikely: true }],
          },
          422,
        )
      : json({ ...screen, revision: 2 })
  const { sheet } = await open()
  sheet.put([
    { test: 'cmj', trial: 1, text: '70' },
    { test: 'mass', trial: 1, text: '80' },
  ])
  await settle(300)
  await settle(50)
  expect(patches[1]?.cells.map((c) => c.text)).toEqual(['80'])
  expect([...sheet.trouble.values()]).toEqual([{ text: 'unlikely', unlikely: true }])
  sheet.confirm('cmj||1')
  await settle(50)
  expect(patches[2]?.cells[0]?.confirmed).toBe(true)
})

it('keeps what could not be sent, over a reload too, and sends it later', async () => {
  answer = () => Promise.reject(new TypeError('offline'))
  const first = await open()
  first.sheet.put([{ test: 'mass', trial: 1, text: '80' }])
  await settle(300)
  expect(first.ui.save).toBe('unsent')
  first.wrapper.unmount()

  answer = () => json({ ...screen, revision: 2 })
  const second = await open()
  await settle(50)
  expect(patches.at(-1)?.cells.map((c) => c.text)).toEqual(['80'])
  expect(second.ui.save).toBe('saved')
  expect(localStorage.getItem('dunnock.unsent..screen.s')).toBe('[]')
})

it('sends each cell with the revision it was seen at, and asks when somebody else was there', async () => {
  answer = (n) =>
    n === 1
      ? json(
          {
            type: '',
            title: '',
            status: 409,
            detail: 'N wrote 81 here meanwhile',
            errors: [{ field: 'cells[0].value', detail: 'N wrote 81 here meanwhile', clash: { text: '81', seen: 7 } }],
          },
          409,
        )
      : json({ ...screen, revision: 8 })
  const { sheet } = await open()
  sheet.put([{ test: 'mass', trial: 1, text: '80' }])
  sheet.put([{ test: 'height', trial: 1, text: '175' }])
  await settle(300)
  expect(patches[0]?.cells.map((c) => c.seen)).toEqual([0, 0])
  await settle(50)
  expect(patches[1]?.cells.map((c) => c.test)).toEqual(['height'])
  expect(sheet.trouble.get('mass||1')?.clash).toEqual({ text: '81', seen: 7 })
  sheet.keepMine('mass||1')
  await settle(50)
  expect(patches[2]?.cells).toMatchObject([{ test: 'mass', text: '80', seen: 7 }])
  expect(sheet.trouble.size).toBe(0)
})

it('shows what others write within two seconds', async () => {
  const { sheet } = await open()
  expect(sheet.saved.value.size).toBe(0)
  screen.trials = [{ test: 'mass', trial: 1, text: '77', status: 'done', value: 77, rev: 2 }]
  version = 2
  await settle(1900)
  expect(sheet.saved.value.get('mass||1')?.text).toBe('77')
  screen.trials = []
})

it('is not taken back by an answer that was asked for before the save', async () => {
  const { sheet } = await open()
  let release = () => {}
  held = new Promise((done) => (release = done))
  version++
  await settle(1900)
  answer = () =>
    json({ ...screen, trials: [{ test: 'mass', trial: 1, text: '80', status: 'done', value: 80, rev: 3 }] })
  sheet.put([{ test: 'mass', trial: 1, text: '80' }])
  await settle(50)
  release()
  held = undefined
  await settle(50)
  sheet.put([{ test: 'mass', trial: 1, text: '81' }])
  await settle(50)
  expect(patches.map((p) => p.cells[0]?.seen)).toEqual([0, 3])
})

it('takes back the last cells', async () => {
  const { sheet } = await open()
  sheet.put([{ test: 'mass', trial: 1, text: '80' }])
  await settle(300)
  sheet.takeBack()
  await settle(300)
  expect(patches[1]?.cells[0]).toMatchObject({ test: 'mass', text: '', status: '' })
})

it('lays a difference over the screen it differs from, and over no other', () => {
  const trial = (test: string, text: string) => ({ test, trial: 1, text, status: 'done' as const, value: 1 })
  const read = (test: string, sentence: string) => ({ test, sentence }) as never
  const have = {
    ...screen,
    revision: 4,
    trials: [trial('a', '1'), trial('b', '2')],
    tests: [read('a', 'old'), read('b', 'old')],
  }
  const now = {
    ...screen,
    revision: 5,
    since: 4,
    trials: [trial('c', '3')],
    cleared: [{ test: 'a', trial: 1 }],
    tests: [read('b', 'new')],
  }
  const got = merged(have, now)
  expect(got?.trials.map((t) => t.text)).toEqual(['2', '3'])
  expect(got?.tests.map((t) => t.sentence)).toEqual(['old', 'new'])
  expect(got?.tests[0]).toBe(have.tests[0])
  expect(got).toMatchObject({ revision: 5 })
  expect(got).not.toHaveProperty('since')
  expect(merged({ ...have, revision: 3 }, now)).toBeUndefined()
  expect(merged(undefined, { ...screen, trials: [] })).toMatchObject({ revision: 1 })
})

it('waits with what was typed while nobody is signed in, or the database is away', async () => {
  for (const status of [401, 503]) {
    localStorage.clear()
    answer = () => json({ type: '', title: '', status, detail: 'not now' }, status)
    const { sheet, ui, wrapper } = await open()
    sheet.put([{ test: 'mass', trial: 1, text: '80' }])
    await settle(50)
    expect(ui.save).toBe('unsent')
    expect(sheet.trouble.size).toBe(0)
    expect(localStorage.getItem('dunnock.unsent..screen.s')).toContain('80')
    wrapper.unmount()
  }
})

it('takes back and brings back, and forgets what was taken back once something new is typed', async () => {
  let held_: { test: string; trial: number; text: string; status: string; rev: number }[] = []
  answer = () => {
    const sent = patches.at(-1)?.cells[0] as { test: string; trial: number; text?: string } | undefined
    held_ = sent?.text ? [{ test: 'mass', trial: 1, text: sent.text, status: 'done', rev: patches.length + 1 }] : []
    return json({ ...screen, revision: patches.length + 1, trials: held_ })
  }
  const { sheet } = await open()
  const now = () => sheet.shown('mass||1').text
  sheet.put([{ test: 'mass', trial: 1, text: '80' }])
  await settle(50)
  sheet.put([{ test: 'mass', trial: 1, text: '81' }])
  await settle(50)
  sheet.takeBack()
  await settle(50)
  expect(now()).toBe('80')
  sheet.bringBack()
  await settle(50)
  expect(now()).toBe('81')
  sheet.takeBack()
  sheet.takeBack()
  await settle(50)
  expect(now()).toBe('')
  sheet.bringBack()
  await settle(50)
  expect(now()).toBe('80')
  sheet.put([{ test: 'mass', trial: 1, text: '90' }])
  await settle(50)
  expect(sheet.undone).toHaveLength(0)
  sheet.bringBack()
  await settle(50)
  expect(now()).toBe('90')
})
