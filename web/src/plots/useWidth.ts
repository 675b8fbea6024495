import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

/** The width an element has on the page, in px, so that a drawing's text keeps its size however wide it is. */
export function useWidth(element: Readonly<Ref<Element | null>>, before: number): Ref<number> {
  const width = ref(before)
  let seen: ResizeObserver | undefined
  onMounted(() => {
    if (!element.value || typeof ResizeObserver === 'undefined') return
    seen = new ResizeObserver(([entry]) => {
      const now = Math.round(entry?.contentRect.width ?? 0)
      if (now > 100) width.value = now
    })
    seen.observe(element.value)
  })
  onBeforeUnmount(() => seen?.disconnect())
  return width
}
