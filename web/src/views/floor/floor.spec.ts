import { mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, nextTick } from 'vue'
import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { createVuetify } from 'vuetify'
import * as components from 'vuetify/components'

import { api, queryClient } from '@/api/client'
import { ageWords } from '@/offline/age'
import { clockWords } from '@/parts/signals'
import { roundAt, type View } from '@/views/classes/useClass'

import AfterPart from './AfterPart.vue'
import { useFloorOutbox } from './floorOutbox'
import { dayAfter, type Entry, type Log, nextOpen, type Session, setWords, withWaiting } from './log'
import Stepper from '@/parts/Stepper.vue'
import { useRun } from './useRun'
import WorkPart from './WorkPart.vue'

const empty = (): Log => ({ how: {}, items: [], twice: [], clock: 0, entries: 0, heads: [] })
let clock = 0
const entry = (what: string, value: unknown, item = '', number = 0): Entry => ({
  id: `e${++clock}`,
  what,
  value,
  clock,
  at: '2026-11-24T17:00:00Z',
  device: 'd',
  ...(item ? { item } : {}),
  ...(number ? { number } : {}),
})

beforeEach(() => {
  clock = 0
  localStorage.clear()
  setActivePinia(createPinia())
  queryClient.setQueryData(['session'], { id: 'una', units: { speed: 'mph' } })
})
afterEach(() => queryClient.clear())

describe('what waits on the device', () => {
  it('stands over what the server has, and leaves that as it is', () => {
    const server = empty()
    const log = withWaiting(server, [
      entry('begun', { date: '2026-11-24' }),
      entry('set', { state: 'done', reps: 5 }, 'a', 2),
      entry('set', { state: 'done', reps: 6 }, 'a', 1),
      entry('set', { state: 'stopped', reps: 3 }, 'a', 2),
      entry('left-out', { text: 'No time' }, 'b'),
      entry('swap', { exercise: 'lift-goblet-squat' }, 'c'),
      entry('space', { clear: true }),
      entry('version', { easier: true }),
      entry('after', { effort: 6 }),
    ])
    expect(server.items).toHaveLength(0)
    expect(log.state).toBe('running')
    expect(log.items.find((i) => i.item === 'a')?.sets.map((s) => [s.number, s.state])).toEqual([
      [1, 'done'],
      [2, 'stopped'],
    ])
    expect(log.items.find((i) => i.item === 'b')?.leftOut).toBe(true)
    expect(log.items.find((i) => i.item === 'c')?.exercise).toBe('lift-goblet-squat')
    expect([log.space, log.easier, log.how.effort]).toEqual([true, true, 6])
    expect(log.clock).toBe(9)
    expect(log.heads.filter((h) => h.item === 'a' && h.number === 2)).toHaveLength(1)
    const back = withWaiting(log, [entry('set', null, 'a', 1), entry('ended', { state: 'done' })])
    expect(back.items.find((i) => i.item === 'a')?.sets).toHaveLength(1)
    expect(back.state).toBe('done')
  })

  it('is told in a few words', () => {
    expect(setWords({ state: 'done', reps: 6, loadKg: 62.5, reserve: 2 })).toBe('6 · 62.5 kg · 2 left')
    expect(setWords({ state: 'skipped', note: 'rack taken' })).toBe('skipped: rack taken')
    expect(setWords({ state: 'done', swings: [{ mps: 44 }, { mps: 40, void: true }] })).toBe('1 swings')
    expect(setWords({ state: 'stopped', seconds: 20, pain: { region: 'lumbar-spine', level: 4 } })).toBe(
      '20 s · lumbar spine hurt 4 · stopped',
    )
  })
})

const step = (item: string, number: number, more: object = {}) => ({
  item,
  number,
  count: `set ${number} of 2`,
  big: '5',
  unit: 'repetitions',
  restSeconds: 60,
  reps: 5,
  ...more,
})
const piece = (item: string, name: string, more: object = {}) => ({
  item,
  exercise: item,
  name,
  slot: 'main-lift' as const,
  zone: 'Z4',
  kind: 'lift' as const,
  doseText: '2 × 5',
  loadText: '60 kg',
  cues: ['Push the floor'],
  faults: [],
  reason: '',
  sets: 2,
  stepKg: 2.5,
  reps: 5,
  loadKg: 60,
  reserve: 2,
  instead: [{ exercise: 'easier', name: 'Goblet squat', doseText: '2 × 8', loadText: '', cues: [] }],
  ...more,
})
const session = (more: Partial<Session['sheet']> = {}): Session => ({
  athleteId: 'g',
  name: 'Marit',
  session: 's',
  kind: 'planned',
  programmeId: 'p',
  version: 1,
  title: 'A day',
  letter: 'A',
  date: '2026-11-24',
  today: '2026-11-24',
  budget: 60,
  note: '',
  sheet: {
    pieces: [piece('a', 'Trap-bar deadlift'), piece('b', 'Split squat', { finds: true, loadKg: undefined })],
    steps: [step('a', 1, { loadKg: 60 }), step('a', 2, { loadKg: 60 }), step('b', 1)],
    ...more,
  },
  warmUp: [],
  warmUpWhy: '',
  limits: [],
  junior: false,
  stop: '',
  easier: [],
  log: empty(),
})
const global = () => ({
  plugins: [
    createVuetify({ components }),
    [VueQueryPlugin, { queryClient: new QueryClient() }] as [typeof VueQueryPlugin, object],
  ],
})

