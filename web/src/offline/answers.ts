import type { Middleware } from 'openapi-fetch'
import { computed, shallowReactive } from 'vue'

import { queryClient, type Schemas } from '@/api/client'

import { person } from '@/parts/unsent'

import { keep, kept } from './kept'

/**
 * What views were answered is kept on the device, so that they open without a network as they were: the answers a view
 * is drawn from, and none that is made for a moment. Today and the floor keep what they show themselves.
 */
const ID = '[0-9a-f-]{36}'
const SHOWN = new RegExp(
  `^/(session|meta|practice|schools|rules|battery|repeats|stations|implements|uploads|days|athletes|floor/settings` +
    `|days/${ID}|days/${ID}/stations/\\d+|screens/${ID}|programmes/${ID}|recordings/${ID}|recordings/${ID}/trace|classes/${ID}` +
    `|programmes/${ID}/sessions/[\\w-]+/(timed|warmup|card)` +
    `|athletes/${ID}|athletes/${ID}/(read|screens|programmes|force|compare|season|progress|speed|implements|warmups|load))$`,
)
/** Marks an answer as the device's. */
const KEPT = 'X-Kept'
/** Longer answers are not kept. */
const MOST = 2_000_000

/** A golfer as kept: without the answers to health questions, which stay on no device. */
export type KeptGolfer = Schemas['Athlete'] & { withoutAnswers?: true }
const GOLFER = new RegExp(`^/athletes/${ID}$`)
/** A sentence that repeats what was answered to a health question, wherever it stands in an answer. */
const REPEATS = /"(?:[^"\\]|\\.)*(?:Red flag:|Answered yes)(?:[^"\\]|\\.)*"/g
const NOT_KEPT = '"What was answered to the health questions is shown with the connection."'
function strip(path: string, text: string): unknown {
  const value = JSON.parse(text.replace(REPEATS, NOT_KEPT)) as unknown
  if (!GOLFER.test(path)) return value
  const golfer = value as KeptGolfer
  return { ...golfer, clearance: { answeredOn: '', yes: [] }, withoutAnswers: true }
}

/** What was answered from the device since the connection went, and how old it is. */
const since = shallowReactive(new Map<string, number>())
/** When the oldest was the server's; undefined while there is a connection. */
export const oldest = computed(() => (since.size > 0 ? Math.min(...since.values()) : undefined))

const nameOf = (request: Request) => {
  const { pathname, search } = new URL(request.url)
  const path = pathname.replace(/^\/api\/v1/, '')
  return request.method === 'GET' && SHOWN.test(path) ? { path, name: `answer ${path}${search}` } : undefined
}
/** After what the page is doing now. */
const later = (act: () => void) =>
  'requestIdleCallback' in globalThis ? requestIdleCallback(act, { timeout: 2000 }) : setTimeout(act)

async function fromDevice(request: Request): Promise<Response | undefined> {
  const of = nameOf(request)
  const was = of && (await kept<unknown>(of.name))
  if (!of || !was) return undefined
  since.set(of.name, was.at)
  return new Response(JSON.stringify(was.value), {
    status: 200,
    headers: { 'Content-Type': 'application/json', [KEPT]: '1' },
  })
}

/** Keeps what is answered, and answers with it where the server cannot be reached. */
export const keptAnswers: Middleware = {
  async onResponse({ request, response }) {
    const of = nameOf(request)
    if (response.headers.has(KEPT)) return undefined
    if (response.ok && since.size > 0) {
      // There is a connection again: what is shown is asked for anew.
      since.clear()
      void queryClient.invalidateQueries()
    }
    if (!of) return undefined
    if ([502, 503, 504].includes(response.status)) return fromDevice(request)
    if (!response.ok) return undefined
    const copy = response.clone()
    const who = person()
    later(() => {
      void copy.text().then((text) => {
        // Somebody else may have signed in meanwhile: it is not theirs.
        if (text.length <= MOST && person() === who) void keep(of.name, strip(of.path, text))
      })
    })
    return undefined
  },
  onError: ({ request }) => fromDevice(request),
}
