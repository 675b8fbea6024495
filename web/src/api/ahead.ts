declare global {
  interface Window {
    /** Answers index.html asked for before the program was there, by path, and when it did. */
    ahead?: { at: number; answers: Map<string, Promise<Response>> }
  }
}

/** An answer asked for before anything was typed or changed is of use at the beginning alone. */
const FRESH_MS = 10_000

/** Asks the server, or takes what was asked ahead: once each, and never after something was changed. */
export function fetchOrAhead(request: Request): Promise<Response> {
  const { ahead } = globalThis.window ?? {}
  if (!ahead) return globalThis.fetch(request)
  if (request.method !== 'GET' || performance.now() - ahead.at > FRESH_MS) {
    delete window.ahead
    return globalThis.fetch(request)
  }
  const url = new URL(request.url)
  const path = url.pathname + url.search
  const begun = ahead.answers.get(path)
  ahead.answers.delete(path)
  return begun ?? globalThis.fetch(request)
}
