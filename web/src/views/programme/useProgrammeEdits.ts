import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref, type Ref } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { useForget } from '@/api/queries'
import { useUi } from '@/app/ui'

type View = Schemas['ProgrammeView']

/** Every change a coach makes to a programme; each is saved at once, and its answer is the new sheet. */
export function useProgrammeEdits(view: Ref<View | undefined>, athleteId: string) {
  const ui = useUi()
  const client = useQueryClient()
  const forget = useForget()
  const trouble = ref('')

  function settle(now: View) {
    trouble.value = ''
    client.setQueryData(['programme', now.id], now)
    ui.setSave('saved')
  }
  function fail(error: Error) {
    trouble.value = error.message
    ui.setSave(error instanceof ApiError && error.offline ? 'unsent' : 'refused')
  }
  const common = { onMutate: () => ui.setSave('saving'), onSuccess: settle, onError: fail }
  const path = () => ({ params: { path: { programmeId: view.value?.id ?? '' } } })
  const revision = () => view.value?.revision ?? 0

  const edit = useMutation({
    mutationFn: (e: Schemas['Edit']) =>
      must(api.POST('/programmes/{programmeId}/edits', { ...path(), body: { revision: revision(), edit: e } })),
    ...common,
  })
  const step = useMutation({
    mutationFn: (by: 1 | -1) =>
      must(api.POST('/programmes/{programmeId}/steps', { ...path(), body: { revision: revision(), by } })),
    ...common,
  })
  const issue = useMutation({
    mutationFn: (note: string) =>
      must(api.POST('/programmes/{programmeId}/issue', { ...path(), body: { revision: revision(), note } })),
    ...common,
    onSuccess: async (now) => {
      settle(now)
      await forget(athleteId)
    },
  })
  return { edit, step, issue, trouble }
}
