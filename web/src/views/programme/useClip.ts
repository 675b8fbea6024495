import { ref } from 'vue'

import type { Schemas } from '@/api/client'

import { placeOf, type Item } from './grid'

type Edit = Schemas['Edit']

/** What was copied: parts of one programme, by their ids. */
export interface Clip {
  programme: string
  kind: 'items' | 'session' | 'week'
  ids: string[]
  words: string
}

/** What was copied last; it stays when another golfer is opened, and is pasted only into the programme it is of. */
const clip = ref<Clip>()

/** Copying and pasting within a programme. The system's clipboard gets the doses as they are typed, a line each. */
export function useClip() {
  function copy(made: Clip, lines: string[] = []) {
    clip.value = made
    if (lines.length) void navigator.clipboard?.writeText(lines.join('\n')).catch(() => undefined)
  }
  const copyItems = (programme: string, items: Item[]) =>
    copy(
      {
        programme,
        kind: 'items',
        ids: items.map((i) => i.id),
        words: items.length === 1 ? (items[0]?.name ?? '') : `${items.length} items`,
      },
      items.map((i) => i.typed),
    )

  /**
   * The edit that pastes what was copied: items over an item or into a session, a session on a day, a week's sessions into
   * a week. Undefined where it does not fit there.
   */
  function paste(
    view: Schemas['ProgrammeView'],
    at: { item?: string; session?: string; week?: string; date?: string },
  ): Edit | undefined {
    const c = clip.value
    const first = c?.ids[0]
    if (!c || !first || c.programme !== view.id) return undefined
    if (c.kind === 'week') return at.week ? { kind: 'copy', at: first, to: at.week } : undefined
    if (c.kind === 'session') return at.date ? { kind: 'copy', at: first, date: at.date } : undefined
    const base = { kind: 'copy' as const, at: first, also: c.ids.slice(1) }
    if (at.session) return { ...base, to: at.session }
    const place = at.item ? placeOf(view.programme, at.item) : undefined
    if (!place || !at.item) return undefined
    return c.ids.length === 1
      ? { ...base, to: place.id, before: at.item, over: true }
      : { ...base, to: place.id, before: at.item }
  }
  return { clip, copy, copyItems, paste }
}
