import { useMutation, useQueryClient } from '@tanstack/vue-query'

import { api, must, type Schemas } from '@/api/client'
import { keys } from '@/api/keys'
import { useBattery } from '@/api/queries'

/** One change of the practice's tests; everything computed with them is asked for again. */
export function useEditBattery() {
  const client = useQueryClient()
  const { data: battery } = useBattery()
  return useMutation({
    mutationFn: (edit: Omit<Schemas['BatteryEdit'], 'revision'>) =>
      must(api.PATCH('/battery', { body: { revision: battery.value?.revision ?? 0, ...edit } })),
    onSuccess: async (b) => {
      client.setQueryData(keys.battery(), b)
      await client.invalidateQueries({ predicate: (q) => q.queryKey[0] !== keys.battery()[0] })
    },
  })
}
