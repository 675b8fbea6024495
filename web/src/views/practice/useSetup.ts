import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useSavedForm } from '@/parts/savedForm'

type Practice = Schemas['Practice']

/** The form of what the practice says of itself. */
export function useSetup() {
  const client = useQueryClient()
  const {
    data,
    error: loadError,
    refetch,
  } = useQuery({
    queryKey: keys.practice(),
    queryFn: () => must(api.GET('/practice')),
  })
  const save = useMutation({
    meta: { waits: true },
    mutationFn: (body: Practice) => must(api.PUT('/practice', { body })),
    onSuccess: (now) => {
      client.setQueryData(keys.practice(), now)
      // Units, clock and places are in what every other page shows.
      void client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== keys.practice()[0] })
    },
  })
  const form = useSavedForm<Practice, Practice>({
    name: 'practice',
    data,
    refetch,
    formOf: (p) => JSON.parse(JSON.stringify(p)) as Practice,
    save: (changed) => save.mutateAsync(changed),
  })
  return { loadError, ...form }
}
