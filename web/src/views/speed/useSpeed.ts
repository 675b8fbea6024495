import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { type MaybeRefOrGetter, toValue } from 'vue'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useForget } from '@/api/queries'

export type Page = Schemas['SpeedPage']
export type Series = Schemas['SpeedSeries']
export type Swing = Schemas['SpeedSwing']
export type Kind = Series['kind']

/** Everything a golfer's swings say. */
export function useSpeedPage(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.speed(id),
    queryFn: () => must(api.GET('/athletes/{athleteId}/speed', { params: { path: { athleteId: toValue(id) } } })),
    placeholderData: (before) => before,
  })
}

/** What is done with a series as a whole: taken away, brought back, put into the screen. */
export function useSeriesEdits(athlete: MaybeRefOrGetter<string>) {
  const client = useQueryClient()
  const forget = useForget()
  const done = async () => {
    await Promise.all([client.invalidateQueries({ queryKey: keys.speed(athlete) }), forget(toValue(athlete))])
  }
  const remove = useMutation({
    mutationFn: (id: string) => must(api.DELETE('/speed-series/{seriesId}', { params: { path: { seriesId: id } } })),
    onSuccess: done,
  })
  const bringBack = useMutation({
    mutationFn: (s: Series) =>
      must(
        api.POST('/athletes/{athleteId}/speed-series', {
          params: { path: { athleteId: toValue(athlete) } },
          body: {
            id: s.id,
            kind: s.kind,
            date: s.date,
            before: s.before,
            raised: s.raised,
            note: s.note,
            swings: s.swings,
            ...(s.inTrial ? { inTrial: s.inTrial } : {}),
          },
        }),
      ),
    onSuccess: done,
  })
  const toScreen = useMutation({
    mutationFn: (id: string) =>
      must(api.POST('/speed-series/{seriesId}/screen', { params: { path: { seriesId: id } } })),
    onSuccess: done,
  })
  const startTrial = useMutation({
    mutationFn: (body: { a: string; b: string; way: 'days' | 'halves' }) =>
      must(
        api.POST('/athletes/{athleteId}/warmup-trials', { params: { path: { athleteId: toValue(athlete) } }, body }),
      ),
    onSuccess: done,
  })
  const removeTrial = useMutation({
    mutationFn: (id: string) => must(api.DELETE('/warmup-trials/{trialId}', { params: { path: { trialId: id } } })),
    onSuccess: done,
  })
  return { remove, bringBack, toScreen, startTrial, removeTrial, done }
}
