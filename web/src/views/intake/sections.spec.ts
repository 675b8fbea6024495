import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { type Component, defineComponent, h, ref } from 'vue'

import { inPlace } from '@/testing'

import ClearanceSection from './ClearanceSection.vue'
import CompetitionsSection from './CompetitionsSection.vue'
import LimitsSection from './LimitsSection.vue'
import SituationSection from './SituationSection.vue'
import TrainingSection from './TrainingSection.vue'
import type { Form } from './useIntake'

const field = defineComponent({
  props: {
    label: { type: String, default: '' },
    modelValue: { type: null, default: '' },
    errorMessages: { type: String, default: '' },
    items: { type: Array, default: () => [] },
  },
  emits: ['update:modelValue'],
  setup: (p, { emit }) => {
    const input = (e: Event) => emit('update:modelValue', (e.target as HTMLInputElement).value)
    return () => h('label', [p.label, h('input', { value: p.modelValue, onInput: input }), p.errorMessages])
  },
})
const stubs = {
  VBtn: { template: '<button><slot /></button>' },
  VTextField: field,
  SelectField: field,
  VSelect: field,
  VCheckbox: field,
  LateDialog: inPlace,
  InTurns: { template: '<slot />' },
}
const blank = () =>
  ({
    clearance: { answeredOn: '', yes: [] },
    limits: [],
    competitions: [],
    training: { days: ['mon'], kit: [], sessions: 2, minutes: 60 },
    school: 'barn',
    startDate: '',
    situation: { away: [], acceptedJoints: [], pinches: [], endedLimits: [] },
  }) as unknown as Form

/** A section of the form, and the form as it is then. */
function open(section: Component, props: object, form = blank()) {
  const model = ref(form)
  const w = mount(section, {
    props: {
      modelValue: model.value,
      'onUpdate:modelValue': (v: typeof form) => (model.value = v),
      wrong: {},
      ...props,
    },
    global: { stubs },
  })
  const press = (name: string) =>
    w
      .findAll('button')
      .find((b) => b.text() === name || b.attributes('aria-label') === name)
      ?.trigger('click')
  return { w, form: model, press }
}

describe('the situation', () => {
  const props = { joints: ['hip', 'ankle-foot'], today: '2026-11-02' }
  it('takes a joint as it is, with why, and days away', async () => {
    const { w, form, press } = open(SituationSection, props)
    await press('Accept a joint')
    await press('Add days away')
    expect(form.value.situation.acceptedJoints).toEqual([{ joint: 'hip', side: '', why: 'arthritis' }])
    expect(form.value.situation.away).toMatchObject([{ from: '2026-11-02', to: '2026-11-02' }])
    expect(w.text()).not.toContain('Why it ended')
  })
  it('asks why training ended only once it did', async () => {
    const { w, form } = open(SituationSection, props)
    await w.findAll('input')[0]?.setValue('6')
    expect(form.value.situation.offWeeks).toBe(6)
    expect(w.text()).toContain('Why it ended')
    await w.findAll('input')[0]?.setValue('')
    expect(form.value.situation.offWeeks).toBeUndefined()
  })
})

describe('limits from pain', () => {
  const limit = { region: 'knee', side: 'lead', since: '2026-10-01', mayEnd: true, text: 'knee, lead side: none' }
  const props = { regions: ['knee'], kinds: ['no-impact'], standing: [limit], today: '2026-11-02' }
  it('end with a reason, and may stand again', async () => {
    const { w, form, press } = open(LimitsSection, props)
    expect(w.get('[data-testid=standing]').text()).toContain('knee, lead side: none')
    expect(w.text()).not.toContain('No limits.')
    await press('End this limit…')
    const why = w.findAll('input').at(-1)
    await why?.setValue('seen by the physiotherapist')
    await w.get('form').trigger('submit')
    expect(form.value.situation.endedLimits).toEqual([
      { region: 'knee', side: 'lead', on: '2026-11-02', why: 'seen by the physiotherapist' },
    ])
    expect(w.text()).not.toContain('End this limit…')
    await press('Let it stand again')
    expect(form.value.situation.endedLimits).toEqual([])
  })
  it('stand until a clearance where they came from tingling', () => {
    const { w } = open(LimitsSection, { ...props, standing: [{ ...limit, mayEnd: false }] })
    expect(w.text()).toContain('Ends with a clearance only.')
  })
})

