import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { mount } from '@vue/test-utils'
import { expect, it } from 'vitest'

import SeasonLane from './SeasonLane.vue'

it('shows blocks, screens, pennants and today, and says them aloud', () => {
  const queryClient = new QueryClient()
  queryClient.setQueryData(['session'], { today: '2026-11-24', units: { speed: 'mph' } })
  const w = mount(SeasonLane, {
    props: {
      golferId: 'a',
      lane: {
        screens: ['2026-11-22', '2020-01-01'],
        competitions: [{ date: '2027-02-06', name: 'Inter-island match', peak: true }],
        blocks: [
          { start: '2026-11-30', weeks: 4, emphasis: 'vertical power', status: 'issued', version: 1, programmeId: 'p' },
          { start: '2026-12-28', weeks: 4, emphasis: 'mobility', status: 'draft', programmeId: 'q' },
        ],
      },
    },
    global: { plugins: [[VueQueryPlugin, { queryClient }]] },
  })
  expect(w.find('svg').attributes('aria-label')).toContain('vertical power from Mon 30 Nov')
  expect(w.find('svg').attributes('aria-label')).toContain('Inter-island match on Sat 6 Feb')
  expect(w.findAll('.dot')).toHaveLength(1) // the one of years ago lies outside the strip
  expect(w.find('.pennant').classes('peak')).toBe(true)
  expect(w.findAll('.emphasis').map((e) => e.text())).toEqual(['vertical power', 'draft: mobility'])
  const [issued, draft] = w.findAll('rect.block')
  expect(draft?.classes('draft')).toBe(true)
  // Four of twenty-six weeks along a width of 1000.
  expect(Number(issued?.attributes('width'))).toBeCloseTo(153.85, 1)
  expect(Number(draft?.attributes('x')) - Number(issued?.attributes('x'))).toBeCloseTo(153.85, 1)
})
