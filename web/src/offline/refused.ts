import { ref } from 'vue'

/** What was asked for and could not be done without a connection: shown until it is put away or there is one again. */
export const refused = ref('')

const NO_CONNECTION = 'No connection: this comes from the server. Try it again once it is back.'
/** A view that says itself what went wrong has said it by then. */
const SAID_MS = 100

/** Says that something could not be done, unless the page says so already. */
export function sayRefused(text: string) {
  setTimeout(() => {
    const said = [...document.querySelectorAll('[role="alert"]')].some((e) => e.textContent.includes(text))
    if (!said) refused.value = text
  }, SAID_MS)
}

/** A link to something the server makes leads nowhere without a connection: that is said instead. */
export function stopDownload(event: MouseEvent) {
  const link = event.target instanceof Element ? event.target.closest<HTMLAnchorElement>('a[href^="/api/"]') : null
  if (!link || navigator.onLine) return
  event.preventDefault()
  sayRefused(NO_CONNECTION)
}
