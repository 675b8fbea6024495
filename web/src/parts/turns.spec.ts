import { expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'

import { useTurns } from './turns'

it('draws the first parts at once and the others in turn, once there are any', async () => {
  vi.useFakeTimers()
  const all = ref(0)
  const scope = effectScope()
  const drawn = scope.run(() => useTurns(() => all.value, { first: 2, each: 3 })) ?? ref(0)
  const turn = async () => {
    await nextTick()
    vi.runOnlyPendingTimers()
    await nextTick()
  }
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
  vi.useRealTimers()
})
