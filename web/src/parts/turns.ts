import { onScopeDispose, type Ref, ref, watch } from 'vue'

/**
 * How many parts of a long page may be drawn: the first ones at once, more in every turn after, until all are. The page
 * answers in between, and what is seen first is there first. While the page is not there yet, `all` is 0.
 */
export function useTurns(all: () => number, o: { first?: number; each?: number } = {}): Ref<number> {
  const drawn = ref(o.first ?? 1)
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    [drawn, all],
    () => {
      clearTimeout(timer)
      if (drawn.value < all()) timer = setTimeout(() => (drawn.value += o.each ?? 1))
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => clearTimeout(timer))
  return drawn
}
