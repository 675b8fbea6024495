import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, nextTick } from 'vue'
import { createVuetify } from 'vuetify'

import type { Schemas } from '@/api/client'

import CellEditor from './CellEditor.vue'
import ClashDialog from './ClashDialog.vue'
import DifferenceList from './DifferenceList.vue'
import { between, gridOf, placeOf } from './grid'
import ItemActions from './ItemActions.vue'
import PartPanel from './PartPanel.vue'
import SeveralPanel from './SeveralPanel.vue'
import { useClip } from './useClip'
import { useDrag, type Dragged } from './useDrag'

const item = (id: string, exercise: string, slot: Schemas['Slot'] = 'throw'): Schemas['Item'] => ({
  id,
  place: id,
  slot,
  exercise,
  name: `The ${exercise}`,
  zone: 'Z2',
  dose: { sets: 3, unit: 'reps', sides: 'two', restSeconds: 60 },
  doseText: '3 × 3',
  loadText: '',
  typed: '3x3',
  minutes: 3,
  serves: {},
  level: 'keep' as const,
  cues: [],
  reason: { finding: '', rule: '', text: '', source: '' },
})
const session = (id: string, date: string, items: Schemas['Item'][]): Schemas['PlannedSession'] => ({
  id,
  place: id,
  date,
  letter: 'A',
  title: 'Throws',
  budgetMinutes: 60,
  minutes: 40,
  items,
})
const week = (number: number, start: string, sessions: Schemas['PlannedSession'][]): Schemas['Week'] => ({
  id: `w${number}`,
  place: `b1.w${number}`,
  number,
  kind: 'rising',
  kindWords: 'rising',
  start,
  sessions,
  home: [],
  totals: { minutes: 40, swings: 0, throws: 9, contacts: 0, setsByZone: {} },
})
const programme = {
  blocks: [
    {
      id: 'b',
      weeks: [
        week(1, '2026-11-30', [
          session('s1', '2026-11-30', [item('a', 'slam'), item('b', 'jump', 'jump'), item('c', 'scoop')]),
        ]),
        week(2, '2026-12-07', [session('s2', '2026-12-07', [item('d', 'jump', 'jump'), item('e', 'slam')])]),
      ],
    },
  ],
} as unknown as Schemas['Programme']
const slots: Schemas['SlotInfo'][] = [
  { id: 'throw', name: 'throws' },
  { id: 'jump', name: 'jumps' },
]
const plugins = { global: { plugins: [createVuetify()] } }

describe('the grid', () => {
  it('reads down in the order in which things are done, whatever was moved', () => {
    const [day] = gridOf(programme, slots)
    const column = (w: number) => day?.rows.flatMap((r) => r.cells[w]?.id ?? [])
    expect(column(0)).toEqual(['a', 'b', 'c'])
    expect(column(1)).toEqual(['d', 'e'])
    expect(day?.rows.map((r) => r.slotId)).toEqual(['throw', 'jump', 'throw'])
  })
  it('chooses the cells between two, and knows where an item stands', () => {
    const days = gridOf(programme, slots)
    expect(between(days, 'a', 'c')).toEqual(['a', 'b', 'c'])
    expect(between(days, 'b', 'e')).toEqual(['b', 'd', 'c', 'e'])
    expect(between(days, 'gone', 'e')).toEqual(['e'])
    expect(placeOf(programme, 'e')?.id).toBe('s2')
    expect(placeOf(programme, 'gone')).toBeUndefined()
  })
})

