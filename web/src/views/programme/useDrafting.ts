import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { useRouter } from 'vue-router'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useForget } from '@/api/queries'

/** What a draft is made from: a school, or an issued version. */
export interface DraftFrom {
  school?: string
  from?: string
}

/** Whether a draft would have to assume something; under a red flag nothing is drafted, whatever is said. */
const lacksFacts = (g: Schemas['Athlete']) => g.clearanceStatus.state !== 'red-flag' && g.assumed.length > 0

/**
 * Drafting a golfer's programme, and discarding a draft. A draft that was worked on is not drafted over without a
 * question (`asking`, then `draftOver`); Undo brings it back.
 */
export function useDrafting(
  athleteId: string,
  list: Ref<Schemas['ProgrammeRow'][] | undefined>,
  view: Ref<Schemas['ProgrammeView'] | undefined>,
  golfer: Ref<Schemas['Athlete'] | undefined>,
) {
  const router = useRouter()
  const client = useQueryClient()
  const forget = useForget()
  const show = (programmeId?: string) =>
    router.push({ name: 'programme', params: { id: athleteId, ...(programmeId ? { programmeId } : {}) } })

  const draft = useMutation({
    mutationFn: (body: DraftFrom) =>
      must(api.POST('/athletes/{athleteId}/programmes', { params: { path: { athleteId } }, body })),
    onSuccess: async (v) => {
      client.setQueryData(keys.programme(v.id), v)
      await forget(athleteId)
      void show(v.id)
    },
  })
  /** A plan that was written to a file, brought in as the draft. */
  const bringIn = useMutation({
    mutationFn: async (file: File) =>
      must(
        api.POST('/athletes/{athleteId}/programmes/import', {
          params: { path: { athleteId } },
          body: file as unknown as string,
          bodySerializer: (body) => body,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    onSuccess: async (v) => {
      client.setQueryData(keys.programme(v.id), v)
      await forget(athleteId)
      void show(v.id)
    },
  })
  const waiting = ref<DraftFrom>()
  /** What a draft would change of the one that is open: shown before anything is. */
  const preview = useQuery({
    queryKey: keys.preview(
      athleteId,
      () => waiting.value?.school ?? waiting.value?.from ?? '',
      () => view.value?.revision ?? 0,
    ),
    queryFn: () =>
      must(
        api.POST('/athletes/{athleteId}/programmes/preview', {
          params: { path: { athleteId } },
          body: waiting.value ?? {},
        }),
      ),
    enabled: () => waiting.value !== undefined,
    staleTime: 0,
  })
  const asking = computed({
    get: () => waiting.value !== undefined,
    set: (open: boolean) => {
      if (!open) waiting.value = undefined
    },
  })
  /** A first draft that would have to assume something asks first. */
  const lacking = computed({
    get: () => first.value !== undefined,
    set: (open: boolean) => {
      if (!open) first.value = undefined
    },
  })
  const first = ref<DraftFrom>()
  function draftFirst() {
    draft.mutate(first.value ?? {})
    first.value = undefined
  }
  function draftAgain(body: DraftFrom) {
    if (list.value?.length === 0 && golfer.value && lacksFacts(golfer.value)) {
      first.value = body
      return
    }
    const open = list.value?.some((p) => p.status === 'draft')
    if (open) waiting.value = body
    else draft.mutate(body)
  }
  function draftOver() {
    if (waiting.value) draft.mutate(waiting.value)
    waiting.value = undefined
  }

  const discarding = ref(false)
  const discard = useMutation({
    mutationFn: () =>
      must(api.DELETE('/programmes/{programmeId}', { params: { path: { programmeId: view.value?.id ?? '' } } })),
    onSuccess: async () => {
      discarding.value = false
      await client.invalidateQueries({ queryKey: keys.programmes(athleteId) })
      await forget(athleteId)
      void show()
    },
  })
  return { draft, preview, asking, lacking, draftFirst, draftAgain, draftOver, discarding, discard, bringIn }
}
