import { flushPromises, mount, RouterLinkStub } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import { reactive } from 'vue'

import RuleRow from './RuleRow.vue'
import SchoolEditor from './SchoolEditor.vue'
import { pieces, type Rule, type School } from './useMethod'

const rule: Rule = {
  id: 'SWINGS',
  severity: 'warning',
  sentence: 'Sets of 3 to 6.',
  source: 'ours',
  template: 'Sets of {setLeast} to {setMost}.',
  numbers: { setLeast: 3, setMost: 8 },
  ours: { setLeast: 3, setMost: 6 },
  caught: [],
}
const stubs = { RouterLink: RouterLinkStub, VBtn: { template: '<button><slot /></button>' } }

describe('a rule', () => {
  it('is its sentence with the numbers in it', () => {
    expect(pieces(rule.template)).toEqual([
      { text: 'Sets of ' },
      { number: 'setLeast' },
      { text: ' to ' },
      { number: 'setMost' },
      { text: '.' },
    ])
  })
  it('says what other numbers would catch before they hold, and asks for a reason', async () => {
    const caught = [{ athlete: 'a', name: 'Marit', programme: 'p', where: 'Week 1', text: 'Sets of 5.', more: 2 }]
    const attempt = vi.fn(() => Promise.resolve({ ...rule, caught }))
    const change = vi.fn(() => Promise.resolve())
    const w = mount(RuleRow, { props: { rule, attempt, change }, global: { stubs } })
    expect(w.findAll('form')).toHaveLength(0)
    await w.findAll('input.num')[1]?.setValue(4)
    await w.find('form button').trigger('click')
    await flushPromises()
    expect(attempt).toHaveBeenCalledWith({ rule: 'SWINGS', numbers: { setLeast: 3, setMost: 4 } })
    expect(w.text()).toContain('It would catch Marit')
    await w.find('input.why').setValue('Small hall.')
    await w.find('form').trigger('submit')
    expect(change).toHaveBeenCalledWith({
      rule: 'SWINGS',
      numbers: { setLeast: 3, setMost: 4 },
      reason: 'Small hall.',
    })
  })
  it('puts its own number back to ours', async () => {
    const change = vi.fn(() => Promise.resolve())
    const w = mount(RuleRow, { props: { rule, attempt: vi.fn(), change }, global: { stubs } })
    await w.find('button.link').trigger('click')
    expect(change).toHaveBeenCalledWith({ rule: 'SWINGS', numbers: {}, reason: 'Put back to ours.' })
  })
})

describe('a school of one’s own', () => {
  const school = {
    id: '',
    name: 'Ours',
    logic: 'x',
    fits: 'x',
    claims: ['x'],
    scope: {},
    relevance: { mobility: 1 },
    stages: [
      {
        lead: ['*'],
        raise: [],
        aim: [],
        swing: ['keep', 'keep', 'keep'],
        weeks: ['A', 'AB', 'ABC', 'CADB'],
        zones: [
          [20, 20, 10, 30, 10, 10],
          [20, 20, 10, 30, 10, 10],
          [20, 20, 10, 30, 10, 10],
        ],
        pairs: { kinds: [], most: 0 },
      },
    ],
    otherSideShare: 50,
    implements: [-20, 20],
    prefer: {},
    avoid: {},
    specialPercent: 10,
  } as School
  it('is not saved while a row of shares is not 100', async () => {
    const w = mount(SchoolEditor, {
      props: { modelValue: reactive(JSON.parse(JSON.stringify(school)) as School), problem: '', busy: false },
      global: {
        stubs: { ...stubs, VDialog: { template: '<div><slot /></div>' }, VTextField: true, VTextarea: true },
      },
    })
    await w.find('input.share').setValue(25)
    expect(w.text()).toContain('Stage 1, off-season: the shares add up to 105.')
    await w.find('input.share').setValue(20)
    expect(w.text()).not.toContain('add up to')
    await w.findAll('.taps input')[3]?.trigger('change')
    await w.find('form').trigger('submit')
    const saved = (w.emitted('save')?.at(-1) as [School])[0]
    expect(saved.stages[0]?.lead).toEqual(['*', 'horizontal-power'])
  })
})
