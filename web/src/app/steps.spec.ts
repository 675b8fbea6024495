import { expect, it } from 'vitest'

import { router } from './router'
import { steps } from './steps'

it('is one table for the path and the router', () => {
  expect(steps.map((s) => s.title)).toEqual([
    'Intake',
    'Screen',
    'Force',
    'Speed',
    'Read',
    'Season',
    'Programme',
    'Warm-up',
    'Floor',
    'Progress',
  ])
  for (const s of steps) {
    const route = router.resolve({ name: s.name, params: { id: 'g' } })
    expect(route.path).toBe(`/golfers/g/${s.name}`)
    expect(route.meta.title).toBe(s.title)
  }
})

it('leads to the pages below a step', () => {
  expect(router.resolve('/golfers/g/force/page').name).toBe('force-page')
  expect(router.resolve('/golfers/g/force/r1').params.recordingId).toBe('r1')
  const card = router.resolve({ name: 'card', params: { id: 'g', programmeId: 'p', sessionId: 'k-3' } })
  expect(card.path).toBe('/golfers/g/programme/p/card/k-3')
  expect(router.resolve('/nowhere').matched[0]?.redirect).toBe('/')
})
