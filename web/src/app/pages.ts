import type { RouteLocationRaw } from 'vue-router'

import { steps } from './steps'

/** A page that can be gone to by name, by `g` and a letter, or from Find. */
export interface Page {
  name: string
  title: string
  letter: string
  /** It is of the golfer who is open. */
  golfer: boolean
}

/** The pages beside a golfer, in the order of the top line. */
export const topPages: Page[] = [
  { name: 'today', title: 'Today', letter: 't', golfer: false },
  { name: 'squad', title: 'Squad', letter: 'q', golfer: false },
  { name: 'days', title: 'Screen days', letter: 'd', golfer: false },
  { name: 'tests', title: 'Tests', letter: 'e', golfer: false },
  { name: 'method', title: 'Schools and rules', letter: 'm', golfer: false },
  { name: 'repeats', title: 'How sure', letter: 'h', golfer: false },
  { name: 'files', title: 'Files', letter: 'x', golfer: false },
]

/** What is set up once: not of the top line, but found and gone to like any page. */
export const asidePages: Page[] = [{ name: 'practice', title: 'The practice', letter: 'c', golfer: false }]

const letters: Record<string, string> = {
  intake: 'i',
  screen: 's',
  force: 'f',
  speed: 'v',
  read: 'r',
  season: 'n',
  programme: 'p',
  warmup: 'w',
  floor: 'l',
  progress: 'o',
}
export const golferPages: Page[] = steps.map((s) => ({
  name: s.name,
  title: s.title,
  letter: letters[s.name] ?? '',
  golfer: true,
}))

/** Where a letter after `g` leads; nothing where it names no page, or one of a golfer and none is open. */
export function pageAt(letter: string, golferId: string): RouteLocationRaw | undefined {
  const page = [...topPages, ...asidePages, ...golferPages].find((p) => p.letter === letter)
  if (!page || (page.golfer && !golferId)) return undefined
  return page.golfer ? { name: page.name, params: { id: golferId } } : { name: page.name }
}
