import { beforeEach, expect, it } from 'vitest'

import { queryClient } from '@/api/client'

import { adoptUnsent, person, unsentKey } from './unsent'

const me = '11111111-1111-4111-8111-111111111111'
const other = '22222222-2222-4222-8222-222222222222'
const screen = '33333333-3333-4333-8333-333333333333'
const golfer = '44444444-4444-4444-8444-444444444444'

beforeEach(() => localStorage.clear())

it('keeps what is unsent apart by who typed it', () => {
  queryClient.setQueryData(['session'], { id: me })
  expect(person()).toBe(me)
  expect(unsentKey(`screen.${screen}`)).toBe(`dunnock.unsent.${me}.screen.${screen}`)
  queryClient.setQueryData(['session'], { id: other })
  expect(unsentKey(`screen.${screen}`)).not.toContain(me)
})

it('gives entries of the version before to who is signed in, once, and leaves everybody else’s', () => {
  localStorage.setItem(`dunnock.unsent.${screen}`, '[1]')
  localStorage.setItem(`dunnock.unsent.${screen}.${golfer}`, '[2]')
  localStorage.setItem(`dunnock.unsent.intake.${golfer}`, '{"a":1}')
  localStorage.setItem(`dunnock.unsent.${golfer}`, '[]')
  localStorage.setItem(`dunnock.unsent.${other}.screen.${screen}`, '[3]')
  localStorage.setItem(`dunnock.unsent.${other}.intake.${golfer}`, '{"b":1}')
  adoptUnsent(me)
  adoptUnsent(me)
  const all = Object.fromEntries(Object.keys(localStorage).map((k) => [k, localStorage.getItem(k)]))
  expect(all).toEqual({
    [`dunnock.unsent.${me}.screen.${screen}`]: '[1]',
    [`dunnock.unsent.${me}.station.${screen}.${golfer}`]: '[2]',
    [`dunnock.unsent.${me}.intake.${golfer}`]: '{"a":1}',
    [`dunnock.unsent.${other}.screen.${screen}`]: '[3]',
    [`dunnock.unsent.${other}.intake.${golfer}`]: '{"b":1}',
  })
})
