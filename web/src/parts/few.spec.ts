import { expect, it } from 'vitest'

import { FEW, useFew } from './few'

const squad = (n: number) =>
  Array.from({ length: n }, (_, i) => ({ id: `g${i}`, name: `Golfer ${String(i).padStart(4, '0')}` }))

it('offers all of a small squad in its order', () => {
  const all = squad(FEW)
  const few = useFew(
    () => all,
    () => ['g3'],
  )
  expect(few.shown.value).toBe(all)
  expect(few.many.value).toBe(false)
  expect(few.more.value).toBe(0)
})

it('offers a few of a large one: those chosen first, then who is looked for', () => {
  const all = squad(10_000)
  const few = useFew(
    () => all,
    () => ['g7000'],
  )
  expect(few.many.value).toBe(true)
  expect(few.shown.value).toHaveLength(FEW + 1)
  expect(few.shown.value[0]?.id).toBe('g7000')
  expect(few.more.value).toBe(10_000 - FEW - 1)
  few.text.value = ' 099 golfer'
  expect(few.shown.value.map((g) => g.id)).toContain('g990')
  expect(few.shown.value[0]?.id).toBe('g7000')
  few.text.value = 'nobody'
  expect(few.shown.value.map((g) => g.id)).toEqual(['g7000'])
  expect(few.more.value).toBe(0)
})
