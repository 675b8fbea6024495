import { Marked } from 'marked'

import text from '../../../docs/guide.md?raw'

/** A part of the coach's guide: what a page is for and how it is worked. */
export interface Section {
  title: string
  html: string
  /** Its words, lower case, to be searched. */
  words: string
}

// Links of the guide lead to documents that stand beside it, not into the program: their words are kept.
const marked = new Marked({
  renderer: {
    link({ tokens }) {
      return this.parser.parseInline(tokens)
    },
  },
})

/** The guide in parts: each begins with its name in bold, or with a heading. */
export function sectionsOf(guide: string): Section[] {
  const parts: { title: string; lines: string[] }[] = []
  for (const line of guide.split('\n')) {
    const name = /^\*\*([^*]+?)\.\*\*\s*(.*)$/.exec(line) ?? /^## (.+?)()$/.exec(line)
    if (name) parts.push({ title: name[1] ?? '', lines: [name[2] ?? ''] })
    else parts.at(-1)?.lines.push(line)
  }
  return parts.map((p) => {
    const html = marked.parse(p.lines.join('\n'), { async: false })
    return { title: p.title, html, words: `${p.title} ${html.replace(/<[^>]+>/g, ' ')}`.toLowerCase() }
  })
}

export const guide = sectionsOf(text)

/** The part of the guide that tells of a page, by the page's name. */
const tells: Record<string, string> = {
  'sign-in': 'Sign in',
  'first-run': 'Sign in',
  squad: 'Squad',
  intake: 'Intake',
  screen: 'Screen',
  force: 'Force',
  'force-page': 'Force',
  speed: 'Speed',
  read: 'Read',
  season: 'Season',
  programme: 'Programme',
  compare: 'Programme',
  card: 'Session card',
  warmup: 'Warm-up',
  'group-warmup': 'Warm-up',
  floor: 'Floor',
  run: 'Floor',
  load: 'Load',
  progress: 'Progress',
  today: 'Today',
  'plan-class': 'A class',
  class: 'A class',
  wall: 'A class',
  days: 'Screen days',
  'plan-day': 'Screen days',
  day: 'Screen days',
  station: 'Screen days',
  tests: 'Tests',
  repeats: 'How sure',
  method: 'Schools and rules',
  files: 'Files',
  practice: 'The practice',
}
export const sectionOf = (page: string) => guide.find((s) => s.title === tells[page])

/** The parts that hold every word that is looked for, those named by it first. */
export function findInGuide(text: string): Section[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  if (words.length === 0) return []
  const named = (s: Section) => (words.every((w) => s.title.toLowerCase().includes(w)) ? 0 : 1)
  return guide.filter((s) => words.every((w) => s.words.includes(w))).sort((a, b) => named(a) - named(b))
}
