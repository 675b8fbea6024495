declare global {
  interface Window {
    /** Answers index.html asked for before the program was there, by path, and when it did. */
    ahead?: { at: number; answers: Map<string, Promise<Response>> }
    /** What says that the program is on its way, when that takes long: index.html. */
    opening?: number
    /** When the style of every page is there: index.html asks for it, and the words above do not wait for it. */
    styled?: Promise<unknown>
  }
}

/** An answer asked for before anything was typed or changed is of use at the beginning alone. */
const FRESH_MS = 10_000

/** What decides which page is shown at all. */
const WHO = /\/(session|setup)$/
/** Longer nothing waits, whether the page was drawn or not. */
const HELD_MS = 2000
let drawn: Promise<void> | undefined

/**
 * What is asked for waits until a page that is opened has been drawn the first time, with its heading and what can be
 * done there: the page answers before what it shows is drawn. Returns what lets it go.
 */
export function holdQuestions(): () => void {
  let letGo = () => {}
  drawn = new Promise((done) => {
    letGo = () => {
      drawn = undefined
      done()
    }
  })
  setTimeout(letGo, HELD_MS)
  return letGo
}

/** Asks the server, or takes what was asked ahead: once each, and never after something was changed. */
export async function fetchOrAhead(request: Request): Promise<Response> {
  if (drawn && request.method === 'GET' && !WHO.test(new URL(request.url).pathname)) await drawn
  return take(request) ?? globalThis.fetch(request)
}

function take(request: Request): Promise<Response> | undefined {
  const { ahead } = globalThis.window ?? {}
  if (!ahead) return undefined
  if (request.method !== 'GET' || performance.now() - ahead.at > FRESH_MS) {
    delete window.ahead
    return undefined
  }
  const url = new URL(request.url)
  const path = url.pathname + url.search
  const begun = ahead.answers.get(path)
  ahead.answers.delete(path)
  return begun
}
