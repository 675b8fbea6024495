import { useQueryClient } from '@tanstack/vue-query'
import { useEventListener } from '@vueuse/core'
import { computed, effectScope, reactive, shallowReactive } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { createOutbox } from '@/parts/outbox'
import { person, unsentKey } from '@/parts/unsent'

import { type Log, newest, type Session, type Waiting } from './log'
import { keepLog } from './session'

/** What the server did not take, and why: it stays here until it is put right or dropped. */
export interface Refused extends Waiting {
  field: string
  text: string
  ask: boolean
}

/** How long notes gather before they go out. */
const REST_MS = 250
/** The most that is sent at once. */
const MOST = 1000

/** This device, told apart from others; it says nothing about whose it is. */
export function device(): string {
  const key = 'dunnock.device'
  let id = localStorage.getItem(key)
  if (!id) {
    id = crypto.randomUUID()
    localStorage.setItem(key, id)
  }
  return id
}

function open(client: ReturnType<typeof useQueryClient>, who: string) {
  const refused = reactive(JSON.parse(localStorage.getItem(unsentKey('floor-refused')) ?? '[]') as Refused[])
  const said = reactive<string[]>([])
  /** What the server answered last of each session: a view asked for before may arrive after, and know less. */
  const heard = shallowReactive(new Map<string, Log>())
  const keepRefused = () => localStorage.setItem(unsentKey('floor-refused'), JSON.stringify(refused))

  const outbox = createOutbox<Waiting>({
    name: 'floor',
    keyOf: (w) => w.entry.id,
    // What a session that expired left behind goes out when the same person signs in, not with the next one's.
    ready: () => person() === who,
    async send(all) {
      for (let i = 0; i < all.length; i += MOST) await sendSome(all.slice(i, i + MOST))
    },
    refused(error, batch) {
      // The batch itself was not understood: nothing of it is dropped.
      for (const [key, w] of batch) {
        refused.push({ ...(JSON.parse(JSON.stringify(w)) as Waiting), field: '', text: error.message, ask: false })
        outbox.drop(key)
      }
      keepRefused()
    },
  })
  async function sendSome(list: Waiting[]) {
    const groups = new Map<string, { athleteId: string; session: string; entries: Waiting['entry'][] }>()
    for (const w of list) {
      const key = `${w.athleteId}|${w.session}`
      const g = groups.get(key) ?? { athleteId: w.athleteId, session: w.session, entries: [] }
      g.entries.push(w.entry)
      groups.set(key, g)
    }
    const answer = await must(
      api.POST('/floor/entries', { body: { sentAt: new Date().toISOString(), sessions: [...groups.values()] } }),
    )
    for (const x of answer.logs) take(x.athleteId, x.session, x.log)
    for (const r of answer.refused) {
      const w = list.find((x) => x.entry.id === r.id)
      const there = refused.some((x) => x.entry.id === r.id)
      if (w && !there)
        refused.push({ ...(JSON.parse(JSON.stringify(w)) as Waiting), field: r.field, text: r.text, ask: r.ask })
    }
    if (answer.refused.length) keepRefused()
    said.splice(0, said.length, ...new Set(answer.notes))
  }
  function take(athleteId: string, session: string, log: Log) {
    const place = `${athleteId}|${session}`
    heard.set(place, newest(log, heard.get(place)))
    void keepLog(athleteId, session, log)
    const key = keys.floorSession(athleteId, session)
    const had = client.getQueryData<Session>(key)
    if (had) client.setQueryData<Session>(key, { ...had, log })
    // What the sheet holds hangs on these: the easier version, a log that ended.
    if (had && (had.log.easier !== log.easier || JSON.stringify(had.log.ready) !== JSON.stringify(log.ready)))
      void client.invalidateQueries({ queryKey: key })
    if (log.state === 'done' || log.state === 'stopped' || log.state === 'missed')
      for (const k of [
        keys.floor(athleteId),
        keys.nextDose(athleteId),
        keys.load(athleteId),
        keys.today(),
        keys.athlete(athleteId),
        keys.programmes(athleteId),
      ])
        void client.invalidateQueries({ queryKey: k })
  }
  function put(w: Waiting) {
    outbox.put(w)
    outbox.later(REST_MS)
  }
  /** Notes what was refused again, as it is now. */
  function again(r: Refused, value: unknown) {
    drop(r)
    put({ athleteId: r.athleteId, session: r.session, entry: { ...r.entry, id: crypto.randomUUID(), value } })
  }
  function drop(r: Refused) {
    const at = refused.indexOf(r)
    if (at >= 0) refused.splice(at, 1)
    keepRefused()
  }
  useEventListener(globalThis.window, 'online', () => outbox.later(0))
  if (outbox.waiting.size > 0) outbox.later(0)
  const waitingOf = (athleteId: string, session: string) =>
    [...outbox.waiting.values()].filter((w) => w.athleteId === athleteId && w.session === session).map((w) => w.entry)
  const heardOf = (athleteId: string, session: string) => heard.get(`${athleteId}|${session}`)
  return { put, heardOf, refused, again, drop, said, waitingOf, waiting: computed(() => outbox.waiting.size) }
}

let at: { who: string; box: ReturnType<typeof open>; stop: () => void } | undefined

/** The one outbox of the floor: it outlives every page, so that what was noted goes out wherever the coach is. */
export function useFloorOutbox() {
  const client = useQueryClient()
  const who = person()
  if (at?.who !== who) {
    at?.stop()
    const scope = effectScope(true)
    const box = scope.run(() => open(client, who))
    if (!box) throw new Error('no outbox')
    at = { who, box, stop: () => scope.stop() }
  }
  return at.box
}

export type Readiness = Schemas['Readiness']
