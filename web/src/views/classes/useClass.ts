import { computed, onScopeDispose, ref, shallowRef } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { openStream, type Stream } from '@/api/events'
import { device, useFloorOutbox } from '@/views/floor/floorOutbox'
import { headAt, newest, setAt, withWaiting } from '@/views/floor/log'

export type View = Schemas['ClassView']
export type Line = View['stations'][number]['lines'][number]
const AGAIN_MS = 1500

/** A class as it stands, followed live: whatever any device notes shows on every other within a second. */
export function useClass(classId: string) {
  const view = shallowRef<View>()
  const error = ref('')
  const lost = ref(false)
  const heard = ref(Date.now())
  const outbox = useFloorOutbox()
  let stream: Stream | undefined
  let timer: ReturnType<typeof setTimeout> | undefined

  function follow() {
    stream = openStream<View>(`/classes/${classId}/live`, {
      event(v) {
        view.value = v
        heard.value = Date.now()
        lost.value = false
        error.value = ''
      },
      refused(text) {
        if (text && !view.value) error.value = text
        again()
      },
      ended: again,
    })
  }
  function again() {
    lost.value = true
    clearTimeout(timer)
    timer = setTimeout(follow, AGAIN_MS)
  }
  follow()
  onScopeDispose(() => {
    clearTimeout(timer)
    stream?.close()
  })

  const golfers = computed(
    () =>
      view.value?.golfers.map((g) => ({
        ...g,
        log: withWaiting(newest(g.log, outbox.heardOf(g.id, g.session)), outbox.waitingOf(g.id, g.session)),
      })) ?? [],
  )
  const golfer = (id: string) => golfers.value.find((g) => g.id === id)
  const name = (id: string) => golfer(id)?.name ?? ''
  function note(golferId: string, what: string, value: unknown, item = '', number = 0) {
    const g = golfer(golferId)
    if (!g) return
    const put = (w: string, v: unknown, i = '', n = 0) => {
      const now = golfer(golferId)
      if (!now) return
      const seen = headAt(now.log, w, i, n)
      outbox.put({
        athleteId: golferId,
        session: g.session,
        entry: {
          id: crypto.randomUUID(),
          what: w,
          ...(i ? { item: i } : {}),
          ...(n ? { number: n } : {}),
          value: v,
          clock: now.log.clock + 1,
          ...(seen ? { seen } : {}),
          at: new Date().toISOString(),
          device: device(),
        },
      })
    }
    if (!g.log.begunAt && view.value) put('begun', { date: view.value.date })
    put(what, value, item, number)
  }
  /** Minutes since the class began by the server's clock; −1 while it stands. */
  const clock = computed(() => {
    const v = view.value
    return v?.beganAt ? { began: Date.parse(v.beganAt), off: Date.parse(v.now) - heard.value } : undefined
  })
  const minutesAt = (now: number) => (clock.value ? (now + clock.value.off - clock.value.began) / 60_000 : -1)
  async function run(running: boolean) {
    view.value = await must(api.PUT('/classes/{classId}', { params: { path: { classId } }, body: { running } }))
    heard.value = Date.now()
  }
  const done = (golferId: string, item: string) =>
    golfer(golferId)
      ?.log.items.find((x) => x.item === item)
      ?.sets.filter((s) => s.number > 0).length ?? 0
  return { view, error, lost, golfers, golfer, name, note, done, setAt, outbox, minutesAt, run }
}

/** Where in its rounds a class is: by the minutes since it began. */
export function roundAt(view: View, minutes: number) {
  const i = view.rounds.findIndex((r) => minutes < r.to)
  if (i < 0) return { now: undefined, next: undefined, left: 0 }
  const now = view.rounds[i]
  return {
    now: now && minutes >= now.from ? now : undefined,
    next: now && minutes >= now.from ? view.rounds[i + 1] : now,
    left: now ? (minutes >= now.from ? now.to - minutes : now.from - minutes) : 0,
  }
}
