import { onBeforeUnmount, shallowRef } from 'vue'

/** What is being dragged: an item or a session, and where it would land. */
export interface Dragged {
  kind: 'item' | 'session'
  id: string
  /** The element it would land at, by its data-drop. */
  over: string
}

/** How far a press moves before it is a drag, px. */
const SLACK = 5

/**
 * Dragging with a mouse or a pen: what is dragged follows the pointer as a copy that is moved once a frame; what lies under it and
 * says `data-drop` is where it would land. A press that does not move stays a click; Escape lets go. Fingers scroll, and
 * have the click way.
 */
export function useDrag(drop: (dragged: Dragged) => void) {
  const dragged = shallowRef<Dragged>()
  let from: { x: number; y: number; kind: Dragged['kind']; id: string; el: HTMLElement } | undefined
  let ghost: HTMLElement | undefined
  let at = { x: 0, y: 0 }
  let frame = 0

  function follow() {
    frame = 0
    if (!ghost || !dragged.value) return
    ghost.style.transform = `translate(${at.x + 8}px, ${at.y + 8}px)`
    const over = document.elementFromPoint(at.x, at.y)?.closest<HTMLElement>('[data-drop]')?.dataset.drop ?? ''
    if (over !== dragged.value.over) dragged.value = { ...dragged.value, over }
  }
  function move(event: PointerEvent) {
    if (!from) return
    at = { x: event.clientX, y: event.clientY }
    if (!dragged.value) {
      if (Math.hypot(at.x - from.x, at.y - from.y) < SLACK) return
      ghost = from.el.cloneNode(true) as HTMLElement
      ghost.removeAttribute('data-id')
      ghost.setAttribute('aria-hidden', 'true')
      ghost.className += ' ghost'
      ghost.style.width = `${from.el.offsetWidth}px`
      ;(from.el.closest('.v-application') ?? document.body).append(ghost)
      document.body.classList.add('dragging')
      dragged.value = { kind: from.kind, id: from.id, over: '' }
    }
    event.preventDefault()
    frame ||= requestAnimationFrame(follow)
  }
  function end() {
    cancelAnimationFrame(frame)
    frame = 0
    ghost?.remove()
    ghost = undefined
    from = undefined
    dragged.value = undefined
    document.body.classList.remove('dragging')
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
    window.removeEventListener('pointercancel', end)
    window.removeEventListener('keydown', key, true)
  }
  function up() {
    if (frame) follow()
    const what = dragged.value
    end()
    if (!what) return
    // The click that ends a drag is none.
    window.addEventListener('click', swallow, { capture: true, once: true })
    setTimeout(() => window.removeEventListener('click', swallow, true))
    if (what.over) drop(what)
  }
  function swallow(event: Event) {
    event.stopPropagation()
    event.preventDefault()
  }
  function key(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !dragged.value) return
    event.stopPropagation()
    end()
  }
  function press(event: PointerEvent, kind: Dragged['kind'], id: string) {
    if (event.button !== 0 || event.pointerType === 'touch') return
    from = { x: event.clientX, y: event.clientY, kind, id, el: event.currentTarget as HTMLElement }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', up)
    window.addEventListener('pointercancel', end)
    window.addEventListener('keydown', key, true)
  }
  onBeforeUnmount(end)
  return { dragged, press }
}
