import type { RouteLocationRaw } from 'vue-router'

import type { Schemas } from '@/api/client'

/** A step on the way to the first printed block. */
export interface FirstStep {
  title: string
  done: boolean
  /** What to do there, while it is the next one. */
  text: string
  to: RouteLocationRaw
}

/**
 * The way of a practice's first golfer, from an empty squad to a printed block, as it stands: of several the golfer who
 * is farthest is followed. Printing leaves no trace, so that the last step is never done.
 */
export function firstGolfer(squad: Schemas['SquadRow'][]): FirstStep[] {
  const far = (a: Schemas['SquadRow']) =>
    (a.clearance === 'clear' ? 1 : 0) + (a.lane.screens.length > 0 ? 2 : 0) + (a.lane.blocks.length > 0 ? 4 : 0)
  const [golfer] = [...squad].sort((a, b) => far(b) - far(a))
  const at = (name: string): RouteLocationRaw => (golfer ? { name, params: { id: golfer.id } } : { name: 'squad' })
  const blocks = golfer?.lane.blocks ?? []
  const issued = blocks.some((b) => b.status === 'issued')
  const drafted = issued || blocks.some((b) => b.status === 'draft')
  const screened = (golfer?.lane.screens.length ?? 0) > 0
  return [
    {
      title: 'Add a golfer',
      done: golfer !== undefined,
      text: 'A name, a birth date and the side they play from are enough.',
      to: { name: 'squad', query: { add: '' } },
    },
    {
      title: 'Ask the questions',
      done: golfer?.clearance === 'clear',
      text: 'Go through the list under Clearance; No to all takes one look.',
      to: at('intake'),
    },
    {
      title: 'Screen',
      done: screened,
      text: 'A few tests are enough: jump, grip, hips, chest, club speed.',
      to: at('screen'),
    },
    {
      title: 'Read and draft',
      done: drafted,
      text: 'See what holds speed back, and draft a programme from it.',
      to: screened && !drafted ? at('read') : at('programme'),
    },
    { title: 'Issue', done: issued, text: 'Look through the sheet, then issue it.', to: at('programme') },
    {
      title: 'Print',
      done: false,
      text: 'Print the block, or run its first session on the floor.',
      to: at('programme'),
    },
  ]
}
