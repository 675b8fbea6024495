import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'

import type { Schemas } from '@/api/client'

import AddPiece from './AddPiece.vue'

const pieces: Schemas['PieceKit'][] = [
  {
    kind: 'speed',
    name: 'Speed swings',
    text: 'Club by club.',
    exercises: [
      { id: 'swing-driver', name: 'Driver swing', unit: 'swings' },
      { id: 'swing-step-in', name: 'Step-in swing', unit: 'swings' },
    ],
    usual: { kind: 'speed', exercises: ['swing-driver'], clubs: [-20, 0], sets: 2, reps: 5, restSeconds: 90 },
  },
  {
    kind: 'grip',
    name: 'Grip session',
    text: 'Hands in turn.',
    exercises: [
      { id: 'grip-squeeze', name: 'Squeeze', unit: 'seconds' },
      { id: 'grip-burst', name: 'Pulses', unit: 'reps' },
    ],
    usual: { kind: 'grip', exercises: ['grip-squeeze'], sets: 1, times: 5, seconds: 5, restSeconds: 30, inTurn: true },
  },
]
const open = () =>
  mount(AddPiece, {
    props: { at: 's', pieces },
    global: { stubs: { VTextField: true, VBtn: { template: '<button><slot /></button>' } } },
  })
const sent = (w: ReturnType<typeof open>) => (w.emitted('edit')?.at(-1) as [Schemas['Edit']])[0]

describe('a piece of a session', () => {
  it('swings its clubs in the order they were chosen, and says how many that makes', async () => {
    const w = open()
    expect(w.text()).toContain('20 swings in all')
    await w.findAll('.chip.add')[5]?.trigger('click')
    expect(w.text()).toContain('30 swings in all')
    await w.findAll('.chip:not(.add)')[0]?.trigger('click')
    await w.find('form').trigger('submit')
    expect(sent(w).piece?.clubs).toEqual([0, 20])
    expect(sent(w)).toMatchObject({ kind: 'piece', at: 's', scope: 'line' })
  })
  it('keeps what it is made of in the order of the choice, and begins anew with another kind', async () => {
    const w = open()
    await w.findAll('input[name=piece-kind]')[1]?.setValue(true)
    const [squeeze, pulses] = w.findAll('fieldset input')
    await squeeze?.trigger('change')
    await pulses?.trigger('change')
    await squeeze?.trigger('change')
    await w.find('form').trigger('submit')
    expect(sent(w).piece).toMatchObject({
      kind: 'grip',
      exercises: ['grip-burst', 'grip-squeeze'],
      times: 5,
      inTurn: true,
    })
    expect(pieces[1]?.usual.exercises, 'what is offered stays as it is').toEqual(['grip-squeeze'])
  })
})
