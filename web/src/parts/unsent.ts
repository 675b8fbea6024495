import { queryClient, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

const PREFIX = 'dunnock.unsent.'

const PERSON = 'dunnock.person'

/** Who is signed in, as the browser knows it now; without a network, who was when it was last asked. */
export function person(): string {
  return queryClient.getQueryData<Schemas['Session']>(keys.session())?.id ?? localStorage.getItem(PERSON) ?? ''
}

/** Remembers who is signed in for the time without a network; nobody after sign-out. */
export function rememberPerson(id: string) {
  if (id) localStorage.setItem(PERSON, id)
  else localStorage.removeItem(PERSON)
}

/**
 * Where something typed and not sent yet is kept in this browser. It belongs to who typed it: on a shared tablet the
 * next person neither sees nor sends it.
 */
export function unsentKey(what: string, who = person()): string {
  return `${PREFIX}${who}.${what}`
}

const KINDS = ['screen', 'station', 'intake', 'speed', 'warmup', 'runner', 'floor']

/**
 * Entries an earlier version kept without a person become those of who is signed in when the page is opened: they typed
 * them, or they would have been asked to sign in first.
 */
export function adoptUnsent(who: string) {
  for (const key of Object.keys(localStorage)) {
    if (!key.startsWith(PREFIX)) continue
    const old = key.slice(PREFIX.length)
    const parts = old.split('.')
    if (KINDS.includes(parts[1] ?? '')) continue // somebody's already
    const kept = localStorage.getItem(key)
    localStorage.removeItem(key)
    const what = parts[0] === 'intake' ? old : `${parts.length === 1 ? 'screen' : 'station'}.${old}`
    if (kept && kept !== '[]') localStorage.setItem(unsentKey(what, who), kept)
  }
}
