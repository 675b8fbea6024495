import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { effectScope } from 'vue'

import { type TimedStep, useTimer } from './useTimer'

const steps: TimedStep[] = [
  { id: 'a', name: 'Walk', seconds: 10 },
  { id: 'b', name: 'Turn', seconds: 5, side: 'first side' },
  { id: 'c', name: 'Swing', seconds: 20 },
]
beforeEach(() => vi.useFakeTimers({ now: 1_000_000 }))
afterEach(() => vi.useRealTimers())

function timed(sound?: (k: string) => void) {
  const scope = effectScope()
  const timer = scope.run(() => useTimer(() => steps, { sound: sound ?? (() => undefined) }))
  if (!timer) throw new Error('no scope')
  return { timer, scope }
}

test('steps follow each other by the clock, with a sound for each', () => {
  const heard: string[] = []
  const { timer } = timed((k) => heard.push(k))
  timer.start()
  vi.advanceTimersByTime(4_000)
  expect(timer.left.value).toBeCloseTo(6, 1)
  expect(timer.leftInAll.value).toBeCloseTo(31, 1)
  vi.advanceTimersByTime(6_100)
  expect(timer.step.value?.name).toBe('Turn')
  expect(timer.left.value).toBeCloseTo(4.9, 1)
  expect(heard).toEqual(['step', 'tick', 'tick', 'tick', 'step'])
  vi.advanceTimersByTime(30_000)
  expect(timer.done.value).toBe(true)
  expect(heard.at(-1)).toBe('end')
})

test('a screen that slept through several steps wakes up in the right one', () => {
  const { timer } = timed()
  timer.start()
  vi.advanceTimersByTime(1_000)
  // Nothing runs for 17 seconds: the tab is hidden.
  vi.setSystemTime(Date.now() + 17_000)
  document.dispatchEvent(new Event('visibilitychange'))
  expect(timer.step.value?.name).toBe('Swing')
  expect(timer.left.value).toBeCloseTo(17, 1)
  vi.setSystemTime(Date.now() + 60_000)
  document.dispatchEvent(new Event('visibilitychange'))
  expect(timer.done.value).toBe(true)
})

test('a pause takes no time, skip and back go where they say', () => {
  const { timer } = timed()
  timer.start()
  vi.advanceTimersByTime(4_000)
  timer.pause()
  vi.advanceTimersByTime(60_000)
  expect(timer.left.value).toBeCloseTo(6, 1)
  timer.resume()
  vi.advanceTimersByTime(1_000)
  expect(timer.left.value).toBeCloseTo(5, 1)
  timer.skip()
  expect(timer.step.value?.name).toBe('Turn')
  timer.back()
  expect(timer.step.value?.name).toBe('Walk')
  expect(timer.left.value).toBeCloseTo(10, 1)
  vi.advanceTimersByTime(5_000)
  timer.back()
  expect(timer.step.value?.name).toBe('Walk')
  expect(timer.left.value).toBeCloseTo(10, 1)
  timer.skip()
  timer.skip()
  timer.skip()
  expect(timer.done.value).toBe(true)
})

test('ten minutes drift by nothing however late the beats come', () => {
  const long: TimedStep[] = Array.from({ length: 60 }, (_, k) => ({ id: `${k}`, name: `${k}`, seconds: 10 }))
  const scope = effectScope()
  const timer = scope.run(() => useTimer(() => long))
  if (!timer) throw new Error('no scope')
  timer.start()
  let passed = 0
  for (let k = 0; passed < 595_000; k++) {
    const late = 90 + ((k * 37) % 41) // beats come 90 to 130 ms apart
    vi.setSystemTime(1_000_000 + (passed += late))
    timer.beat()
  }
  expect(timer.index.value).toBe(59)
  expect(Math.abs(timer.left.value - (600 - passed / 1000))).toBeLessThan(0.05)
  timer.stop()
})

test('nothing to do is nothing to start', () => {
  const scope = effectScope()
  const timer = scope.run(() => useTimer(() => []))
  timer?.start()
  expect(timer?.running.value).toBe(false)
})
