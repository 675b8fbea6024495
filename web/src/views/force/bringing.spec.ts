import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createVuetify } from 'vuetify'

import type { Schemas } from '@/api/client'
import { inPlace, inside } from '@/testing'

import BringIn from './BringIn.vue'
import ColumnTable from './ColumnTable.vue'
import { type Choice, type Look, type Mapping, MAX_FILES, named, useBringIn } from './useBringIn'

let asked: { url: string; method: string; body: string }[] = []
let answer: (url: string, method: string) => Response | Promise<Response>
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } })

beforeEach(() => {
  asked = []
  answer = () => json({ id: 'r1', verdict: 'Countermovement jump, 31.0 cm.' }, 201)
  vi.stubGlobal('fetch', async (r: Request) => {
    asked.push({ url: r.url, method: r.method, body: await r.text() })
    return answer(r.url, r.method)
  })
})
afterEach(() => vi.unstubAllGlobals())

const batch = () => inside(() => useBringIn(() => 'g1'))
const file = (name: string) => new File(['time,Fz\n'], name)
const choice: Choice = { kind: 'jump', date: '2026-11-24', side: 'left', club: '', fill: true }

describe('a batch of files', () => {
  it('sends every file as it is and keeps a verdict for each', async () => {
    const b = batch()
    answer = (url) =>
      url.includes('bad')
        ? json({ detail: 'Row 3: “x” is no number.' }, 422)
        : json({ id: 'r', verdict: 'A jump.' }, 201)
    b.choose([file('a.csv'), file('bad.csv'), file('c.csv')])
    await b.run(choice)
    expect(b.rows.value.map((r) => r.state)).toEqual(['in', 'refused', 'in'])
    expect(b.rows.value[1]?.text).toBe('Row 3: “x” is no number.')
    expect(b.done.value).toBe(3)
    expect(asked[0]?.url).toContain('kind=jump&date=2026-11-24&side=left')
    expect(asked[0]?.url).not.toContain('club')
  })

  it('stops when told, leaves the rest unsent, and goes on from there', async () => {
    const b = batch()
    b.choose(Array.from({ length: 8 }, (_, i) => file(`${i}.csv`)))
    let n = 0
    answer = () => {
      if (++n === 3) b.stop()
      return json({ id: `r${n}`, verdict: 'A jump.' }, 201)
    }
    await b.run(choice)
    const left = b.rows.value.filter((r) => r.state === 'left').length
    expect(left).toBeGreaterThanOrEqual(4)
    expect(b.arrived.value).toHaveLength(8 - left)
    await b.run(choice)
    expect(b.arrived.value).toHaveLength(8)
  })

  it('stops by itself when the server cannot be reached', async () => {
    const b = batch()
    b.choose(Array.from({ length: 6 }, (_, i) => file(`${i}.csv`)))
    answer = () => Promise.reject(new TypeError('no network'))
    await b.run(choice)
    expect(b.rows.value.filter((r) => r.state === 'refused').length).toBeLessThanOrEqual(2)
    expect(b.rows.value.filter((r) => r.state === 'left').length).toBeGreaterThanOrEqual(4)
  })

  it('takes back what came in', async () => {
    const b = batch()
    b.choose([file('a.csv')])
    await b.run(choice)
    answer = () => new Response(null, { status: 204 })
    await b.takeBack()
    expect(asked.at(-1)).toMatchObject({ method: 'DELETE' })
    expect(b.rows.value[0]).toMatchObject({ state: 'left', text: 'Taken back.' })
  })

  it('gives a file to the golfer it names, and the side they play from is theirs', async () => {
    const squad = [
      { id: 'g1', name: 'Marit Hellyer' },
      { id: 'g2', name: 'Torquil Brae' },
      { id: 'g3', name: 'Torquil Braeside' },
    ]
    expect(named('cmj_Torquil-Brae_1.csv', squad)).toBe('g2')
    expect(named('brae torquil 2.c3d', squad)).toBe('g2')
    expect(named('torquil.csv', squad)).toBeUndefined()
    expect(named('marit hellyer and torquil brae.csv', squad)).toBeUndefined()
    const b = inside(() =>
      useBringIn(
        () => 'g1',
        () => squad,
      ),
    )
    b.choose([file('torquil brae 1.csv'), file('jump 2.csv')])
    await b.run(choice)
    const urls = asked.map((a) => a.url).sort()
    expect(urls[0]).toContain('/athletes/g1/recordings')
    expect(urls[0]).toContain('side=left')
    expect(urls[1]).toContain('/athletes/g2/recordings')
    expect(urls[1]).not.toContain('side=')
  })

  it('sends a file that was looked at by its name, and whole where it is held no more', async () => {
    const b = batch()
    const chosen = file('jump.csv')
    b.choose([chosen])
    answer = () => json(look)
    await b.lookAt(chosen, 'left')
    await b.lookAt(chosen, 'right')
    expect(asked.map((a) => a.url.includes(`hash=${look.hash}`))).toEqual([false, true])

    answer = (url) =>
      url.includes('hash=') ? json({ detail: 'send it again' }, 404) : json({ id: 'r', verdict: 'A jump.' }, 201)
    await b.run(choice)
    expect(asked.slice(2).map((a) => a.url.includes('hash='))).toEqual([true, false])
    expect(b.rows.value[0]?.state).toBe('in')
  })

  it('takes two hundred files and says so of more', () => {
    const b = batch()
    b.choose(Array.from({ length: MAX_FILES + 1 }, (_, i) => file(`${i}.csv`)))
    expect(b.rows.value).toHaveLength(MAX_FILES)
    expect(b.problem.value).toContain('At most 200')
  })
})

