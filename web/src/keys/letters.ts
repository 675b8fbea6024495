import { useLocalStorage } from '@vueuse/core'

import { typing } from './typing'

const on = useLocalStorage('dunnock.letters', true)

/** Whether a letter alone is a key here. They can be switched off: speech input and unsteady hands press them unmeant. */
export const useLetters = () => on

/** Whether a key event is meant as a letter key: switched on, nobody else's, not typed, and with nothing held. */
export const meantAsKey = (event: KeyboardEvent) =>
  on.value && !event.defaultPrevented && !typing(event) && !event.ctrlKey && !event.metaKey && !event.altKey
