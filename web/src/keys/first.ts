import type { Directive } from 'vue'

const TAKES_FOCUS = 'input, textarea, select, button'

/**
 * Puts the focus into a field, or onto a button, as soon as it is there, unless somebody was faster: whoever is typing
 * beside it keeps it. A field's own `autofocus` waits until it is seen, and takes the focus from the next field then.
 */
export const vFirst: Directive<HTMLElement> = {
  mounted(element) {
    const field = element.matches(TAKES_FOCUS) ? element : element.querySelector<HTMLElement>(TAKES_FOCUS)
    const beside = element.closest('form, [role="dialog"]') ?? element
    // A dialog is not shown yet while what it holds is made.
    requestAnimationFrame(() => {
      const typing = document.activeElement
      if (!typing?.matches(TAKES_FOCUS) || !beside.contains(typing)) field?.focus()
    })
  },
}