describe('the work', () => {
  function show(data = session(), log = empty()) {
    const w = mount(WorkPart, { props: { data, log }, global: global() })
    const noted = () => (w.emitted('note') ?? []) as [string, Record<string, unknown>, string, number][]
    return { w, noted }
  }
  it('ticks a set as planned in one tap, rests, and shows the next', async () => {
    vi.useFakeTimers()
    const { w, noted } = show()
    expect(w.get('[data-testid=tick]').text()).toBe('Done as planned')
    await w.get('[data-testid=tick]').trigger('click')
    expect(noted()[0]).toEqual(['set', { state: 'done', asPlanned: true, loadKg: 60, reps: 5, reserve: 2 }, 'a', 1])
    await w.setProps({ log: withWaiting(empty(), [entry('set', noted()[0]?.[1], 'a', 1)]) })
    await nextTick()
    await nextTick()
    expect(w.text()).toContain('set 2 of 2')
    expect(w.get('[data-testid=rest]').text()).toContain('Rest')
    vi.useRealTimers()
  })
  it('notes what was done otherwise, and asks for a load that is being found', async () => {
    const log = withWaiting(empty(), [
      entry('set', { state: 'done', reps: 5 }, 'a', 1),
      entry('set', { state: 'done', reps: 5 }, 'a', 2),
    ])
    const { w, noted } = show(session(), log)
    expect(w.text()).toContain('This session finds the level')
    expect(w.get('[data-testid=tick]').attributes('disabled')).toBeDefined()
    const load = w.findAllComponents(Stepper).find((s) => s.props('label') === 'Load')
    await load?.find('input').setValue('12,5')
    await load?.find('input').trigger('change')
    await w.get('[data-testid=tick]').trigger('click')
    expect(noted()[0]?.[1]).toMatchObject({ state: 'done', loadKg: 12.5, reps: 5, reserve: 2 })
    expect(noted()[0]?.[1].asPlanned).toBeUndefined()
  })
  it('says what is against a limit in force, until it is swapped', async () => {
    const instead = [{ exercise: 'x', name: 'Goblet squat', doseText: '3 × 5', loadText: '', cues: [], reps: 5 }]
    const data = session({ pieces: [piece('a', 'Trap-bar deadlift', { forbidden: 'knee: no load', instead })] })
    const { w } = show(data)
    expect(w.find('[role=alert]').text()).toContain('knee: no load. Swap it, or leave it out.')
    const log = withWaiting(empty(), [entry('swap', { exercise: 'x' }, 'a')])
    await w.setProps({ log })
    expect(w.find('[role=alert]').exists()).toBe(false)
  })

  it('asks for the space before what is fast, swaps from what is safe, leaves out with a reason', async () => {
    const fast = session({
      pieces: [piece('a', 'Jump', { kind: 'jumps', fast: true, reserve: undefined, loadKg: undefined })],
      steps: [step('a', 1)],
      space: { radiusM: 3.05, asks: ['Nobody within 3.1 m'] },
    })
    const { w, noted } = show(fast)
    expect(w.text()).toContain('Nobody within 3.1 m')
    await w
      .findAll('button')
      .find((b) => b.text() === 'The space is clear')
      ?.trigger('click')
    expect(w.emitted('space')).toHaveLength(1)
    await w.setProps({ log: { ...empty(), space: true } })
    await w
      .findAll('button')
      .find((b) => b.text() === 'Swap')
      ?.trigger('click')
    await w
      .findAll('button')
      .find((b) => b.text().startsWith('Goblet squat'))
      ?.trigger('click')
    expect(noted()[0]?.slice(0, 3)).toEqual(['swap', { exercise: 'easier', why: 'on the floor' }, 'a'])
    await w
      .findAll('button')
      .find((b) => b.text() === 'Leave out')
      ?.trigger('click')
    await w
      .findAll('button')
      .find((b) => b.text() === 'no kit')
      ?.trigger('click')
    expect(noted()[1]?.slice(0, 3)).toEqual(['left-out', { text: 'No kit' }, 'a'])
  })
  it('goes on where something is open', () => {
    const steps = session().sheet.steps
    const log = withWaiting(empty(), [entry('set', { state: 'done' }, 'a', 2)])
    expect(nextOpen(steps, log)).toBe(0)
    expect(nextOpen(steps, log, 1)).toBe(2)
    const left = withWaiting(log, [entry('left-out', { text: '' }, 'b'), entry('set', { state: 'done' }, 'a', 1)])
    expect(nextOpen(steps, left)).toBe(-1)
  })
})

