import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, watch } from 'vue'

import { api, type ApiError, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useChanges, useForget } from '@/api/queries'
import { useUi } from '@/app/ui'
import { shownUnit, type Units, useUnits } from '@/parts/units'

import { cellKey, type Test } from './cells'
import { createTyping } from './typing'

type Screen = Schemas['Screen']

/** One golfer's screen being typed, by one person or several at once. */
export function useSheet(screenId: string, athleteId: string, tests: () => Test[]) {
  const ui = useUi()
  const units = useUnits()
  const client = useQueryClient()
  const forget = useForget()
  const queryKey = keys.screen(screenId)

  const { data: screen, error } = useQuery({
    queryKey,
    queryFn: () => must(api.GET('/screens/{screenId}', { params: { path: { screenId } } })),
    // Replaced whole, never changed in place: nothing in it needs to be watched.
    shallow: true,
  })
  // What others write shows within two seconds.
  useChanges(() => client.invalidateQueries({ queryKey }))

  const saved = computed(() => trialsByKey(screen.value?.trials ?? []))

  async function patch(body: Schemas['ScreenChange']) {
    const held = screen.value
    const now = await must(
      api.PATCH('/screens/{screenId}', { params: { path: { screenId } }, body: { ...body, held: held?.revision } }),
    )
    // An answer asked for before this save would bring back what was there before it.
    await client.cancelQueries({ queryKey })
    const have = client.getQueryData<Screen>(queryKey)
    const whole = merged(have, now)
    if (whole) client.setQueryData(queryKey, whole)
    else await client.invalidateQueries({ queryKey })
    forgetLater()
  }
  // Other views' data wait until typing rests: the result of what was typed comes first.
  const forgetLater = useDebounceFn(() => forget(athleteId), 1200)

  const typing = createTyping({
    name: `screen.${screenId}`,
    saved: () => saved.value,
    save: (cells) => patch({ cells }),
    unitOf: (id) => unitOf(tests(), id, units.value),
    ready: () => screen.value !== undefined,
  })

  /** Saves what the screen was done under; only what is given changes. */
  async function under(circumstances: Schemas['Circumstances']) {
    ui.setSave('saving')
    try {
      await patch({ circumstances })
      ui.setSave('saved')
    } catch (e) {
      ui.setSave((e as ApiError).offline ? 'unsent' : 'refused', (e as ApiError).message)
    }
  }

  watch(
    screen,
    (s, old) => {
      if (s && !old && typing.typed.size > 0) typing.later(0)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    typing.close()
    void forget(athleteId)
  })

  return { screen, error, saved, under, ...typing }
}

/** An answer that is only a difference laid over the screen it differs from; nothing when that is not the one held. */
export function merged(have: Screen | undefined, now: Screen): Screen | undefined {
  if (now.since === undefined) return now
  if (have?.revision !== now.since) return undefined
  const trials = new Map(have.trials.map((t) => [cellKey(t), t]))
  for (const c of now.cleared ?? []) trials.delete(cellKey(c))
  for (const t of now.trials) trials.set(cellKey(t), t)
  const reads = new Map(now.tests.map((t) => [t.test, t]))
  const whole = { ...now, trials: [...trials.values()], tests: have.tests.map((t) => reads.get(t.test) ?? t) }
  delete whole.since
  delete whole.cleared
  return whole
}

export function trialsByKey(trials: Schemas['Trial'][]): Map<string, Schemas['Trial']> {
  return new Map(trials.map((t) => [cellKey(t), t]))
}

/** The unit a test's values are typed in where they name none. */
export function unitOf(tests: Test[], id: string, units: Units): string {
  const t = tests.find((x) => x.id === id)
  return t ? shownUnit(t.unit, units) : ''
}
