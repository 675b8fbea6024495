import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'

import { api, must } from '@/api/client'
import { createOutbox } from '@/parts/outbox'

import type { Kind, Series, Swing } from './useSpeed'

/** A series that is being made: what it begins with, sent once before its first swing. */
export interface Begun {
  id: string
  kind: Kind
  before: string
  raised: boolean
  /** Of a warm-up trial: which, and how fast it felt before the first number was seen. */
  trial?: string
  felt?: number
}

interface Entry {
  series: Begun
  swing: Swing
}

/** What the next swing is made with. */
export type Making = Pick<Swing, 'implement' | 'side' | 'intent' | 'set'> & { drill: string }

const REST_MS = 60

/**
 * Swings of the series that is being made. Each one goes out through the outbox the moment it is typed or heard, by an
 * id of its own, so that a lost network, a reload or a closed tab loses none and none is kept twice.
 */
export function useSeries(athlete: string, saved: (s: Series) => void) {
  const begun = ref<Begun>()
  const server = shallowRef<Series>()
  const refused = ref('')
  const outbox = createOutbox<Entry>({
    name: `speed.${athlete}`,
    keyOf: (e) => e.swing.id,
    ready: () => true,
    async send(entries) {
      for (const id of new Set(entries.map((e) => e.series.id))) {
        const of = entries.filter((e) => e.series.id === id)
        const series = of[0]?.series
        if (!series) continue
        if (server.value?.id !== id) {
          await must(
            api.POST('/athletes/{athleteId}/speed-series', { params: { path: { athleteId: athlete } }, body: series }),
          )
        }
        const answer = await must(
          api.PUT('/speed-series/{seriesId}/swings', {
            params: { path: { seriesId: id } },
            body: { swings: of.map((e) => e.swing) },
          }),
        )
        if (begun.value?.id === id) server.value = answer
        saved(answer)
      }
    },
    refused(error, batch) {
      refused.value = error.message
      for (const [key] of batch) outbox.drop(key)
    },
  })
  onScopeDispose(() => outbox.close())
  if (outbox.waiting.size > 0) {
    // Left from before: a reload or a lost network.
    begun.value = [...outbox.waiting.values()].at(-1)?.series
    outbox.later(0)
  }

  /** The swings as they stand: what the server has, and over it what is on its way. */
  const swings = computed<Swing[]>(() => {
    const list = server.value?.id === begun.value?.id ? [...(server.value?.swings ?? [])] : []
    for (const e of outbox.waiting.values()) {
      if (e.series.id !== begun.value?.id) continue
      const at = list.findIndex((s) => s.id === e.swing.id)
      if (at >= 0) list[at] = e.swing
      else list.push(e.swing)
    }
    return list
  })
  const last = computed(() => swings.value.at(-1))

  function begin(kind: Kind, before = '', raised = false, of: Pick<Begun, 'trial' | 'felt'> = {}) {
    begun.value = { id: crypto.randomUUID(), kind, before, raised, ...of }
    server.value = undefined
    refused.value = ''
  }
  function goOn(s: Series) {
    begun.value = { id: s.id, kind: s.kind, before: s.before, raised: s.raised }
    server.value = s
  }
  function put(swing: Swing) {
    if (!begun.value) begin('training')
    if (!begun.value) return
    refused.value = ''
    outbox.put({ series: { ...begun.value }, swing })
    outbox.later(REST_MS)
  }
  function add(making: Making, clubMps: number, seen: Partial<Swing> = {}) {
    put({ id: crypto.randomUUID(), ...making, atS: -1, clubMps, ...seen })
  }
  const change = (swing: Swing, what: Partial<Swing>) => put({ ...swing, ...what })

  watch(server, (s) => {
    if (s && begun.value?.id !== s.id) server.value = undefined
  })
  return { begun, server, swings, last, refused, begin, goOn, add, change }
}
