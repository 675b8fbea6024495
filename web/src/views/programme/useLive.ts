import { useEventSource } from '@vueuse/core'
import { useQueryClient } from '@tanstack/vue-query'
import { computed, ref, watch, type Ref } from 'vue'

import type { Schemas } from '@/api/client'
import { keys } from '@/api/keys'

/** What was done last to a programme, as the server tells it. */
interface Told {
  revision: number
  status: string
  label: string
  by: string
  own: boolean
}

/**
 * Keeps a draft as it is while others change it too: what somebody else does is shown within two seconds, with who did
 * what.
 */
export function useLive(view: Ref<Schemas['ProgrammeView'] | undefined>) {
  const client = useQueryClient()
  const seen = ref('')
  const address = computed(() =>
    view.value?.status === 'draft' ? `/api/v1/programmes/${view.value.id}/live` : undefined,
  )
  const { data } = useEventSource(address, [], { autoReconnect: { delay: 2000 } })
  watch(data, (text) => {
    if (!text) return
    const told = JSON.parse(text) as Told
    const held = view.value && client.getQueryData<Schemas['ProgrammeView']>(keys.programme(view.value.id))
    if (!held || told.revision <= held.revision) return
    if (!told.own && told.label) seen.value = `${told.by}: ${told.label}`
    void client.invalidateQueries({ queryKey: keys.programme(held.id) })
  })
  return { seen }
}
