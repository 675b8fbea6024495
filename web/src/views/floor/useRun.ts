import { computed, ref } from 'vue'

import { keys } from '@/api/keys'
import { useKept } from '@/offline/kept'

import { device, useFloorOutbox } from './floorOutbox'
import { headAt, type Entry, newest, type Session, withWaiting } from './log'
import { fetchSession, sessionName, stripSession } from './session'

/** A session that is run: what is planned, what was noted, and noting. */
export function useRun(athleteId: string, sessionId: string) {
  const outbox = useFloorOutbox()
  const { data, error, keptAt, refetch } = useKept<Session>({
    key: keys.floorSession(athleteId, sessionId),
    name: () => sessionName(athleteId, sessionId),
    fetch: () => fetchSession(athleteId, sessionId),
    strip: stripSession,
  })
  const log = computed(() =>
    data.value
      ? withWaiting(
          newest(data.value.log, outbox.heardOf(athleteId, sessionId)),
          outbox.waitingOf(athleteId, sessionId),
        )
      : undefined,
  )
  /** What was noted here, newest last: what an undo takes back. */
  const noted = ref<{ what: string; item: string; number: number; before: unknown }[]>([])

  function entry(what: string, item: string, number: number, value: unknown): Entry {
    const seen = log.value ? headAt(log.value, what, item, number) : ''
    return {
      id: crypto.randomUUID(),
      what,
      ...(item ? { item } : {}),
      ...(number ? { number } : {}),
      value,
      clock: (log.value?.clock ?? 0) + 1,
      ...(seen ? { seen } : {}),
      at: new Date().toISOString(),
      device: device(),
    }
  }
  function standing(what: string, item: string, number: number): unknown {
    const it = log.value?.items.find((x) => x.item === item)
    if (what === 'set') {
      const s = it?.sets.find((x) => x.number === number)
      if (!s) return null
      return Object.fromEntries(Object.entries(s).filter(([k]) => k !== 'number' && k !== 'by'))
    }
    if (what === 'left-out') return it?.leftOut ? { text: it.why ?? '' } : null
    if (what === 'swap') return { exercise: it?.exercise ?? '' }
    return null
  }
  function note(what: string, value: unknown, item = '', number = 0) {
    if (['set', 'left-out', 'swap'].includes(what))
      noted.value = [...noted.value.slice(-99), { what, item, number, before: standing(what, item, number) }]
    outbox.put({ athleteId, session: sessionId, entry: entry(what, item, number, value) })
  }
  function undo() {
    const last = noted.value.at(-1)
    if (!last) return
    noted.value = noted.value.slice(0, -1)
    outbox.put({ athleteId, session: sessionId, entry: entry(last.what, last.item, last.number, last.before) })
  }
  const refused = computed(() => outbox.refused.filter((r) => r.athleteId === athleteId && r.session === sessionId))
  return { data, error, keptAt, refetch, log, note, undo, noted, refused, outbox }
}
