import { mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { Comment, effectScope, h, nextTick, ref } from 'vue'

import { InTurns } from './InTurns'
import { useTurns } from './turns'

/** How long drawing one part takes here, in ms: `performance.now` stands still otherwise. */
let takes = 0
let clock = 0
beforeEach(() => {
  takes = 100
  clock = 0
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'requestAnimationFrame'] })
  vi.spyOn(performance, 'now').mockImplementation(() => (clock += takes))
})
afterEach(async () => {
  await vi.advanceTimersByTimeAsync(1000) // nothing is left in the line
  vi.restoreAllMocks()
  vi.useRealTimers()
})
/** A frame, the turn after it, and what that draws. */
async function turn() {
  await nextTick()
  await vi.advanceTimersByTimeAsync(17)
  for (let i = 0; i < 50; i++) await nextTick()
}

it('draws the first parts at once and the others in turn, once there are any', async () => {
  const all = ref(0)
  const scope = effectScope()
  const drawn = scope.run(() => useTurns(() => all.value, { first: 2, each: 3 })) ?? ref(0)
  await turn()
  expect(drawn.value).toBe(2)
  all.value = 6
  await turn()
  expect(drawn.value).toBe(5)
  await turn()
  expect(drawn.value).toBe(8)
  await turn()
  expect(drawn.value).toBe(8)
  all.value = 20
  scope.stop()
  await turn()
  expect(drawn.value).toBe(8)
})

const list = (n: { value: number }, place = 0) =>
  mount(() =>
    h(
      'form',
      h(InTurns, { place }, () => Array.from({ length: n.value }, (_, i) => h('input', { key: i, name: i }))),
    ),
  )

it('draws what stands in it one after the other and keeps room for the rest', async () => {
  const w = list(ref(3), 44)
  const seen = () => [w.findAll('input').length, w.findAll('.not-yet').length]
  expect(seen()).toEqual([0, 3])
  expect(w.get('.not-yet').attributes('style')).toContain('min-height: 44px')
  await turn()
  expect(seen()).toEqual([1, 2])
  await turn()
  expect(seen()).toEqual([2, 1])
  await turn()
  expect(seen()).toEqual([3, 0])
})

it('draws all in one turn where that takes no time, and what comes later at once', async () => {
  takes = 0.01
  const n = ref(8)
  const w = list(n)
  expect(w.findAll('input')).toHaveLength(0)
  await turn()
  expect(w.findAll('input')).toHaveLength(8)
  const first = w.get('input').element
  n.value = 12
  await nextTick()
  expect(w.findAll('input')).toHaveLength(12)
  expect(w.get('input').element).toBe(first)
})

it('goes on with what it has when a part comes or goes above it', async () => {
  takes = 0.01
  const there = ref(false)
  const w = mount(() => h(InTurns, null, () => [there.value ? h('i', { key: 0 }) : h(Comment), h('input')]))
  await turn()
  const field = w.get('input').element
  there.value = true
  await nextTick()
  expect(w.find('i').exists()).toBe(true)
  expect(w.get('input').element).toBe(field)
})

it('lets two lists of parts share the turns', async () => {
  const a = list(ref(2))
  const b = list(ref(2))
  const drawn = () => [a.findAll('input').length, b.findAll('input').length]
  await turn()
  expect(drawn()).toEqual([1, 0])
  await turn()
  expect(drawn()).toEqual([1, 1])
  await turn()
  await turn()
  expect(drawn()).toEqual([2, 2])
})

it('goes on no more once it is gone', async () => {
  const drawn: number[] = []
  const part = (i: number) => h('input', { key: i, onVnodeMounted: () => drawn.push(i) })
  const w = mount(() => h(InTurns, null, () => [part(1), part(2), part(3)]))
  await turn()
  w.unmount()
  await turn()
  expect(drawn).toEqual([1])
})
