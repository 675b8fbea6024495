import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref, type Ref } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useForget } from '@/api/queries'
import { useUi } from '@/app/ui'

type View = Schemas['ProgrammeView']

/**
 * Every change a coach makes to a programme; each is saved at once, and its answer is the new sheet. Changes made faster
 * than they are saved wait for each other, so that one editor never collides with themselves; where another editor was
 * faster, the sheet is shown as it is then, with what was done.
 */
export function useProgrammeEdits(view: Ref<View | undefined>, athleteId: string) {
  const ui = useUi()
  const client = useQueryClient()
  const forget = useForget()
  const trouble = ref('')
  /** What somebody else did meanwhile. */
  const since = ref<string[]>([])
  let last: Promise<unknown> = Promise.resolve()

  /** The programme as it was last answered, whichever change answered it. */
  const held = () => client.getQueryData<View>(keys.programme(view.value?.id ?? '')) ?? view.value
  const path = () => ({ params: { path: { programmeId: held()?.id ?? '' } } })
  const revision = () => held()?.revision ?? 0

  /** Sends a change when those before it are saved; one that was refused does not hold up the next. */
  function inTurn(send: () => Promise<View>): Promise<View> {
    const turn = last.then(send).then((now) => {
      client.setQueryData(keys.programme(now.id), now)
      return now
    })
    last = turn.catch(() => undefined)
    return turn
  }
  function settle() {
    trouble.value = ''
    since.value = []
    ui.setSave('saved')
  }
  function fail(error: Error) {
    trouble.value = error.message
    since.value = []
    ui.setSave(error instanceof ApiError && error.offline ? 'unsent' : 'refused')
    if (!(error instanceof ApiError) || error.status !== 409) return
    if (error.since.length > 0) {
      trouble.value =
        'Somebody else changed this programme meanwhile; your change was not made. It is shown as it is now:'
      since.value = error.since
    }
    void client.invalidateQueries({ queryKey: keys.programme(held()?.id ?? '') })
  }
  const common = { onMutate: () => ui.setSave('saving'), onSuccess: settle, onError: fail }

  const edit = useMutation({
    mutationFn: (e: Schemas['Edit']) =>
      inTurn(() =>
        must(api.POST('/programmes/{programmeId}/edits', { ...path(), body: { revision: revision(), edit: e } })),
      ),
    ...common,
  })
  const step = useMutation({
    mutationFn: (by: 1 | -1) =>
      inTurn(() =>
        must(api.POST('/programmes/{programmeId}/steps', { ...path(), body: { revision: revision(), by } })),
      ),
    ...common,
  })
  const issue = useMutation({
    mutationFn: (note: string) =>
      inTurn(() =>
        must(api.POST('/programmes/{programmeId}/issue', { ...path(), body: { revision: revision(), note } })),
      ),
    ...common,
    onSuccess: async () => {
      settle()
      await forget(athleteId)
    },
  })
  return { edit, step, issue, trouble, since }
}
