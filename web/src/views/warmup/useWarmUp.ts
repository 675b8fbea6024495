import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, shallowRef } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { unsentKey } from '@/parts/unsent'

export type WarmUp = Schemas['WarmUp']
export type Request = Schemas['WarmUpRequest']
export type Item = Schemas['WarmUpItem']
export type Kept = Schemas['KeptWarmUp']
export type Phase = Item['phase']

/** The phases in their order, as they are called. */
export const phases: [Phase, string][] = [
  ['raise', 'Raise'],
  ['joints', 'Joints'],
  ['activate', 'Activate'],
  ['separate', 'Separate'],
  ['jump', 'Jump'],
  ['ladder', 'Swing ladder'],
  ['after', 'After'],
]

interface State {
  request: Request
  items: Item[]
  /** Put together by hand: a new request asks before it builds over it. */
  edited: boolean
}

/** What the server is told of an item: what it wrote itself is left out. */
export function bare(item: Item): Item {
  const out = { ...item }
  delete out.dose
  return out
}
/** Whose warm-up it is, and where it is built and judged. */
export interface Source {
  /** Where it is kept in the browser. */
  key: string
  build: (request: Request, now?: string) => Promise<WarmUp>
  judge: (request: Request, items: Item[], mend?: string) => Promise<WarmUp>
  alternatives: (request: Request, items: Item[], phase: Phase) => Promise<Item[]>
  card: (request: Request, items: Item[]) => Promise<Blob>
}
const clone = <T>(v: T): T => JSON.parse(JSON.stringify(v)) as T

/**
 * A warm-up that is being built for a golfer: what it is asked for, its items, what the rules say, and every step back.
 * It is kept in the browser until it is kept by name, so that a reload loses nothing.
 */