describe('what is typed into a cell', () => {
  const open = (first?: string) =>
    mount(CellEditor, { props: { typed: '3x5', label: 'Dose', ...(first ? { first } : {}) }, attachTo: document.body })
  it('is taken by Enter once, and by a click elsewhere', async () => {
    const w = open()
    const field = w.find('input')
    await field.setValue('4x6')
    await field.trigger('keydown', { key: 'Enter' })
    await field.trigger('blur')
    expect(w.emitted('take')).toEqual([['4x6', false]])
    await field.setValue('4x7')
    await field.trigger('blur')
    expect(w.emitted('take')?.[1]).toEqual(['4x7', false])
    w.unmount()
  })
  it('reaches on with Shift, begins with the first key, and is left by Escape or unchanged', async () => {
    const w = open('5')
    const field = w.find('input')
    expect((field.element as HTMLInputElement).value).toBe('5')
    await field.setValue('5x5')
    await field.trigger('keydown', { key: 'Enter', shiftKey: true })
    expect(w.emitted('take')).toEqual([['5x5', true]])
    await field.trigger('keydown', { key: 'Escape' })
    expect(w.emitted('leave')).toHaveLength(1)
    w.unmount()
    const same = open()
    await same.find('input').trigger('blur')
    expect(same.emitted('leave')).toHaveLength(1)
    expect(same.emitted('take')).toBeUndefined()
    same.unmount()
  })
  it('says why it was not taken, and stays', async () => {
    const w = open()
    await w.find('input').setValue('4y6')
    await w.setProps({ error: '"4y6" is not understood' })
    expect(w.find('[role=alert]').text()).toContain('not understood')
    expect((w.find('input').element as HTMLInputElement).value).toBe('4y6')
    w.unmount()
  })
})

describe('copying and pasting', () => {
  const view = { id: 'p', programme } as Schemas['ProgrammeView']
  it('pastes one item over another, several before it, and none into another programme', () => {
    const { copyItems, paste } = useClip()
    copyItems('p', [item('a', 'slam')])
    expect(paste(view, { item: 'd' })).toEqual({ kind: 'copy', at: 'a', also: [], to: 's2', before: 'd', over: true })
    expect(paste(view, { session: 's2' })).toEqual({ kind: 'copy', at: 'a', also: [], to: 's2' })
    expect(paste({ ...view, id: 'q' }, { item: 'd' })).toBeUndefined()
    copyItems('p', [item('a', 'slam'), item('b', 'jump')])
    expect(paste(view, { item: 'd' })).toEqual({ kind: 'copy', at: 'a', also: ['b'], to: 's2', before: 'd' })
  })
  it('pastes a session on a day and a week into a week', () => {
    const { copy, paste } = useClip()
    copy({ programme: 'p', kind: 'session', ids: ['s1'], words: 'x' })
    expect(paste(view, { date: '2026-12-09' })).toEqual({ kind: 'copy', at: 's1', date: '2026-12-09' })
    expect(paste(view, { item: 'd' })).toBeUndefined()
    copy({ programme: 'p', kind: 'week', ids: ['w1'], words: 'x' })
    expect(paste(view, { week: 'w2' })).toEqual({ kind: 'copy', at: 'w1', to: 'w2' })
  })
})

describe('dragging', () => {
  afterEach(() => vi.restoreAllMocks())
  function open() {
    const dropped: Dragged[] = []
    let used!: ReturnType<typeof useDrag>
    const w = mount(
      defineComponent({
        setup() {
          used = useDrag((d) => dropped.push(d))
          return () =>
            h('div', [
              h('button', { class: 'from', onPointerdown: (e: PointerEvent) => used.press(e, 'item', 'a') }),
              h('div', { class: 'to', 'data-drop': 'item:b' }),
            ])
        },
      }),
      { attachTo: document.body },
    )
    document.elementFromPoint = () => w.find('.to').element
    vi.stubGlobal('requestAnimationFrame', (f: FrameRequestCallback) => (f(0), 1))
    const at = (type: string, x: number) =>
      window.dispatchEvent(Object.assign(new Event(type, { cancelable: true }), { clientX: x, clientY: 0 }))
    return { w, dropped, used, at }
  }
  const press = (w: ReturnType<typeof open>['w'], pointerType = 'mouse') =>
    w
      .find('.from')
      .element.dispatchEvent(
        Object.assign(new Event('pointerdown', { bubbles: true }), { button: 0, clientX: 0, clientY: 0, pointerType }),
      )
  it('lands where it is let go', async () => {
    const { w, dropped, used, at } = open()
    press(w)
    at('pointermove', 40)
    expect(document.querySelector('.ghost')).not.toBeNull()
    expect(used.dragged.value?.over).toBe('item:b')
    at('pointerup', 40)
    await nextTick()
    expect(dropped).toEqual([{ kind: 'item', id: 'a', over: 'item:b' }])
    expect(document.querySelector('.ghost')).toBeNull()
    w.unmount()
  })
  it('is a click where it did not move, nothing after Escape, and scrolling under a finger', () => {
    const { w, dropped, at } = open()
    press(w)
    at('pointermove', 2)
    at('pointerup', 2)
    press(w)
    at('pointermove', 40)
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }))
    at('pointerup', 40)
    press(w, 'touch')
    at('pointermove', 40)
    at('pointerup', 40)
    expect(dropped).toEqual([])
    w.unmount()
  })
})

