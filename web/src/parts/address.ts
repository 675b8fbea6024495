import { computed, type WritableComputedRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'

/**
 * What is chosen on a page, kept in its address: it stays on the way back, can be sent to somebody, and is there after
 * a reload. An empty choice leaves the address as it would be without it.
 */
export function useAddress(name: string, otherwise = ''): WritableComputedRef<string> {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => {
      const v = route.query[name]
      return typeof v === 'string' ? v : otherwise
    },
    set: (v) => {
      if ((route.query[name] ?? otherwise) === v) return
      const query = { ...route.query, [name]: v === otherwise ? undefined : v }
      void router.replace({ query, hash: route.hash })
    },
  })
}
