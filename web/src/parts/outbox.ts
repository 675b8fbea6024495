import { shallowReactive, watch } from 'vue'

import type { ApiError } from '@/api/client'
import { useUi } from '@/app/ui'

import { unsentKey } from './unsent'

export interface OutboxOptions<T> {
  /** What is being written, such as `screen.<id>`. The entries are kept under it for the person who is signed in. */
  name: string
  /** An entry put under the key of one that still waits takes its place. */
  keyOf: (value: T) => string
  /** Sends entries, all or none. */
  send: (values: T[]) => Promise<unknown>
  /** Whether there is anything to send to yet. */
  ready: () => boolean
  /** Whether an entry stays behind until it is put again: it was refused. */
  held?: (key: string) => boolean
  /** Told of a batch that was refused for what is in it. A lost connection or session is not: the batch waits on. */
  refused?: (error: ApiError, batch: [key: string, value: T][]) => void
  /** What becomes of an entry that was put again while the one before it was being sent. */
  putMeanwhile?: (value: T) => T
}

const TRY_AGAIN_MS = 3000

/**
 * What was typed and is not saved yet: the only way in which the browser writes what a coach types. Entries are sent in
 * the order they were put, one batch at a time; while one is on its way the next gathers. They are kept in the browser
 * too, so that a reload, a lost connection or a session that ended loses nothing, and belong to who typed them.
 *
 * `later` asks for a batch to be sent, `close` sends what is left and takes nothing more.
 */
export function createOutbox<T extends object>(o: OutboxOptions<T>) {
  const ui = useUi()
  const store = unsentKey(o.name)
  // An entry is replaced, never changed in place.
  const waiting = shallowReactive(new Map(restore<T>(store).map((v) => [o.keyOf(v), v])))
  let sending = false
  let closed = false
  let timer: ReturnType<typeof setTimeout> | undefined

  watch(waiting, () => localStorage.setItem(store, JSON.stringify([...waiting.values()])))

  function put(value: T) {
    waiting.set(o.keyOf(value), value)
    ui.setSave('saving')
  }
  function drop(key: string) {
    waiting.delete(key)
  }
  const held = (key: string) => o.held?.(key) === true
  const free = () => [...waiting.entries()].filter(([key]) => !held(key))

  /** Sends after ms; with 0 once the work at hand is done. */
  function later(ms: number) {
    clearTimeout(timer)
    if (ms === 0) queueMicrotask(() => void send())
    else if (!closed) timer = setTimeout(() => void send(), ms)
  }

  async function send() {
    if (sending || !o.ready()) return
    const batch = free()
    if (batch.length === 0) {
      if (waiting.size > 0) settle()
      return
    }
    sending = true
    ui.setSave('saving')
    let offline = false
    try {
      await o.send(batch.map(([, value]) => value))
      for (const [key, sent] of batch) {
        const now = waiting.get(key)
        if (now === sent) waiting.delete(key)
        else if (now && o.putMeanwhile) waiting.set(key, o.putMeanwhile(now))
      }
      settle()
    } catch (e) {
      const error = e as ApiError
      offline = error.offline || error.status === 401
      if (!offline) o.refused?.(error, batch)
      ui.setSave(offline ? 'unsent' : 'refused', error.message)
    } finally {
      sending = false
    }
    if (free().length > 0) later(offline ? TRY_AGAIN_MS : 0)
  }
  function settle() {
    if ([...waiting.keys()].some(held)) ui.setSave('refused', 'look at what is marked')
    else ui.setSave('saved')
  }

  function close() {
    closed = true
    void send()
  }

  return { waiting, put, drop, later, close }
}

/** What was kept: a list of entries, or one alone, as an earlier version kept a form. */
function restore<T>(store: string): T[] {
  try {
    const kept = JSON.parse(localStorage.getItem(store) ?? '[]') as T | T[]
    return Array.isArray(kept) ? kept : [kept]
  } catch {
    return []
  }
}
