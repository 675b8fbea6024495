import { onKeyStroke } from '@vueuse/core'

import { meantAsKey } from './letters'

/** How long after `g` a letter still belongs to it. */
const WAIT_MS = 1500

/** `g` and then a letter: tells which letter. */
export function useGo(go: (letter: string) => void) {
  let since = -Infinity
  onKeyStroke(true, (event) => {
    if (!meantAsKey(event) || event.key.length !== 1) return
    const waiting = Date.now() - since < WAIT_MS
    since = -Infinity
    if (waiting) {
      event.preventDefault()
      event.stopImmediatePropagation()
      go(event.key.toLowerCase())
    } else if (event.key === 'g') since = Date.now()
  })
}