export function useWarmUp(source: Source, first: Request) {
  const store = unsentKey(`warmup.${source.key}`)
  const request = ref<Request>(first)
  const made = shallowRef<WarmUp>()
  const edited = ref(false)
  const problem = ref('')
  const back = shallowRef<State[]>([])
  const forward = shallowRef<State[]>([])
  const busy = ref(false)
  let asked = 0

  const now = (): State | undefined =>
    made.value && clone({ request: made.value.request, items: made.value.items, edited: edited.value })

  async function ask(what: () => Promise<WarmUp>, remember: boolean, byHand: boolean) {
    const mine = ++asked
    const before = now()
    busy.value = true
    problem.value = ''
    try {
      const got = await what()
      if (mine !== asked) return
      if (remember && before) {
        back.value = [...back.value.slice(-99), before]
        forward.value = []
      }
      made.value = got
      edited.value = byHand
      request.value = clone(got.request)
      localStorage.setItem(store, JSON.stringify(now()))
    } catch (e) {
      if (mine === asked) problem.value = (e as Error).message
    } finally {
      if (mine === asked) busy.value = false
    }
  }
  const judged = (s: State, mend?: string) => () => source.judge(s.request, s.items.map(bare), mend)

  /** Makes the warm-up anew for what is asked. */
  const build = () => ask(() => source.build(clone(request.value)), true, false)
  /** Makes what there is still time for at this moment before the tee time. */
  function late() {
    const at = new Date()
    const now = `${String(at.getHours()).padStart(2, '0')}:${String(at.getMinutes()).padStart(2, '0')}`
    return ask(() => source.build(clone(request.value), now), true, false)
  }
  /** Takes items as they stand now. */
  const take = (items: Item[]) => ask(judged({ request: request.value, items, edited: true }), true, true)
  /** Applies a rule's fix. */
  const mend = (rule: string) =>
    made.value && ask(judged({ request: made.value.request, items: made.value.items, edited: true }, rule), true, true)

  function restore(to: State) {
    request.value = clone(to.request)
    return ask(judged(to), false, to.edited)
  }
  async function undo() {
    const to = back.value.at(-1)
    const from = now()
    if (!to || !from) return
    back.value = back.value.slice(0, -1)
    forward.value = [...forward.value, from]
    await restore(to)
  }
  async function redo() {
    const to = forward.value.at(-1)
    const from = now()
    if (!to || !from) return
    forward.value = forward.value.slice(0, -1)
    back.value = [...back.value, from]
    await restore(to)
  }
  /** What was left here, or a first one. */
  async function begin() {
    try {
      const left = JSON.parse(localStorage.getItem(store) ?? 'null') as State | null
      if (left?.items.length) return await restore(left)
    } catch {
      localStorage.removeItem(store)
    }
    return build()
  }

  const items = computed(() => made.value?.items ?? [])
  function change(id: string, what: Partial<Item>) {
    return take(items.value.map((i) => (i.id === id ? { ...i, ...what } : i)))
  }
  const remove = (id: string) => take(items.value.filter((i) => i.id !== id))
  /** Moves an item to where another stands. */
  function move(id: string, to: number) {
    const list = [...items.value]
    const from = list.findIndex((i) => i.id === id)
    if (from < 0 || to < 0 || to >= list.length || from === to) return
    const [it] = list.splice(from, 1)
    if (it) list.splice(to, 0, it)
    return take(list)
  }
  function swap(id: string, by: Item) {
    return take(items.value.map((i) => (i.id === id ? { ...by, id: `${by.line ?? 'x'}-${Date.now() % 1e6}` } : i)))
  }
  function add(it: Item) {
    const list = [...items.value]
    const last = list.findLastIndex((i) => i.phase === it.phase)
    const order = phases.map(([p]) => p)
    const at = last >= 0 ? last + 1 : list.findIndex((i) => order.indexOf(i.phase) > order.indexOf(it.phase))
    list.splice(at < 0 ? list.length : at, 0, { ...it, id: `${it.line ?? 'x'}-${Date.now() % 1e6}` })
    return take(list)
  }
  /** The card for the bag, as a PDF. */
  const card = () => source.card(clone(request.value), items.value.map(bare))
  const alternatives = (phase: Phase) => source.alternatives(clone(request.value), items.value.map(bare), phase)

  /** What is asked for: it is built at once, and over a warm-up put together by hand only when the coach says so. */
  const waiting = ref<Request>()
  const wanted = computed({
    get: () => waiting.value ?? request.value,
    set: (r: Request) => {
      waiting.value = r
      if (!edited.value) void anew()
    },
  })
  async function anew() {
    if (waiting.value) request.value = waiting.value
    waiting.value = undefined
    await build()
  }
  /** A request waits for the coach's word. */
  const asking = computed({
    get: () => edited.value && waiting.value !== undefined,
    set: (open: boolean) => {
      if (!open) waiting.value = undefined
    },
  })
  /** Takes a kept warm-up in the place of what is there. */
  function load(k: { request: Request; items: Item[] }) {
    waiting.value = undefined
    return ask(judged({ request: k.request, items: k.items, edited: true }), true, true)
  }
  return {
    request,
    made,
    edited,
    problem,
    busy,
    items,
    canUndo: computed(() => back.value.length > 0),
    canRedo: computed(() => forward.value.length > 0),
    begin,
    build,
    late,
    take,
    mend,
    undo,
    redo,
    restore,
    change,
    remove,
    move,
    swap,
    add,
    alternatives,
    card,
    wanted,
    anew,
    asking,
    load,
  }
}
export type Bench = ReturnType<typeof useWarmUp>

/** The warm-ups kept by name, and the templates. */
export function useKept(athlete: string) {
  const client = useQueryClient()
  const path = { params: { path: { athleteId: athlete } } }
  const list = useQuery({
    queryKey: keys.warmups(athlete),
    queryFn: () => must(api.GET('/athletes/{athleteId}/warmups', path)),
  })
  const done = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keys.warmups(athlete) }),
      client.invalidateQueries({ queryKey: keys.athlete(athlete) }),
    ])
  const keep = useMutation({
    mutationFn: (w: { name: string; request: Request; items: Item[] }) =>
      must(api.POST('/athletes/{athleteId}/warmups', { ...path, body: { ...w, items: w.items.map(bare) } })),
    onSuccess: done,
  })
  const drop = useMutation({
    mutationFn: (id: string) => must(api.DELETE('/warmups/{warmupId}', { params: { path: { warmupId: id } } })),
    onSuccess: done,
  })
  return { list: list.data, keep, drop }
}
