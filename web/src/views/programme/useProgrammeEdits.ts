import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref, type Ref } from 'vue'

import { api, ApiError, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useForget } from '@/api/queries'
import { useUi } from '@/app/ui'

type View = Schemas['ProgrammeView']
type Edit = Schemas['Edit']

/**
 * Every change a coach makes to a programme; each is saved at once, and its answer is the new sheet. Changes made faster
 * than they are saved wait for each other, so that one editor never collides with themselves; what another editor did
 * elsewhere is kept. Where they changed the same place, `clash` asks which of the two stands.
 */
export function useProgrammeEdits(view: Ref<View | undefined>, athleteId: string) {
  const ui = useUi()
  const client = useQueryClient()
  const forget = useForget()
  const trouble = ref('')
  /** A change that was not made because somebody changed the same place, and what they did. */
  const clash = ref<{ edit: Edit; since: string[] }>()
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
    ui.setSave('saved')
  }
  function fail(error: Error) {
    trouble.value = error.message
    ui.setSave('refused') // an edit does not wait: it is made again
    if (error instanceof ApiError && error.status === 409)
      void client.invalidateQueries({ queryKey: keys.programme(held()?.id ?? '') })
  }
  const common = { onMutate: () => ui.setSave('saving'), onSuccess: settle, onError: fail }

  const sending = useMutation({
    mutationFn: ({ edit, over }: { edit: Edit; over: boolean }) =>
      inTurn(() =>
        must(api.POST('/programmes/{programmeId}/edits', { ...path(), body: { revision: revision(), over, edit } })),
      ),
    ...common,
    onError: (error: Error, { edit }) => {
      fail(error)
      if (!(error instanceof ApiError) || error.status !== 409 || error.since.length === 0) return
      trouble.value = ''
      clash.value = { edit, since: error.since }
    },
  })
  const edit = {
    mutate: (e: Edit) => sending.mutate({ edit: e, over: false }),
    /** The same, for who waits for the answer. */
    send: (e: Edit) => sending.mutateAsync({ edit: e, over: false }),
    isPending: sending.isPending,
  }
  /** Makes the change that clashed all the same, or lets theirs stand. */
  function decide(mine: boolean) {
    const it = clash.value
    clash.value = undefined
    if (it && mine) sending.mutate({ edit: it.edit, over: true })
    else ui.setSave('saved')
  }
  const step = useMutation({
    mutationFn: (by: 1 | -1) =>
      inTurn(() => must(api.POST('/programmes/{programmeId}/steps', { ...path(), body: { by } }))),
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
  const withdraw = useMutation({
    mutationFn: (why: string) =>
      inTurn(() => must(api.POST('/programmes/{programmeId}/withdraw', { ...path(), body: { why } }))),
    ...common,
    onSuccess: async () => {
      settle()
      await forget(athleteId)
    },
  })
  return { edit, step, issue, withdraw, clash, decide, trouble }
}
