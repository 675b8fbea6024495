import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'

import { api, must } from '@/api/client'
import { keys } from '@/api/keys'
import { count } from '@/parts/words'

/** What is done with several golfers at once, and taken back while it is fresh. */
export function useSquadActions() {
  const client = useQueryClient()
  /** What was done last, and how it is taken back. */
  const done = ref<{ text: string; undo: () => Promise<unknown> }>()
  const again = () =>
    Promise.all(
      [keys.squad(), keys.golfers(), keys.athlete()].map((queryKey) => client.invalidateQueries({ queryKey })),
    )

  const put = (golfers: string[], away: boolean) =>
    must(api.POST('/squad/archive', { body: { golfers, away } })).finally(() => void again())
  const place = (golfers: string[], group: string, within: boolean) =>
    must(api.POST('/squad/groups', { body: { golfers, group, in: within } })).finally(() => void again())

  const archive = useMutation({
    mutationFn: (o: { golfers: string[]; away: boolean }) => put(o.golfers, o.away),
    onSuccess: (n, o) => {
      const text = `${count(n.golfers, 'golfer')} ${o.away ? 'put away' : 'back in the squad'}`
      done.value = { text, undo: () => put(o.golfers, !o.away) }
    },
  })
  const group = useMutation({
    mutationFn: (o: { golfers: string[]; group: string; in: boolean }) => place(o.golfers, o.group, o.in),
    onSuccess: (n, o) => {
      const text = `${count(n.golfers, 'golfer')} ${o.in ? 'put into' : 'taken out of'} ${o.group}`
      done.value = { text, undo: () => place(o.golfers, o.group, !o.in) }
    },
  })
  /** Takes back what was done last; where it cannot be, that is said and it can be tried again. */
  const back = useMutation({
    mutationFn: async () => done.value?.undo(),
    onSuccess: () => (done.value = undefined),
  })
  const wrong = computed(() => archive.error.value ?? group.error.value ?? back.error.value)
  return { archive, group, back, done, wrong }
}
