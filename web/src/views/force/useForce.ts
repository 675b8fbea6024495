import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { type MaybeRefOrGetter, toValue } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'

import { readTrace } from './trace'

export type Recording = Schemas['Recording']
export type ForceSettings = Schemas['ForceSettings']

export function useForcePage(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.force(id),
    queryFn: () => must(api.GET('/athletes/{athleteId}/force', { params: { path: { athleteId: toValue(id) } } })),
  })
}

export function useRecording(id: MaybeRefOrGetter<string>) {
  return useQuery({
    queryKey: keys.recording(id),
    queryFn: () => must(api.GET('/recordings/{recordingId}', { params: { path: { recordingId: toValue(id) } } })),
    enabled: () => toValue(id) !== '',
  })
}

/** The signals of a recording as it is analysed now. */
export function useTrace(recording: MaybeRefOrGetter<Recording | undefined>) {
  return useQuery({
    queryKey: keys.trace(
      () => toValue(recording)?.id ?? '',
      () => JSON.stringify(toValue(recording)?.settings ?? {}),
    ),
    queryFn: async () => {
      const r = await fetch(`/api/v1/recordings/${toValue(recording)?.id}/trace`)
      if (!r.ok) throw new ApiError(r.status, (await r.json().catch(() => undefined)) as Schemas['Problem'])
      return readTrace(await r.arrayBuffer())
    },
    enabled: () => !!toValue(recording),
    staleTime: Infinity,
    gcTime: 60_000,
  })
}

/** What can be done to a golfer's recordings. Screens and reads follow. */
export function useForceEdits(athleteId: MaybeRefOrGetter<string>) {
  const client = useQueryClient()
  const moved = async () => {
    await Promise.all(
      [
        keys.force(toValue(athleteId)),
        keys.screens(),
        keys.screen(),
        keys.read(),
        keys.athlete(toValue(athleteId)),
      ].map((queryKey) => client.invalidateQueries({ queryKey })),
    )
  }
  const change = useMutation({
    mutationFn: ({
      id,
      ...body
    }: {
      id: string
      settings?: ForceSettings
      keep?: boolean
      fill?: boolean
      club?: string
    }) => must(api.PATCH('/recordings/{recordingId}', { params: { path: { recordingId: id } }, body })),
    onSuccess: (r) => {
      client.setQueryData(keys.recording(r.id), r)
      return moved()
    },
  })
  const remove = useMutation({
    mutationFn: (id: string) =>
      must(api.DELETE('/recordings/{recordingId}', { params: { path: { recordingId: id } } })),
    onSuccess: moved,
  })
  const recompute = useMutation({
    mutationFn: (body: ForceSettings) =>
      must(
        api.POST('/athletes/{athleteId}/recordings/recompute', {
          params: { path: { athleteId: toValue(athleteId) } },
          body,
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keys.recording() })
      await moved()
    },
  })
  const windows = useMutation({
    mutationFn: (limits: Record<string, number[]>) => must(api.PUT('/force-windows', { body: { limits } })),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: keys.recording() })
      await moved()
    },
  })
  return { change, remove, recompute, windows, moved }
}

/** Sends a file as it is. */
export function fileBody(file: Blob) {
  return {
    headers: { 'Content-Type': 'application/octet-stream' },
    body: '' as string,
    bodySerializer: () => file,
  }
}

/** The words of a doubt. */
export const flagWords: Record<string, string> = {
  gapsFilled: 'short gaps filled',
  channelRefused: 'a channel left out',
  resampled: 'uneven times',
  feetAssumed: 'feet assumed',
  forceOnPlate: 'turned round',
  drift: 'the zero drifts',
  humTakenOff: 'mains hum taken off',
  shortQuietStance: 'short quiet stance',
  noisyQuietStance: 'noisy stance',
  noFlight: 'no flight',
  stepOff: 'stepped off',
  doubleContact: 'double contact',
  severalJumps: 'several jumps',
  hiddenCountermovement: 'hidden countermovement',
  falseStart: 'false start',
  heightsDisagree: 'heights disagree',
  noLanding: 'no landing',
  massDiffers: 'mass differs',
  topEstimated: 'top estimated',
  noRotational: 'no rotational effort',
  freeMomentsMissing: 'no free moments',
  noHorizontalForces: 'no horizontal forces',
  onePlate: 'one plate',
  peakAtEdge: 'a peak at the edge',
  endsBeforeFinish: 'ends early',
}
