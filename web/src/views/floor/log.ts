import type { Schemas } from '@/api/client'

export type Log = Schemas['TrainingLog']
export type SetDone = Schemas['SetDone']
export type Entry = Schemas['FloorEntry']
export type Session = Schemas['FloorSession']
export type Piece = Schemas['FloorPiece']
export type Step = Schemas['FloorStep']
export type Pain = Schemas['FloorPain']

/** An entry on its way, with the session it is of. */
export interface Waiting {
  athleteId: string
  session: string
  entry: Entry
}

const place = (e: { what: string; item?: string; number?: number }) => `${e.what}|${e.item ?? ''}|${e.number ?? 0}`

function itemOf(log: Log, id: string) {
  let it = log.items.find((x) => x.item === id)
  if (!it) {
    it = { item: id, sets: [] }
    log.items.push(it)
  }
  return it
}

/** The one of two states of a log that holds more of what was noted: entries are added, never taken away. */
export const newest = (a: Log, b: Log | undefined): Log => (b && b.entries > a.entries ? b : a)

/**
 * The log as it is shown: what the server has, and over it what was noted here and has not arrived yet. The server
 * folds; this only puts the newest of one's own on top.
 */
export function withWaiting(server: Log, waiting: Entry[]): Log {
  const log = JSON.parse(JSON.stringify(server)) as Log
  for (const e of waiting) {
    log.clock = Math.max(log.clock, e.clock)
    const head = log.heads.find((h) => place(h) === place(e))
    if (head) head.id = e.id
    else log.heads.push({ what: e.what, id: e.id, ...(e.item ? { item: e.item } : {}), number: e.number ?? 0 })
    put(log, e)
  }
  return log
}

function put(log: Log, e: Entry) {
  const v = e.value as Record<string, unknown> | null
  switch (e.what) {
    case 'begun':
      if (v) {
        log.date = String(v.date)
        log.begunAt = e.at
        log.state = log.state || 'running'
      }
      break
    case 'ready':
      if (v) log.ready = v as Schemas['Readiness']
      else delete log.ready
      break
    case 'version':
      log.easier = v?.easier === true
      break
    case 'space':
      log.space = v?.clear === true
      break
    case 'after':
      log.how = (v ?? {}) as Log['how']
      break
    case 'ended':
      log.state = (v?.state as Log['state']) ?? 'running'
      log.why = typeof v?.why === 'string' ? v.why : ''
      break
    case 'set': {
      const it = itemOf(log, e.item ?? '')
      it.sets = it.sets.filter((s) => s.number !== (e.number ?? 0))
      if (v) it.sets.push({ number: e.number ?? 0, ...(v as unknown as SetDone) })
      it.sets.sort((a, b) => a.number - b.number)
      break
    }
    case 'swap': {
      const it = itemOf(log, e.item ?? '')
      it.exercise = String(v?.exercise ?? '')
      break
    }
    case 'left-out': {
      const it = itemOf(log, e.item ?? '')
      it.leftOut = v !== null
      it.why = typeof v?.text === 'string' ? v.text : ''
      break
    }
  }
}

/** The entry that stands at a place; '' where nothing does. */
export const headAt = (log: Log, what: string, item?: string, number?: number) =>
  log.heads.find((h) => place(h) === place({ what, item: item ?? '', number: number ?? 0 }))?.id ?? ''

export const setAt = (log: Log, item: string, number: number) =>
  log.items.find((i) => i.item === item)?.sets.find((s) => s.number === number)

/**
 * The first step nothing was noted of, from a place on; -1 where all are done. What is being noted right now is not in
 * the log yet: it counts as noted.
 */
export function nextOpen(steps: Step[], log: Log, from = 0, noting: (s: Step) => boolean = () => false): number {
  const open = (s: Step) =>
    !noting(s) && !setAt(log, s.item, s.number) && !log.items.find((i) => i.item === s.item)?.leftOut
  const ahead = steps.findIndex((s, i) => i >= from && open(s))
  return ahead >= 0 ? ahead : steps.findIndex(open)
}

const n = (v: number | undefined, unit: string) => (v === undefined ? '' : `${+v.toFixed(2)}${unit}`)

/** A set as it was done, in a few words. */
export function setWords(s: SetDone): string {
  if (s.state === 'skipped') return s.note ? `skipped: ${s.note}` : 'skipped'
  const counted = s.swings?.filter((x) => !x.void).length
  const parts = [
    counted ? `${counted} swings` : n(s.seconds, ' s') || n(s.reps, ''),
    n(s.loadKg, ' kg'),
    s.reserve === undefined ? '' : `${s.reserve} left`,
    n(s.gripKg, ' kg squeezed'),
    n(s.jumpCm, ' cm'),
    s.pain?.level ? `${s.pain.region.replaceAll('-', ' ')} hurt ${s.pain.level}` : '',
    s.state === 'stopped' ? 'stopped' : '',
    s.note ?? '',
  ]
  return parts.filter(Boolean).join(' · ')
}

/** The day it is at `now`, where it was `day` at `then`, by the midnights of this device; both in ms since 1970. */
export function dayAfter(day: string, then: number, now: number): string {
  const midnight = (ms: number) => {
    const d = new Date(ms)
    return Date.UTC(d.getFullYear(), d.getMonth(), d.getDate())
  }
  return new Date(Date.parse(day) + midnight(now) - midnight(then)).toISOString().slice(0, 10)
}
