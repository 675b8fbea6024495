import { onBeforeUnmount, reactive, type Ref, watch } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import type { Units } from '@/parts/units'
import type { Test } from '@/views/screen/cells'
import { createTyping, type Typing } from '@/views/screen/typing'
import { trialsByKey, unitOf } from '@/views/screen/useSheet'

interface Options {
  dayId: string
  rows: Ref<Schemas['StationRow'][]>
  tests: () => Test[]
  units: () => Units
  ready: () => boolean
  /** A golfer's cells were saved. */
  saved: (athleteId: string) => Promise<void>
}

/**
 * Typing at a station: each golfer's cells are typed and saved by themselves, and what was typed last, by whom, is
 * taken back first.
 */
export function useStationTyping(o: Options) {
  /** Typing of each golfer, made when the golfer is first met. */
  const typings = reactive(new Map<string, Typing>())
  const order = reactive<string[]>([])
  const undone = reactive<string[]>([])

  function typingOf(athleteId: string): Typing {
    const known = typings.get(athleteId)
    if (known) return known
    const typing = createTyping({
      name: `station.${o.dayId}.${athleteId}`,
      saved: () => trialsByKey(o.rows.value.find((r) => r.golfer.id === athleteId)?.trials ?? []),
      save: async (cells) => {
        await must(
          api.PATCH('/days/{dayId}/golfers/{athleteId}', {
            params: { path: { dayId: o.dayId, athleteId } },
            body: { cells },
          }),
        )
        await o.saved(athleteId)
      },
      unitOf: (test) => unitOf(o.tests(), test, o.units()),
      ready: o.ready,
    })
    if (typing.typed.size > 0) typing.later(0)
    typings.set(athleteId, typing)
    return typing
  }
  watch(o.rows, (rows) => rows.forEach((r) => typingOf(r.golfer.id)), { immediate: true })
  onBeforeUnmount(() => typings.forEach((t) => t.close()))

  function put(athleteId: string, cells: Schemas['CellChange'][]) {
    typingOf(athleteId).put(cells)
    order.push(athleteId)
    undone.length = 0
  }
  function takeBack() {
    const id = order.pop()
    if (!id) return
    typingOf(id).takeBack()
    undone.push(id)
  }
  function bringBack() {
    const id = undone.pop()
    if (!id) return
    typingOf(id).bringBack()
    order.push(id)
  }
  return { typings, typingOf, order, undone, put, takeBack, bringBack }
}
