import { onKeyStroke } from '@vueuse/core'

import { meantAsKey, useLetters } from './letters'

/** Whether a field takes any sign as its text: a cell of numbers and a choice do not. */
const takesText = (el: EventTarget | null) =>
  !(el instanceof HTMLElement && el.matches('select, input[inputmode="decimal"]'))

/**
 * Does something at a sign that is meant as a key; `inNumbers` also in a cell of numbers or a choice, where it can be
 * nothing else.
 */
export function useLetter(key: string, act: () => void, o: { inNumbers?: boolean } = {}) {
  const letters = useLetters()
  onKeyStroke(key, (event) => {
    if (!letters.value || (!meantAsKey(event) && !(o.inNumbers && !takesText(event.target)))) return
    event.preventDefault()
    act()
  })
}
