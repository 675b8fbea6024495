import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createVuetify } from 'vuetify'

import type { Schemas } from '@/api/client'

import { inPlace } from '@/testing'

import IssueDialog from './IssueDialog.vue'
import ItemPanel from './ItemPanel.vue'
import RuleList from './RuleList.vue'
import WeekFoot from './WeekFoot.vue'

const item: Schemas['Item'] = {
  id: 'k-4',
  place: 'b1.w1.s1.i4',
  slot: 'main-lift',
  exercise: 'lift-trap-bar',
  name: 'Trap-bar deadlift',
  zone: 'Z4',
  dose: { sets: 3, reps: 5, unit: 'reps', sides: 'two', reserve: 4, loadKg: 100, restSeconds: 150 },
  doseText: '3 × 5',
  typed: '3x5',
  loadText: '100 kg, leave 4 in reserve',
  minutes: 9,
  serves: {},
  level: 'keep' as const,
  cues: [],
  reason: { finding: 'f', rule: 'Measured gap, main lift', text: 'finding → main lift → trap bar', source: 'ours' },
}
const alternatives: Schemas['Alternative'][] = [
  { exercise: 'lift-trap-bar', name: 'Trap-bar deadlift', score: 4, parts: [], current: true },
  {
    exercise: 'lift-goblet-squat',
    name: 'Goblet squat',
    score: 3.5,
    parts: [{ label: 'serves maximal strength', points: 1 }],
    current: false,
  },
  {
    exercise: 'lift-front-squat',
    name: 'Front squat',
    score: 3,
    parts: [],
    current: false,
    rule: 'LEVEL',
    blocked: 'level 3',
  },
]
const rule = (r: Partial<Schemas['RuleResult']>): Schemas['RuleResult'] => ({
  rule: 'TIME',
  severity: 'advice',
  status: 'met',
  text: '',
  sentence: 'fits',
  source: 'house',
  ...r,
})

beforeEach(() => {
  vi.stubGlobal(
    'fetch',
    async () => new Response(JSON.stringify(alternatives), { headers: { 'Content-Type': 'application/json' } }),
  )
})
afterEach(() => vi.unstubAllGlobals())

async function panel(editable = true, rules: Schemas['RuleResult'][] = []) {
  const w = mount(ItemPanel, {
    props: {
      item,
      programmeId: 'p',
      programme: { blocks: [] } as unknown as Schemas['Programme'],
      rules,
      editable,
      loadStepKg: 1.25,
      busy: false,
      clip: '',
    },
    global: { plugins: [createVuetify(), [VueQueryPlugin, { queryClient: new QueryClient() }]] },
  })
  await flushPromises()
  return w
}

describe('the panel of an exercise', () => {
  it('takes what was typed when something else is chosen, once', async () => {
    const edits: unknown[] = []
    const heard = async () => {
      const w = await panel()
      await w.setProps({ onEdit: (e: unknown) => edits.push(e) })
      return w
    }
    const w = await heard()
    await w.find('#loadKg').setValue('110')
    w.unmount()
    expect(edits).toEqual([{ kind: 'dose', at: 'k-4', scope: 'line', dose: { loadKg: 110 } }])
    const saved = await heard()
    await saved.find('#loadKg').setValue('120')
    await saved.find('form.dose').trigger('submit')
    saved.unmount()
    expect(edits).toHaveLength(2)
    const same = await heard()
    same.unmount()
    expect(edits).toHaveLength(2)
  })
  it('says why it stands there, and which rule it breaks', async () => {
    const w = await panel(false, [
      rule({ rule: 'LOAD-STEP', severity: 'warning', status: 'broken', text: 'too heavy', fix: 'lower it' }),
    ])
    expect(w.find('[data-testid=reason]').text()).toBe('finding → main lift → trap bar')
    expect(w.text()).toContain('Step in load too heavy lower it')
    expect(w.find('form').exists()).toBe(false)
  })
  it('sends only what was changed of the dose, in steps of the golfer’s plates', async () => {
    const w = await panel()
    await w.find('button[aria-label="More: Load, kg"]').trigger('click')
    await w.find('button[aria-label="Less: In reserve"]').trigger('click')
    await w.find('form').trigger('submit')
    expect(w.emitted('edit')?.[0]).toEqual([
      { kind: 'dose', at: 'k-4', scope: 'line', dose: { loadKg: 101.25, reserve: 3 } },
    ])
  })
  it('sends nothing when nothing was changed', async () => {
    const w = await panel()
    await w.find('form').trigger('submit')
    expect(w.emitted('edit')).toBeUndefined()
  })
  it('offers the allowed in order, and the held back with what holds them', async () => {
    const w = await panel()
    expect(w.findAll('ul.alts')[0]?.text()).toContain('Goblet squat')
    expect(w.find('details').text()).toContain('LEVEL: level 3')
    await w.find('input[type=checkbox]').setValue(false)
    await w.find('input.note').setValue('asked for it')
    await w.findAll('ul.alts button')[0]?.trigger('click')
    expect(w.emitted('edit')?.[0]).toEqual([
      { kind: 'swap', at: 'k-4', scope: 'cell', exercise: 'lift-goblet-squat', note: 'asked for it' },
    ])
  })
})

