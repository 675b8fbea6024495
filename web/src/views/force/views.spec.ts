import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createVuetify } from 'vuetify'

import type { Schemas } from '@/api/client'
import { FakeSource, inPlace, settled } from '@/testing'

import FindingList from './FindingList.vue'
import LivePlates from './LivePlates.vue'
import OverlayPanel from './OverlayPanel.vue'
import RecordingList from './RecordingList.vue'
import { standalone } from './savePicture'
import SettingsDialog from './SettingsDialog.vue'
import type { Recording } from './useForce'

let asked: { url: string; method: string; body: string }[] = []
let answer: (url: string) => Response = () => new Response(null, { status: 204 })
const json = (body: unknown) => new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } })

/** An event of the plates, with what every one carries. */
const say = (e: object) =>
  FakeSource.last.say({
    forceN: 780,
    trace: [],
    garbage: 0,
    health: { kept: 1, duplicates: 0, late: 0, missing: 0 },
    ...e,
  })

beforeEach(() => {
  asked = []
  vi.stubGlobal('fetch', async (r: Request | string, init?: RequestInit) => {
    if (typeof r === 'string') return FakeSource.answer(r, init)
    asked.push({ url: r.url, method: r.method, body: await r.text() })
    return answer(r.url)
  })
})
afterEach(() => vi.unstubAllGlobals())

const global = () => ({
  plugins: [createVuetify(), [VueQueryPlugin, { queryClient: new QueryClient() }] as const],
  stubs: { VDialog: inPlace },
})
type Plugins = { plugins: never[]; stubs: Record<string, never> }
const mounting = () => global() as unknown as Plugins

const swing = (id: string, date: string): Recording =>
  ({ id, date, name: `${id}.csv`, swing: { vertical: { peakPerBodyWeight: 1.6 } } }) as unknown as Recording
const jump = (id: string, m: number | null): Recording =>
  ({
    id,
    date: '2026-11-24',
    name: `${id}.csv`,
    verdict: 'A jump.',
    jump: { kind: 'countermovement', jumpHeightM: m, flags: ['drift'] },
  }) as unknown as Recording

describe('the list of recordings', () => {
  const recordings = [
    jump('j', 0.312),
    jump('none', null),
    swing('s1', '2026-11-24'),
    swing('s2', '2026-11-24'),
    swing('old', '2026-09-01'),
  ]
  const list = (first: string[] = [], second: string[] = []) =>
    mount(RecordingList, { props: { recordings, shown: 'j', first, second }, global: mounting() })
  it('stands by day with what each came to', () => {
    const w = list()
    expect(w.findAll('section')).toHaveLength(2)
    expect(w.text()).toContain('31.2 cm')
    expect(w.text()).toContain('No jump')
    expect(w.text()).toContain('1.60 BW')
    expect(w.find('li.on').text()).toContain('j.csv')
  })
  it('puts a day’s swings into a set, and a swing into one set only', async () => {
    const w = list(['old'])
    await w.find('[aria-label="All swings of Tue 24 Nov into set A"]').trigger('click')
    expect((w.emitted('update:first') as string[][][])[0]?.[0]).toEqual(['old', 's1', 's2'])
    await w.find('[aria-label="old.csv into set B"]').trigger('click')
    expect((w.emitted('update:second') as string[][][]).at(-1)?.[0]).toEqual(['old'])
    expect((w.emitted('update:first') as string[][][]).at(-1)?.[0]).toEqual(['s1', 's2'])
  })
  it('opens what is clicked', async () => {
    const w = list()
    await w.findAll('.name')[2]?.trigger('click')
    expect(w.emitted('open')).toEqual([['s1']])
  })
})

