const FOCUSABLE =
  'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex="0"]'

/** What had the focus last: where it stood, and what it stood in, from the inside out. */
interface Held {
  element: Element
  x: number
  y: number
  within: Element[]
}

/**
 * Keeps the focus from falling to the body, where neither keys nor assistive technology find anything: when what had it
 * is taken away or can no longer be used, the nearest thing that stayed takes it; after a change of the page the
 * content does. Returns what ends it.
 */
export function keepFocus(root: HTMLElement = document.body): () => void {
  let held: Held | undefined
  let asked = 0

  function hold(element: Element) {
    const box = element.getBoundingClientRect()
    const within = []
    for (let e = element.parentElement; e && e !== root; e = e.parentElement) within.push(e)
    held = { element, x: box.left, y: box.top, within }
  }
  const onFocus = (event: FocusEvent) => {
    if (event.target instanceof Element && event.target !== root) hold(event.target)
  }
  // Clicked beside everything: that is meant.
  const onPointer = (event: PointerEvent) => {
    if (event.target instanceof Element && !event.target.closest(FOCUSABLE)) held = undefined
  }

  function look() {
    asked = 0
    const active = document.activeElement
    if (!held || (active && ![held.element, root, document.documentElement].includes(active))) return
    if (held.element.isConnected && !held.element.matches(':disabled') && visible(held.element)) return
    const next = nearest(held)
    held = undefined
    next.focus({ preventScroll: true })
  }
  function nearest(h: Held): HTMLElement {
    for (const around of h.within) {
      if (!around.isConnected || !visible(around)) continue
      // The frame around a page is not what was left.
      if (around.id === 'content') break
      const found = [...around.querySelectorAll<HTMLElement>(FOCUSABLE)].filter(visible)
      if (found.length === 0) continue
      const far = (e: Element) => {
        const box = e.getBoundingClientRect()
        return Math.hypot(box.left - h.x, box.top - h.y)
      }
      return found.reduce((a, b) => (far(b) < far(a) ? b : a))
    }
    return document.querySelector<HTMLElement>('#content') ?? root
  }
  const visible = (e: Element) => e.checkVisibility?.() ?? true

  const watched = new MutationObserver(() => {
    if (held) asked ||= requestAnimationFrame(look)
  })
  watched.observe(root, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] })
  root.addEventListener('focusin', onFocus)
  root.addEventListener('pointerdown', onPointer)
  return () => {
    watched.disconnect()
    cancelAnimationFrame(asked)
    root.removeEventListener('focusin', onFocus)
    root.removeEventListener('pointerdown', onPointer)
  }
}