describe('the rules', () => {
  it('leads to the place that breaks one', async () => {
    const w = mount(RuleList, {
      props: {
        rules: [
          rule({}),
          rule({
            rule: 'WAVE',
            severity: 'warning',
            status: 'broken',
            place: 'b1.w2',
            at: 'k-2',
            where: 'Week 2',
            text: 'rises',
          }),
          rule({
            rule: 'KIT',
            severity: 'warning',
            status: 'broken',
            place: 'b1.w1.s1.i1',
            at: 'k-9',
            where: 'Week 1, day A, Box jump',
            text: 'needs a box',
          }),
          rule({ rule: 'LOAD-STEP', status: 'not-checked', text: 'no load' }),
        ],
      },
    })
    expect(w.find('[data-testid=rule-summary]').text()).toBe('2 places break a rule.')
    expect(w.text()).toContain('not checked')
    expect(w.find('summary').text()).toBe('1 rules are kept')
    await w.find('button.link').trigger('click')
    expect(w.emitted('go')).toEqual([['k-9']])
    expect(w.text()).toContain('Week 1, day A, Box jump')
    expect(w.text()).not.toContain('b1.w')
  })
  it('says so when all is well', () => {
    const w = mount(RuleList, { props: { rules: [rule({})] } })
    expect(w.text()).toContain('Every rule that could be checked is kept.')
  })
})

it('draws a week by zone in shares, with the counts that have limits', () => {
  const week: Schemas['Week'] = {
    id: 'k-w4',
    place: 'b1.w4',
    number: 4,
    kind: 'easier',
    kindWords: 'easier, retest',
    start: '2026-12-21',
    sessions: [],
    home: [],
    totals: { minutes: 149.6, swings: 45, throws: 36, contacts: 40, setsByZone: { Z1: 6, Z4: 12, M: 2 } },
    retest: { date: '2026-12-27', tests: ['cmj'], text: 'Same tests.' },
  }
  const w = mount(WeekFoot, { props: { week } })
  expect(w.findAll('.bar span').map((s) => s.attributes('style'))).toEqual([
    'width: 30%;',
    'width: 60%;',
    'width: 10%;',
  ])
  expect(w.find('.bar').attributes('aria-label')).toBe('Sets: Z1 6, Z4 12, M 2')
  expect(w.text()).toContain('150 min · 45 swings · 36 throws · 40 landings')
  expect(w.text()).toContain('Retest Sun 27 Dec')
})

describe('what keeps a programme from being issued', () => {
  const open = (rules: Schemas['RuleResult'][]) =>
    mount(IssueDialog, {
      props: { modelValue: true, athleteId: 'g', rules, busy: false },
      global: {
        stubs: { VDialog: inPlace, VTextarea: true, RouterLink: { template: '<a><slot /></a>' } },
        plugins: [createVuetify()],
      },
    })

  it('is said with the way to it', async () => {
    const w = open([
      rule({ rule: 'CLEAR', severity: 'blocking', status: 'broken', text: 'Not cleared.' }),
      rule({ rule: 'CONTRA', severity: 'blocking', status: 'broken', text: 'Against a limit.', at: 'k-4' }),
    ])
    const [clear, contra] = w.findAll('li')
    expect(clear?.text()).toContain('To the intake')
    await contra?.get('button').trigger('click')
    expect(w.emitted('go')).toEqual([['k-4']])
    expect(w.emitted('update:modelValue')).toEqual([[false]])
    expect(w.text()).not.toContain('CONTRA')
  })
})