describe('findings', () => {
  const base = { value: 1, low: 2, high: 3, unit: 'BW', distance: 1, source: 'common practice, from memory' }
  it('say what to train, what to look at first, and what is the instructor’s', () => {
    const findings = [
      {
        ...base,
        key: 'a',
        title: 'Vertical peak: low',
        sentence: 'Low.',
        far: true,
        purpose: 'speed',
        training: 'Jumps.',
        instructor: false,
        recheck: '',
      },
      {
        ...base,
        key: 'b',
        title: 'Late',
        sentence: 'Late.',
        far: false,
        purpose: 'repeatability',
        training: '',
        instructor: true,
        recheck: 'Vertical peak: low',
      },
    ]
    const w = mount(FindingList, { props: { findings } })
    const [a, b] = w.findAll('li').map((x) => x.text())
    expect(a).toContain('for speed · far outside')
    expect(a).toContain('Train: Jumps.')
    expect(b).toContain('Recheck after “Vertical peak: low”')
    expect(b).toContain('For the swing instructor')
    expect(b).not.toContain('Train')
  })
})

describe('swings over each other', () => {
  const band = (v: number) => ({
    swings: 3,
    mean: Array<number>(251).fill(v),
    sd: Array<number>(251).fill(0.01),
    cvPct: Array<number>(251).fill(4),
    largestCvPct: 4,
    meanCvPct: 4,
  })
  it('draws bands and tells where the second set leaves the first', async () => {
    answer = () =>
      json({
        points: 251,
        first: '3 swings of Thu 24 Sep 2026',
        second: '3 swings of Thu 19 Nov 2026',
        efforts: [
          {
            name: 'lateral',
            unit: 'BW',
            first: band(0.1),
            second: band(0.2),
            overlay: {
              difference: Array<number>(251).fill(0.1),
              leaves: [{ from: 120, to: 160, text: '20% of the downswing to 60% of the downswing' }],
            },
          },
          { name: 'rotational', unit: 'N·m/kg', first: null, second: null, overlay: null },
        ],
      })
    const w = mount(OverlayPanel, {
      props: { athleteId: 'g', first: ['a', 'b', 'c'], second: ['d', 'e', 'f'] },
      global: mounting(),
    })
    await flushPromises()
    expect(asked[0]?.body).toBe(JSON.stringify({ first: ['a', 'b', 'c'], second: ['d', 'e', 'f'] }))
    expect(w.text()).toContain('lateral: B leaves A’s band 20% of the downswing to 60%')
    expect(w.findAll('.leave')).toHaveLength(1)
    expect(w.findAll('.title')).toHaveLength(1)
    await w.findAll('button')[0]?.trigger('click')
    expect(w.text()).toContain('A varies by 4% at most in the downswing')
  })
})

