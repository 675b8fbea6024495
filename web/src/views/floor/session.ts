import { api, must } from '@/api/client'
import { keep, kept } from '@/offline/kept'

import { type Log, newest, type Session } from './log'

/** What of a session stays on the device: everything but why somebody is not cleared. */
export function stripSession(s: Session): Session {
  return { ...s, stop: s.stop ? 'Not to be trained as it stood when it was last loaded: look at the intake.' : '' }
}

export const sessionName = (athlete: string, session: string) => `floor.${athlete}.${session}`

export const fetchSession = (athleteId: string, sessionId: string) =>
  must(
    api.GET('/athletes/{athleteId}/floor/{sessionId}', { params: { path: { athleteId, sessionId } } }),
  ) as Promise<Session>

/** Lays what was noted since over the copy of a session that is kept on the device, where there is one. */
export async function keepLog(athleteId: string, sessionId: string, log: Log) {
  const name = sessionName(athleteId, sessionId)
  const copy = await kept<Session>(name)
  if (copy) await keep(name, { ...copy.value, log: newest(log, copy.value.log) })
}
