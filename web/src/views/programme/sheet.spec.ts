import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount, RouterLinkStub } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, nextTick, ref } from 'vue'

import type { Schemas } from '@/api/client'

import PlanSheet from './PlanSheet.vue'
import ProgrammeHead from './ProgrammeHead.vue'
import { useChosen } from './useChosen'
import { useDrafting } from './useDrafting'

const push = vi.fn()
vi.mock('vue-router', () => ({ useRouter: () => ({ push }) }))

const item = (id: string, place: string): Schemas['Item'] => ({
  id,
  place,
  slot: 'throw',
  exercise: id,
  name: `Throw ${id}`,
  zone: 'Z2',
  dose: { sets: 3, unit: 'reps', sides: 'two', restSeconds: 60 },
  doseText: '3 × 3',
  typed: '3x3',
  loadText: '',
  minutes: 3,
  serves: {},
  level: 'keep' as const,
  cues: [],
  reason: { finding: '', rule: '', text: '', source: '' },
})
function view(revision: number, ids: string[]): Schemas['ProgrammeView'] {
  const session = {
    id: 's',
    place: 'b1.w1.s1',
    date: '2026-11-30',
    letter: 'A' as const,
    title: 'Throws',
    budgetMinutes: 60,
    minutes: 40,
    items: ids.map((id, i) => item(id, `b1.w1.s1.i${i + 1}`)),
  }
  const week = {
    id: 'w',
    place: 'b1.w1',
    number: 1,
    kind: 'rising' as const,
    kindWords: 'rising',
    start: '2026-11-30',
    sessions: [session],
    home: [],
    totals: { minutes: 40, swings: 0, throws: 9, contacts: 0, setsByZone: {} },
  }
  const programme = {
    schoolName: 'Barn',
    blocks: [{ id: 'b', place: 'b1', phase: 'preparation', emphasis: 'grip', weeks: [week] }],
  }
  return {
    id: 'p',
    revision,
    status: 'draft',
    programme,
    rules: [],
    undo: '',
    redo: '',
  } as unknown as Schemas['ProgrammeView']
}

/** Runs a composable inside a component that has all it asks for. */
function inside<T>(use: () => T): T {
  let got!: T
  mount(defineComponent({ setup: () => ((got = use()), () => null) }), {
    global: { plugins: [createPinia(), [VueQueryPlugin, { queryClient: new QueryClient() }]] },
  })
  return got
}

describe('the sheet', () => {
  const open = (editable: boolean) =>
    mount(PlanSheet, {
      props: {
        modelValue: '',
        programme: view(1, ['a', 'b']).programme,
        slots: [{ id: 'throw', name: 'throws' }],
        rules: [
          { rule: 'WAVE', severity: 'warning', status: 'broken', at: 'b', text: 'rises', sentence: '', source: '' },
          { rule: 'TIME', severity: 'advice', status: 'met', at: 'a', text: 'Met.', sentence: '', source: '' },
        ],
        athleteId: 'g',
        programmeId: 'p',
        editable,
      },
      global: { stubs: { RouterLink: RouterLinkStub } },
    })
  it('marks what breaks a rule where it stands, and nothing else', () => {
    const w = open(true)
    expect(w.findAll('.mark').map((m) => m.text())).toEqual(['Volume through the weeks'])
    expect(w.find('[data-id=b] .mark').exists()).toBe(true)
    expect(w.findComponent(RouterLinkStub).props('to')).toMatchObject({ params: { sessionId: 's' } })
  })
  it('is chosen, walked and emptied by keys', async () => {
    const w = open(true)
    await w.find('[data-id=a]').trigger('click')
    expect(w.emitted('update:modelValue')).toEqual([['a']])
    await w.find('[data-id=a]').trigger('keydown', { key: 'ArrowDown' })
    expect(w.emitted('focus')).toEqual([['b']])
    await w.find('[data-id=b]').trigger('keydown', { key: 'Delete' })
    expect(w.emitted('remove')).toEqual([['b']])
    await w.find('.addrow button').trigger('click')
    expect(w.emitted('add')).toEqual([['s']])
  })
  it('only shows where it cannot be edited', async () => {
    const w = open(false)
    expect(w.find('.addrow').exists()).toBe(false)
    await w.find('[data-id=b]').trigger('keydown', { key: 'Delete' })
    expect(w.emitted('remove')).toBeUndefined()
  })
})

describe('the item that is chosen', () => {
  async function change(from: string[], to: string[], chosen: string) {
    const shown = ref(view(1, from))
    const got = inside(() => useChosen(shown, ref()))
    got.id.value = chosen
    await nextTick()
    shown.value = view(2, to)
    await nextTick()
    return got.id.value
  }
  it('stays chosen when it moves', async () => expect(await change(['a', 'b'], ['b', 'a'], 'a')).toBe('a'))
  it('gives way to what became of it', async () => expect(await change(['a', 'b'], ['x', 'b'], 'a')).toBe('x'))
  it('gives way to the last where it was', async () => expect(await change(['a', 'b'], ['a'], 'b')).toBe('a'))
  it('hands over to its neighbour when it is taken out', () => {
    const got = inside(() => useChosen(ref(view(1, ['a', 'b'])), ref()))
    expect(['a', 'b', 'gone'].map(got.neighbour)).toEqual(['b', 'a', undefined])
    const alone = inside(() => useChosen(ref(view(1, ['a'])), ref()))
    expect(alone.neighbour('a')).toBeUndefined()
  })
  it('is none where nothing is left', async () => expect(await change(['a'], [], 'a')).toBe(''))
})