describe('after', () => {
  it('asks for the effort, and for why something was not done', async () => {
    const w = mount(AfterPart, { props: { data: session(), log: empty() }, global: global() })
    const end = () => w.findAll('button').find((b) => b.text() === 'End the session')
    expect(end()?.attributes('disabled')).toBeDefined()
    expect(w.text()).toContain('Not done')
    await w
      .findAll('button')
      .find((b) => b.text() === 'No time')
      ?.trigger('click')
    expect(w.emitted('leftOut')?.[0]).toEqual(['a', 'No time'])
    await w
      .findAll('button')
      .find((b) => b.text() === '7')
      ?.trigger('click')
    await end()?.trigger('click')
    expect(w.emitted('how')?.[0]).toEqual([{ effort: 7, minutes: 60 }])
    expect(w.emitted('end')).toHaveLength(1)
  })
})

it('says how old what is kept is, and times as a clock does', () => {
  expect(ageWords(1000, 1000)).toBe('just now')
  expect(ageWords(0, 25 * 60_000)).toBe('25 min ago')
  expect(ageWords(0, 5 * 3600_000)).toBe('5 h ago')
  expect(ageWords(0, 71 * 3600_000)).toBe('3 days ago')
  expect([clockWords(45), clockWords(90), clockWords(0)]).toEqual(['45', '1:30', '0'])
})

it('knows where in its rounds a class is', () => {
  const rounds = [
    { half: 'fast', from: 8, to: 19, at: {} },
    { half: 'strong', from: 20, to: 31, at: {} },
  ]
  const view = { rounds } as unknown as View
  expect(roundAt(view, 2)).toMatchObject({ now: undefined, next: rounds[0], left: 6 })
  expect(roundAt(view, 10)).toMatchObject({ now: rounds[0], next: rounds[1], left: 9 })
  expect(roundAt(view, 19.5)).toMatchObject({ now: undefined, next: rounds[1], left: 0.5 })
  expect(roundAt(view, 40)).toMatchObject({ now: undefined, next: undefined })
})

it('the day goes on with the midnights of the device', () => {
  const at = (text: string) => new Date(text).getTime()
  expect(dayAfter('2026-11-24', at('2026-11-30T21:00'), at('2026-11-30T23:59'))).toBe('2026-11-24')
  expect(dayAfter('2026-11-24', at('2026-11-30T21:00'), at('2026-12-01T07:00'))).toBe('2026-11-25')
})

it('a view that was asked for before a note and arrives after it takes nothing away', async () => {
  vi.useFakeTimers()
  const noted: Log = { ...empty(), entries: 1, clock: 1, items: [{ item: 'a', sets: [{ number: 1, state: 'done' }] }] }
  let arrive: () => void = () => undefined
  vi.spyOn(api, 'GET').mockImplementation(
    (() =>
      new Promise(
        (done) =>
          (arrive = () => done({ data: { log: empty(), stop: '' }, response: new Response('', { status: 200 }) })),
      )) as never,
  )
  vi.spyOn(api, 'POST').mockImplementation((() =>
    Promise.resolve({
      data: { logs: [{ athleteId: 'g', session: 's', log: noted }], refused: [], notes: [] },
      response: new Response('', { status: 200 }),
    })) as never)
  let run: ReturnType<typeof useRun> | undefined
  mount(
    defineComponent(() => {
      run = useRun('g', 's')
      return () => null
    }),
    { global: { plugins: [[VueQueryPlugin, { queryClient }]] } },
  )
  run?.note('set', { state: 'done' }, 'a', 1)
  await vi.advanceTimersByTimeAsync(300)
  expect(run?.outbox.waiting.value).toBe(0)
  arrive()
  await vi.advanceTimersByTimeAsync(10)
  expect(run?.log.value?.items.find((i) => i.item === 'a')?.sets).toHaveLength(1)
  vi.useRealTimers()
  vi.restoreAllMocks()
})

it('keeps the notes of a session that expired until the same person signs in', async () => {
  vi.useFakeTimers()
  let status = 401
  const post = vi
    .spyOn(api, 'POST')
    .mockImplementation((() =>
      Promise.resolve({ data: { logs: [], refused: [], notes: [] }, response: new Response('', { status }) })) as never)
  const open = () => {
    let box: ReturnType<typeof useFloorOutbox> | undefined
    const host = defineComponent(() => {
      box = useFloorOutbox()
      return () => null
    })
    mount(host, { global: { plugins: [[VueQueryPlugin, { queryClient }]] } })
    if (!box) throw new Error('no outbox')
    return box
  }
  const una = open()
  una.put({ athleteId: 'g', session: 's', entry: entry('set', { state: 'done' }, 'a', 1) })
  await vi.advanceTimersByTimeAsync(300)
  expect(post).toHaveBeenCalledTimes(1)
  status = 200
  queryClient.setQueryData(['session'], { id: 'olav' })
  expect(open().waiting.value).toBe(0)
  await vi.advanceTimersByTimeAsync(10_000)
  expect(post).toHaveBeenCalledTimes(1)
  queryClient.setQueryData(['session'], { id: 'una' })
  const again = open()
  expect(again.waiting.value).toBe(1)
  await vi.advanceTimersByTimeAsync(100)
  expect(post).toHaveBeenCalledTimes(2)
  expect(again.waiting.value).toBe(0)
  vi.useRealTimers()
  vi.restoreAllMocks()
})
