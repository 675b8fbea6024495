import { watchDebounced } from '@vueuse/core'
import { computed, type Ref, ref, type WritableComputedRef } from 'vue'
import { onBeforeRouteLeave, type Router, useRoute, useRouter } from 'vue-router'

/** The address as it stands in the browser: it may be ahead of the route by what was just typed. */
const standing = (router: Router) => router.resolve(router.options.history.location).query

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
      void router.replace({ query: { ...standing(router), [name]: v === otherwise ? undefined : v } })
    },
  })
}

/**
 * The same for a text while it is being typed: it stands in the address once the hand rests, or the page is left. It is
 * written there without going anywhere, so that it never stops somebody who is on the way.
 */
export function useTypedAddress(name: string): Ref<string> {
  const router = useRouter()
  const at = standing(router)[name]
  const text = ref(typeof at === 'string' ? at : '')
  let left = false
  const write = () => {
    if (left) return // what was still waiting is of a page that is gone
    const query = { ...standing(router), [name]: text.value || undefined }
    router.options.history.replace(router.resolve({ query }).fullPath)
  }
  watchDebounced(text, write, { debounce: 250 })
  onBeforeRouteLeave(() => {
    write()
    left = true
  })
  return text
}
