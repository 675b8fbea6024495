import { useElementSize } from '@vueuse/core'
import { computed, type ComputedRef, type Ref } from 'vue'

/** A narrower element is not laid out yet. */
const LEAST = 100

/** The width an element has on the page, in px, so that a drawing's text keeps its size however wide it is. */
export function useWidth(element: Readonly<Ref<HTMLElement | SVGElement | null>>, before: number): ComputedRef<number> {
  const { width } = useElementSize(element, { width: before, height: 0 })
  return computed(() => (width.value > LEAST ? Math.round(width.value) : before))
}