describe('limits', () => {
  const props = {
    regions: ['heart', 'lumbar-spine'],
    kinds: ['no-impact', 'load-cap'],
    standing: [],
    today: '2026-11-02',
  }
  it('are added and removed', async () => {
    const { w, form, press } = open(LimitsSection, props)
    expect(w.text()).toContain('No limits.')
    await press('Add a limit')
    expect(form.value.limits).toMatchObject([{ region: 'lumbar-spine', kind: 'no-impact', setBy: 'doctor' }])
  })
  it('ask for kilograms where a load is capped, and show what is wrong with them', () => {
    const form = blank()
    form.limits = [{ region: 'hip', side: '', kind: 'load-cap', until: '', setBy: 'coach' }]
    const { w } = open(LimitsSection, { ...props, wrong: { 'limits[0].capKg': 'at least 1' } }, form)
    expect(w.text()).toContain('kg')
    expect(w.text()).toContain('at least 1')
  })
  it('go one by one', async () => {
    const form = blank()
    form.limits = (['no-impact', 'no-overhead'] as const).map((kind) => ({
      region: 'hip',
      side: '',
      kind,
      until: '',
      setBy: 'coach',
    }))
    const { press } = open(LimitsSection, props, form)
    await press('Remove limit 1')
    expect(form.limits.map((l) => l.kind)).toEqual(['no-overhead'])
  })
})

describe('training', () => {
  const props = { schools: [{ id: 'barn', name: 'Barn', logic: '' }], kit: ['box', 'bands'], places: [] }
  it('takes days and kit on and off', async () => {
    const { w, form } = open(TrainingSection, props)
    const box = (name: string) =>
      w
        .findAll('.chips label')
        .find((l) => l.text() === name)
        ?.find('input')
    await box('Thu')?.setValue(true)
    await box('Mon')?.setValue(false)
    await box('bands')?.setValue(true)
    expect(form.value.training).toMatchObject({ days: ['thu'], kit: ['bands'] })
  })
  it('leaves the share of the other side to the school where nothing is said', async () => {
    const { w, form } = open(TrainingSection, props)
    const share = w
      .findAll('label')
      .find((l) => l.text().startsWith('Swings from the other side'))
      ?.find('input')
    await share?.setValue('33.4')
    expect(form.value.otherSideShare).toBe(33)
    await share?.setValue('')
    expect(form.value.otherSideShare).toBeUndefined()
  })
})

describe('competitions', () => {
  it('begin today, and go by their name', async () => {
    const { form, press } = open(CompetitionsSection, { today: '2026-11-24' })
    await press('Add a competition')
    expect(form.value.competitions).toEqual([{ date: '2026-11-24', name: 'Match', peak: false }])
    await press('Remove Match')
    expect(form.value.competitions).toEqual([])
  })
})

describe('clearance', () => {
  const questions = ['faint', 'heart'].map((id) => ({ id, text: id, redFlag: id === 'faint' }))
  const props = {
    questions,
    status: { state: 'not-asked', text: 'Ask first.' },
    minor: false,
    today: '2026-11-24',
  }
  it('says how many questions are open', async () => {
    const { w, form } = open(ClearanceSection, props)
    expect(w.find('[data-testid=clearance]').text()).toBe('Ask first.')
    await w.findAll('input[type=radio]')[1]?.trigger('change')
    expect(form.value.clearance).toMatchObject({ no: ['faint'] })
  })
  it('asks who cleared only after a yes, and for a guardian only of the young', () => {
    const form = blank()
    expect(open(ClearanceSection, props, form).w.text()).not.toContain('Cleared by')
    form.clearance = { answeredOn: '2026-11-24', yes: ['heart'] }
    const { w } = open(ClearanceSection, { ...props, minor: true }, form)
    expect(w.text()).toContain('Cleared by')
    expect(w.text()).toContain('Guardian who consents')
  })
})
