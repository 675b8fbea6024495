import { computed, type ComputedRef, onBeforeUnmount, type Ref, shallowRef, watch } from 'vue'

/** A narrower element is not laid out yet. */
const LEAST = 100

/** Who wants to know the width of an element, and the one observer they share: they are all told in one turn. */
const wanted = new WeakMap<Element, (width: number) => void>()
let observer: ResizeObserver | undefined
const widths = () =>
  (observer ??= new ResizeObserver((entries) => {
    for (const e of entries) wanted.get(e.target)?.(e.contentRect.width)
  }))

/**
 * The width an element has on the page, in px, and `before` until it is laid out. It is never asked for in the middle of
 * drawing, which would lay the page out once more for each.
 */
export function useElementWidth(element: Readonly<Ref<Element | null>>, before = 0): Readonly<Ref<number>> {
  const width = shallowRef(before)
  const leave = (el: Element | null | undefined) => {
    if (!el) return
    wanted.delete(el)
    observer?.unobserve(el)
  }
  if (typeof ResizeObserver !== 'undefined')
    watch(
      element,
      (now, was) => {
        leave(was)
        if (!now) return
        wanted.set(now, (w) => (width.value = w))
        widths().observe(now)
      },
      { flush: 'post', immediate: true },
    )
  onBeforeUnmount(() => leave(element.value))
  return width
}

/** The width an element has on the page, in px, so that a drawing's text keeps its size however wide it is. */
export function useWidth(element: Readonly<Ref<HTMLElement | SVGElement | null>>, before: number): ComputedRef<number> {
  const width = useElementWidth(element, before)
  return computed(() => (width.value > LEAST ? Math.round(width.value) : before))
}