const look: Look = {
  kind: 'csv',
  hash: 'a'.repeat(64),
  fingerprint: 'f'.repeat(32),
  rateHz: 1000,
  samples: 3000,
  seconds: 3,
  impactS: null,
  channels: [
    { name: 'clock', unit: 's' },
    { name: 'A', unit: '' },
  ],
  plates: 0,
  mapping: {
    columns: [{ name: 'clock', quantity: 'time' }],
    frame: { laboratory: false, leftOpposite: false, onPlate: false },
  },
  known: '',
  problem: '',
  notes: [],
  preview: [],
}

describe('what columns are', () => {
  function table(m: Mapping = look.mapping, l: Look = look) {
    const w = mount(ColumnTable, { props: { look: l, modelValue: m } })
    const last = () => (w.emitted('update:modelValue') as Mapping[][]).at(-1)?.[0]
    return { w, last }
  }
  it('gives a column a meaning, a foot and a unit, in the order of the file', async () => {
    const { w, last } = table()
    await w.find('[aria-label="What A is"]').setValue('Fz')
    expect(last()?.columns).toEqual([
      { name: 'clock', quantity: 'time' },
      { name: 'A', quantity: 'Fz', place: 'total', unit: '' },
    ])
    await w.setProps({ modelValue: last() })
    await w.find('[aria-label="Foot or plate of A"]').setValue('trail')
    await w.setProps({ modelValue: last() })
    await w.find('[aria-label="Unit of A"]').setValue('kgf')
    await w.setProps({ modelValue: last() })
    await w.find('[aria-label="Turn the sign of A"]').setValue(true)
    expect(last()?.columns?.[1]).toEqual({ name: 'A', quantity: 'Fz', place: 'trail', unit: 'kgf', negate: true })
    await w.setProps({ modelValue: last() })
    await w.find('[aria-label="What A is"]').setValue('')
    expect(last()?.columns).toHaveLength(1)
  })

  it('says what the axes mean and on whom the forces act', async () => {
    const { w, last } = table()
    await w.find('[aria-label="What the axes mean"]').setValue('true')
    expect(last()?.frame.laboratory).toBe(true)
    await w.find('[aria-label="On whom the forces act"]').setValue('true')
    expect(last()?.frame.onPlate).toBe(true)
    await w.setProps({ modelValue: { ...look.mapping, frame: { ...look.mapping.frame, laboratory: true } } })
    expect(w.text()).toContain('left-sided golfers play to the other end')
  })

  it('names the plates of a C3D file', async () => {
    const { w, last } = table({ ...look.mapping, plates: ['1', '2'] }, { ...look, kind: 'c3d', plates: 2 })
    await w.find('[aria-label="Plate 2"]').setValue('-')
    expect(last()?.plates).toEqual(['1', '-'])
  })
})

describe('the dialog', () => {
  const golfer = { id: 'g1', profile: { name: 'Somebody', playingSide: 'left' } } as unknown as Schemas['Athlete']
  async function open(found: Look) {
    answer = (url) => (url.includes('/session') ? json({ today: '2026-11-24' }) : json(found))
    const w = mount(BringIn, {
      props: { modelValue: false, golfer },
      global: {
        plugins: [createVuetify(), [VueQueryPlugin, { queryClient: new QueryClient() }]],
        stubs: { VDialog: inPlace },
      },
    })
    await flushPromises()
    await w.setProps({ modelValue: true })
    const input = w.find('[data-testid=force-files]')
    Object.defineProperty(input.element, 'files', { value: [file('a.csv')] })
    await input.trigger('change')
    await flushPromises()
    return w
  }
  const bring = (w: Awaited<ReturnType<typeof open>>) =>
    w.findAll('button').find((b) => b.text().startsWith('Bring in'))

  it('asks for impact where a swing names none', async () => {
    const swing: Look = {
      ...look,
      preview: [
        {
          foot: 'lead',
          name: 'toTarget',
          unit: 'N',
          points: [
            [0, 1],
            [3, 2],
          ],
        },
      ],
    }
    const w = await open(swing)
    expect(w.text()).toContain('The file names no impact')
    expect(bring(w)?.attributes('disabled')).toBeDefined()
    await w.find('[aria-label="Impact, s"]').setValue(2.1)
    expect(bring(w)?.attributes('disabled')).toBeUndefined()
  })

  it('says what is wrong with a file, and does not send it', async () => {
    const w = await open({ ...look, problem: 'One foot only.' })
    expect(w.find('[role=alert]').text()).toBe('One foot only.')
    expect(bring(w)?.attributes('disabled')).toBeDefined()
    expect(asked.some((a) => a.url.includes('side=left'))).toBe(true)
  })
})