describe('the live plates', () => {
  const golfer = { id: 'g1', profile: { name: 'Somebody', playingSide: 'right' } } as unknown as Schemas['Athlete']
  const open = async () => {
    const w = mount(LivePlates, { props: { modelValue: false, golfer }, global: mounting() })
    await w.setProps({ modelValue: true })
    return w
  }
  const button = (w: Awaited<ReturnType<typeof open>>, name: string) =>
    w.findAll('button').find((b) => b.text() === name)

  it('say what to do, take trials, and keep or discard each', async () => {
    const w = await open()
    await button(w, 'Arm')?.trigger('click')
    await settled()
    expect(FakeSource.last.body).toBe('{"kind":"jump","athlete":"g1"}')
    for (const [state, words] of [
      ['empty', 'Step on'],
      ['waiting', 'Stand still.'],
      ['armed', 'Ready.'],
      ['recording', 'Recording …'],
    ] as const) {
      await say({ state, trace: [0, 780] })
      await flushPromises()
      expect(w.find('[data-testid=plates-state]').text()).toContain(words)
    }
    await say({ state: 'captured', recording: jump('r1', 0.3) })
    await say({ state: 'captured', recording: jump('r2', 0.3) })
    await say({ state: 'refused', text: 'Nobody stands still.' })
    await say({ state: 'waiting', garbage: 2, health: { kept: 1, duplicates: 0, late: 0, missing: 4 } })
    await flushPromises()
    expect(w.findAll('[data-testid=captured]')).toHaveLength(2)
    expect(w.text()).toContain('the zero drifts')
    expect(w.text()).toContain('Nobody stands still.')
    expect(w.text()).toContain('2 unreadable lines, 4 samples missing')
    answer = () => json({ ...jump('r1', 0.3), verdict: 'A jump. In the screen of Tue 24 Nov 2026.' })
    await button(w, 'Keep')?.trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.method === 'PATCH')?.body).toBe('{"keep":true}')
    expect(w.find('[data-testid=kept]').text()).toContain('In the screen')
    answer = () => new Response(null, { status: 204 })
    await button(w, 'Discard')?.trigger('click')
    await flushPromises()
    expect(asked.find((a) => a.method === 'DELETE')?.url).toContain('r2')
    expect(w.findAll('[data-testid=captured]')).toHaveLength(0)
  })

  it('discards what nobody kept when it is closed, and lets the plates go', async () => {
    const w = await open()
    await button(w, 'Arm')?.trigger('click')
    await say({ state: 'captured', recording: jump('r9', 0.3) })
    await w.setProps({ modelValue: false })
    await flushPromises()
    expect(FakeSource.last.closed).toBe(true)
    expect(asked.find((a) => a.method === 'DELETE')?.url).toContain('r9')
  })

  it('says why there is nothing to record from', async () => {
    const w = await open()
    answer = () =>
      new Response(JSON.stringify({ detail: 'The force plates do not answer. Start the stand-in.' }), { status: 404 })
    vi.stubGlobal('fetch', async () => answer(''))
    await button(w, 'Arm')?.trigger('click')
    await settled()
    await FakeSource.last.end()
    await flushPromises()
    expect(w.find('[data-testid=plates-state]').text()).toContain('Start the stand-in')
    expect(button(w, 'Arm')).toBeDefined()
  })
})

describe('windows and filters', () => {
  const window = {
    key: 'vertical',
    name: 'Vertical peak',
    unit: 'BW',
    decimals: 2,
    low: 1.5,
    high: 2.2,
    source: 'common practice, from memory',
    purpose: 'speed',
  }
  const page = {
    recordings: [],
    windows: [window, { ...window, key: 'rate', name: 'Rate', source: 'set by the practice' }],
  } as unknown as Schemas['ForcePage']
  it('sends what was changed and what was the practice’s own before', async () => {
    answer = () => new Response(null, { status: 204 })
    const w = mount(SettingsDialog, { props: { modelValue: false, athleteId: 'g', page }, global: mounting() })
    await w.setProps({ modelValue: true })
    await w.find('[aria-label="Vertical peak from"]').setValue('1.4')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Save windows')
      ?.trigger('click')
    await flushPromises()
    expect(JSON.parse(asked[0]?.body ?? '')).toEqual({ limits: { vertical: [1.4, 2.2], rate: [1.5, 2.2] } })
    answer = () => json({ done: 3, problems: ['a.csv: gone.'] })
    await w
      .findAll('button')
      .find((b) => b.text() === 'Read all anew')
      ?.trigger('click')
    await flushPromises()
    expect(JSON.parse(asked.at(-1)?.body ?? '')).toMatchObject({
      jump: { cutoffHz: 50, onset: 'crossing' },
      swing: { cutoffHz: 40 },
    })
    expect(w.text()).toContain('3 recordings were read anew. a.csv: gone.')
  })
})

it('a drawing stands by itself when it is saved', () => {
  const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
  svg.setAttribute('viewBox', '0 0 40 20')
  Object.defineProperty(svg, 'viewBox', { value: { baseVal: { width: 40, height: 20 } } })
  const line = document.createElementNS('http://www.w3.org/2000/svg', 'path')
  line.style.stroke = 'rgb(1, 2, 3)'
  svg.append(line)
  document.body.append(svg)
  const text = standalone(svg)
  expect(text).toContain('width="40"')
  expect(text).toContain('stroke:rgb(1, 2, 3)')
  expect(text).toContain('xmlns="http://www.w3.org/2000/svg"')
})
