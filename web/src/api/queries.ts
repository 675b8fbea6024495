import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { type MaybeRefOrGetter, toValue, watch } from 'vue'

import type { KeptGolfer } from '@/offline/answers'

import { api, ApiError, must, type Schemas } from './client'
import { keys } from './keys'

/** Who is signed in; an error of status 401 means nobody. */
export function useSession() {
  return useQuery({
    queryKey: keys.session(),
    queryFn: () => must(api.GET('/session')),
    retry: false,
    staleTime: 60_000,
  })
}

export function useMeta() {
  return useQuery({ queryKey: keys.meta(), queryFn: () => must(api.GET('/meta')), staleTime: Infinity })
}

/** The squad with each golfer's season, or those put away. Where only names are needed: useGolfers. */
export function useSquad(archived: MaybeRefOrGetter<boolean> = false, enabled: () => boolean = () => true) {
  return useQuery({
    enabled,
    queryKey: keys.squad(() => (toValue(archived) ? 'away' : 'here')),
    queryFn: () => must(api.GET('/athletes', { params: { query: { archived: toValue(archived) || undefined } } })),
  })
}

/** The golfers whose name holds what is typed, a few of them: the server looks, however many there are. */
export function useGolfers(text: MaybeRefOrGetter<string>, most = 20) {
  return useQuery({
    queryKey: keys.golfers(text),
    queryFn: () => must(api.GET('/golfers', { params: { query: { q: toValue(text) || undefined, most } } })),
    placeholderData: (before) => before,
    staleTime: 10_000,
  })
}

export function useAthlete(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.athlete(id),
    queryFn: () => must(api.GET('/athletes/{athleteId}', { params: { path: { athleteId: toValue(id) } } })),
    enabled: () => toValue(id) !== '',
  })
}

export function useRead(id: MaybeRefOrGetter<string>, school: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.read(id, school),
    queryFn: () =>
      must(
        api.GET('/athletes/{athleteId}/read', {
          params: { path: { athleteId: toValue(id) }, query: { school: toValue(school) || undefined } },
        }),
      ),
    placeholderData: (before) => before,
  })
}

export function useScreens(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.screens(id),
    queryFn: () => must(api.GET('/athletes/{athleteId}/screens', { params: { path: { athleteId: toValue(id) } } })),
  })
}

export function useProgrammes(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.programmes(id),
    queryFn: () => must(api.GET('/athletes/{athleteId}/programmes', { params: { path: { athleteId: toValue(id) } } })),
  })
}

export function useProgramme(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.programme(id),
    queryFn: () => must(api.GET('/programmes/{programmeId}', { params: { path: { programmeId: toValue(id) } } })),
    enabled: () => toValue(id) !== '',
  })
}

/**
 * Calls back when the practice's data change, whoever changes them: the version of the data is asked for every second
 * while the page is looked at.
 */
export function useChanges(changed: () => void) {
  const { data } = useQuery({
    queryKey: keys.version(),
    queryFn: () => must(api.GET('/version')),
    refetchInterval: 1000,
    staleTime: 0,
    retry: false,
  })
  watch(
    () => data.value?.version,
    (now, before) => {
      if (now !== undefined && before !== undefined && now !== before) changed()
    },
  )
}

export function useBattery() {
  return useQuery({ queryKey: keys.battery(), queryFn: () => must(api.GET('/battery')) })
}

/** Everything computed from a golfer's facts or screens is asked for again. */
export function useForget() {
  const client = useQueryClient()
  return async (athleteId: string) => {
    await Promise.all(
      [
        keys.squad(),
        ['athlete', athleteId],
        ['read', athleteId],
        ['screens', athleteId],
        keys.season(athleteId),
        keys.progress(athleteId),
        keys.programmes(athleteId),
        keys.programme(),
      ].map((queryKey) => client.invalidateQueries({ queryKey })),
    )
  }
}

export function useSaveAthlete(id: MaybeRefOrGetter<string>) {
  const client = useQueryClient()
  const forget = useForget()
  return useMutation({
    meta: { waits: true },
    mutationFn: async (body: Schemas['AthleteChange']) => {
      // A golfer as the device kept them has no answers to health questions: they would be saved as none.
      if (client.getQueryData<KeptGolfer>(keys.athlete(toValue(id)))?.withoutAnswers) throw new ApiError(0, undefined)
      return must(api.PUT('/athletes/{athleteId}', { params: { path: { athleteId: toValue(id) } }, body }))
    },
    onSuccess: async (saved) => {
      // An answer asked for before this save would bring back what was there before it.
      await client.cancelQueries({ queryKey: keys.athlete(saved.id), exact: true })
      client.setQueryData(keys.athlete(saved.id), saved)
      await forget(saved.id)
    },
  })
}
