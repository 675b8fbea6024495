import { computed, type ComputedRef, type MaybeRefOrGetter, toValue } from 'vue'

type Part = MaybeRefOrGetter<string | number> | undefined

/** A key of its name and parts; a part that is left out leaves the key of all that begin with those before it. */
function key(name: string, ...parts: Part[]): (string | number | ComputedRef<string | number>)[] {
  const given = parts.filter((p) => p !== undefined)
  return [name, ...given.map((p) => (typeof p === 'string' || typeof p === 'number' ? p : computed(() => toValue(p))))]
}

/** What answers of the server are kept under in the browser. Nothing is kept under a key that is not made here. */
export const keys = {
  session: () => key('session'),
  setup: () => key('setup'),
  version: () => key('version'),
  meta: () => key('meta'),
  practice: () => key('practice'),
  battery: () => key('battery'),
  repeats: () => key('repeats'),
  squad: (which?: Part) => key('squad', which),
  golfers: (text?: Part) => key('golfers', text),
  athlete: (athlete?: Part) => key('athlete', athlete),
  read: (athlete?: Part, school?: Part) => key('read', athlete, school),
  referral: (athlete: Part, to: Part) => key('read', athlete, 'referral', to),
  screens: (athlete?: Part) => key('screens', athlete),
  screen: (screen?: Part) => key('screen', screen),
  programmes: (athlete?: Part) => key('programmes', athlete),
  programme: (programme?: Part) => key('programme', programme),
  alternatives: (programme: Part, at: Part, of: Part) => key('alternatives', programme, at, of),
  differences: (programme: Part, from: Part, revision: Part) => key('differences', programme, from, revision),
  preview: (athlete: Part, school: Part, revision: Part) => key('preview', athlete, school, revision),
  compared: (athlete: Part, a: Part, b: Part) => key('compared', athlete, a, b),
  progress: (athlete?: Part) => key('progress', athlete),
  season: (athlete?: Part) => key('season', athlete),
  calendar: (athlete?: Part) => key('calendar', athlete),
  rules: () => key('rules'),
  schools: () => key('schools'),
  force: (athlete?: Part) => key('force', athlete),
  recording: (recording?: Part) => key('recording', recording),
  trace: (recording: Part, settings: Part) => key('trace', recording, settings),
  overlay: (first: Part, second: Part) => key('overlay', first, second),
  speed: (athlete?: Part) => key('speed', athlete),
  implements: (athlete?: Part) => key('implements', athlete),
  warmups: (athlete?: Part) => key('warmups', athlete),
  sessionWarmUp: (programme: Part, session: Part) => key('session-warm-up', programme, session),
  sessionCard: (programme: Part, session: Part) => key('session-card', programme, session),
  timed: (programme: Part, session: Part) => key('timed', programme, session),
  today: () => key('today'),
  floor: (athlete?: Part) => key('floor', athlete),
  floorSession: (athlete: Part, session: Part) => key('floor', athlete, 'session', session),
  floorHistory: (athlete: Part, session: Part) => key('floor', athlete, 'history', session),
  floorSettings: () => key('floor-settings'),
  nextDose: (athlete?: Part) => key('next-dose', athlete),
  load: (athlete?: Part) => key('load', athlete),
  class: (id?: Part) => key('class', id),
  uploads: () => key('uploads'),
  upload: (upload: Part) => key('upload', upload),
  days: () => key('days'),
  day: (day: Part) => key('day', day),
  station: (day: Part, station: Part) => key('station', day, station),
  stations: (set: Part) => key('stations', set),
}