describe('the head', () => {
  const list = [
    { id: 'p', status: 'draft', version: 0, school: '', startDate: '2026-11-30', emphasis: '' },
    { id: 'q', status: 'issued', version: 1, school: '', startDate: '2026-10-30', emphasis: '' },
  ] as Schemas['ProgrammeRow'][]
  const schools = [{ id: 'barn', name: 'Barn', logic: '' }]
  const open = (shown: Partial<Schemas['ProgrammeView']>) =>
    mount(ProgrammeHead, {
      props: { school: 'barn', athleteId: 'g', list, view: { ...view(1, []), ...shown }, schools, busy: false },
      global: {
        stubs: {
          VBtn: { template: '<button><slot /></button>' },
          LateMenu: { template: '<div><slot name="activator" :props="{}" /><slot /></div>' },
        },
      },
    })
  it('offers the whole block on three papers, each week, and tables', () => {
    const names = open({})
      .find('.box')
      .findAll('button')
      .map((b) => b.text())
    expect(names).toContain('Whole block, PDF, A5')
    expect(names.filter((n) => n.startsWith('Week'))).toHaveLength(view(1, []).programme.blocks[0]?.weeks.length ?? -1)
    expect(names.slice(-4, -1)).toEqual(['Plan as CSV', 'Plan as XLSX', 'Plan as JSON, to be read back'])
  })
  it('offers to issue a draft', async () => {
    const w = open({})
    await w
      .findAll('button')
      .find((b) => b.text() === 'Issue…')
      ?.trigger('click')
    expect(w.emitted('issue')).toHaveLength(1)
    expect(w.text()).not.toContain('Change this version')
    await w.find('select').setValue('q')
    expect(w.emitted('show')).toEqual([['q']])
  })
  it('says what a version was made by, and offers to change it into a new one', async () => {
    const w = open({ status: 'issued', version: 1, issuedOn: '2026-10-30', madeBy: 'As it was issued: exercises 7.' })
    expect(w.find('[data-testid=made-by]').text()).toBe('As it was issued: exercises 7.')
    await w
      .findAll('button')
      .find((b) => b.text() === 'Change this version')
      ?.trigger('click')
    expect(w.emitted('draft')).toEqual([[{ from: 'p' }]])
  })
})

describe('drafting', () => {
  let sent: string[] = []
  beforeEach(() => {
    sent = []
    push.mockClear()
    vi.stubGlobal('fetch', (r: Request) => {
      sent.push(r.method)
      return Promise.resolve(
        new Response(r.method === 'DELETE' ? null : JSON.stringify({ id: 'new' }), {
          status: r.method === 'DELETE' ? 204 : 201,
          headers: { 'Content-Type': 'application/json' },
        }),
      )
    })
  })
  afterEach(() => vi.unstubAllGlobals())
  const golfer = (state: string, ...facts: string[]) =>
    ref({
      clearanceStatus: { state },
      assumed: facts.map((fact) => ({ fact, taken: 'something' })),
    } as Schemas['Athlete'])
  function use(undo: string) {
    const list = ref([{ status: 'draft' } as Schemas['ProgrammeRow']])
    return inside(() => useDrafting('g', list, ref({ ...view(2, ['a']), undo }), golfer('clear')))
  }
  const first = (...of: Parameters<typeof golfer>) =>
    inside(() => useDrafting('g', ref([]), ref(undefined), golfer(...of)))
  it('asks what a first draft would assume, and drafts at once where all is said or nothing may be', async () => {
    const d = first('clear', 'days')
    d.draftAgain({ school: 'barn' })
    await flushPromises()
    expect(d.lacking.value).toBe(true)
    expect(sent).toEqual([])
    d.draftFirst()
    await flushPromises()
    expect(d.lacking.value).toBe(false)
    expect(sent).toEqual(['POST'])
    first('clear').draftAgain({ school: 'barn' })
    first('red-flag', 'days').draftAgain({ school: 'barn' })
    await flushPromises()
    expect(sent).toEqual(['POST', 'POST', 'POST'])
  })
  it('shows what would change before it drafts over a draft', async () => {
    const d = use('')
    d.draftAgain({ school: 'barn' })
    await flushPromises()
    expect(d.asking.value).toBe(true)
    expect(sent).toEqual(['POST'])
    sent = []
    d.draftOver()
    await flushPromises()
    expect(sent).toEqual(['POST'])
    expect(push).toHaveBeenCalledWith({ name: 'programme', params: { id: 'g', programmeId: 'new' } })
  })
  it('asks before it drafts over work, and leaves it where the answer is no', async () => {
    const d = use('Removed a lift')
    d.draftAgain({ school: 'barn' })
    expect(d.asking.value).toBe(true)
    d.asking.value = false
    d.draftOver()
    await flushPromises()
    expect(sent).toEqual([])
    d.draftAgain({ school: 'barn' })
    d.draftOver()
    await flushPromises()
    expect(sent).toEqual(['POST'])
  })
  it('discards a draft and shows what is left', async () => {
    const d = use('')
    d.discard.mutate()
    await flushPromises()
    expect(sent).toEqual(['DELETE'])
    expect(push).toHaveBeenCalledWith({ name: 'programme', params: { id: 'g' } })
  })
})
