import { useQuery } from '@tanstack/vue-query'
import { createStore, del, entries, get, set } from 'idb-keyval'
import { ref } from 'vue'

import { ApiError } from '@/api/client'
import { person } from '@/parts/unsent'

/**
 * What is kept on this device so that a view opens without a network: one store for every view. An entry belongs to who
 * saw it, goes at sign-out, and is not shown after three days. A view says itself what of an answer it keeps: answers
 * to health questions never are.
 */
interface Kept<T> {
  who: string
  at: number
  value: T
}

const KEPT_MS = 72 * 3600_000
const store = () => createStore('dunnock', 'kept')
/** Where the browser keeps nothing (a private window, an old one), views work as long as there is a network. */
const there = () => typeof indexedDB !== 'undefined'

export async function keep<T>(name: string, value: T) {
  if (!there() || !person()) return
  const entry: Kept<T> = { who: person(), at: Date.now(), value: JSON.parse(JSON.stringify(value)) as T }
  await set(`${person()}.${name}`, entry, store()).catch(() => undefined)
}

/** What was kept under a name and when; nothing where it is too old, or somebody else's. */
export async function kept<T>(name: string): Promise<{ value: T; at: number } | undefined> {
  if (!there() || !person()) return undefined
  const key = `${person()}.${name}`
  const entry = await get<Kept<T>>(key, store()).catch(() => undefined)
  if (!entry || entry.who !== person()) return undefined
  if (Date.now() - entry.at > KEPT_MS) {
    await del(key, store()).catch(() => undefined)
    return undefined
  }
  return { value: entry.value, at: entry.at }
}

/** Removes what is too old, and with all everything: at sign-out. What waits to be sent is not kept here. */
export async function sweep(all = false) {
  if (!there()) return
  const list = await entries<string, Kept<unknown>>(store()).catch(() => [])
  for (const [key, entry] of list) {
    if (all || Date.now() - entry.at > KEPT_MS) await del(key, store()).catch(() => undefined)
  }
}

/**
 * A query whose answer is kept on the device: without a network it answers with what was kept, and `keptAt` says from
 * when that is. `strip` leaves out what must not stay on the device.
 */
export function useKept<T extends object>(o: {
  key: readonly unknown[]
  name: () => string
  fetch: () => Promise<T>
  strip?: (value: T) => T
  enabled?: () => boolean
}) {
  const keptAt = ref<number>()
  const query = useQuery<T>({
    queryKey: o.key,
    retry: false,
    ...(o.enabled ? { enabled: o.enabled } : {}),
    async queryFn() {
      try {
        const value = await o.fetch()
        keptAt.value = undefined
        void keep(o.name(), o.strip ? o.strip(value) : value)
        return value
      } catch (e) {
        if (!(e instanceof ApiError) || !e.offline) throw e
        const from = await kept<T>(o.name())
        if (!from) throw e
        keptAt.value = from.at
        return from.value
      }
    },
  })
  return { ...query, keptAt }
}
