import { expect, it } from 'vitest'
import { type ComputedRef, ref } from 'vue'

import { keys } from './keys'

it('makes the key of one thing, and of all of its kind', () => {
  expect(keys.athlete('a')).toEqual(['athlete', 'a'])
  expect(keys.athlete()).toEqual(['athlete'])
  expect(keys.referral('a', 'physio').slice(0, 2)).toEqual(keys.read('a'))
})

it('follows what its parts refer to', () => {
  const school = ref('barn')
  const [, , part] = keys.read('a', school)
  expect((part as ComputedRef).value).toBe('barn')
  school.value = 'byre'
  expect((part as ComputedRef).value).toBe('byre')
})