describe('the panels', () => {
  it('moves an item without dragging, locks it, and does it in turns', async () => {
    const w = mount(ItemActions, { props: { item: item('b', 'jump', 'jump'), programme, clip: '' }, ...plugins })
    const press = async (name: string) =>
      w
        .findAll('button')
        .find((x) => x.text() === name)
        ?.trigger('click')
    await press('Earlier')
    await press('Later')
    await press('Lock')
    await w.find('select').setValue('superset')
    expect(w.emitted('edit')?.map(([e]) => e)).toEqual([
      { kind: 'move', at: 'b', to: 's1', before: 'a' },
      { kind: 'move', at: 'c', to: 's1', before: 'b' },
      { kind: 'lock', at: 'b', on: true },
      { kind: 'turns', at: 'b', scope: 'line', with: 'superset' },
    ])
    await w.findAll('select')[1]?.setValue('s2')
    await w.find('form').trigger('submit')
    expect(w.emitted('edit')?.at(-1)).toEqual([{ kind: 'move', at: 'b', to: 's2' }])
  })
  it('moves a session to a day, adds one like it, and keeps a note that was typed', async () => {
    const [first] = programme.blocks[0]?.weeks ?? []
    const w = mount(PartPanel, {
      props: {
        session: first?.sessions[0],
        week: undefined,
        programme,
        rules: [],
        editable: true,
        clip: '',
        sessionClip: '',
      },
      ...plugins,
    })
    await w.findAll('select')[0]?.setValue('2026-12-01')
    await w.findAll('form')[0]?.trigger('submit')
    await w.findAll('select')[1]?.setValue('2026-12-02')
    await w.findAll('form')[1]?.trigger('submit')
    await w.find('textarea').setValue('with the physio')
    await w.find('textarea').trigger('blur')
    expect(w.emitted('edit')?.map(([e]) => e)).toEqual([
      { kind: 'move', at: 's1', date: '2026-12-01' },
      { kind: 'extra', at: 's1', date: '2026-12-02', empty: false },
      { kind: 'note', at: 's1', note: 'with the physio' },
    ])
  })
  it('changes several at once', async () => {
    const w = mount(SeveralPanel, { props: { ids: ['a', 'b'], locked: false, error: '', clip: '' }, ...plugins })
    await w.find('input').setValue('2x5')
    await w.find('form').trigger('submit')
    expect(w.emitted('edit')).toEqual([[{ kind: 'dose', at: 'a', also: ['b'], text: '2x5' }]])
  })
  it('lists what differs, says that nothing does, and that it is being worked out', () => {
    const list = (list: Schemas['PlanDifference'][] | undefined, error?: string) =>
      mount(DifferenceList, { props: { list, error } }).text()
    expect(list([{ where: 'Week 2, day A', words: 'The slam is gone.' }])).toBe('Week 2, day AThe slam is gone.')
    expect(list([])).toBe('Nothing differs.')
    expect(list(undefined)).toContain('Comparing')
    expect(list(undefined, 'no such version')).toBe('no such version')
  })
  it('asks which of two changes stands', async () => {
    const w = mount(ClashDialog, {
      props: { clash: { since: ['Una: Removed a lift'] } },
      global: { plugins: [createVuetify()], stubs: { VDialog: { template: '<div><slot /></div>' } } },
    })
    expect(w.text()).toContain('Una: Removed a lift')
    await w.findAll('button')[1]?.trigger('click')
    await w.find('form').trigger('submit')
    expect(w.emitted('decide')).toEqual([[true], [false]])
  })
})
