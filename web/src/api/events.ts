/** One stream of server-sent events, read with fetch: it may be asked for with a body, and says why it is refused. */
export interface Stream {
  close: () => void
}

interface Handlers<T> {
  event: (e: T) => void
  /** It was refused, with the server's words, or could not be reached at all. */
  refused: (text: string) => void
  /** It ended without being closed here. */
  ended: () => void
}

/** Opens a stream at an address of the contract; with a body it is asked for with POST. */
export function openStream<T>(path: string, handlers: Handlers<T>, body?: unknown): Stream {
  const stop = new AbortController()
  const run = async () => {
    let response: Response
    try {
      response = await fetch(`/api/v1${path}`, {
        signal: stop.signal,
        headers: { Accept: 'text/event-stream', ...(body ? { 'Content-Type': 'application/json' } : {}) },
        ...(body ? { method: 'POST', body: JSON.stringify(body) } : {}),
      })
    } catch {
      if (!stop.signal.aborted) handlers.refused('')
      return
    }
    if (!response.ok || !response.body) {
      const problem = (await response.json().catch(() => ({}))) as { detail?: string }
      if (!stop.signal.aborted) handlers.refused(problem.detail ?? '')
      return
    }
    const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
    let rest = ''
    try {
      for (;;) {
        const { value, done } = await reader.read()
        if (done) break
        rest += value
        const lines = rest.split('\n')
        rest = lines.pop() ?? ''
        for (const line of lines) if (line.startsWith('data: ')) handlers.event(JSON.parse(line.slice(6)) as T)
      }
    } catch {
      // The line broke: it ended.
    }
    if (!stop.signal.aborted) handlers.ended()
  }
  void run()
  return { close: () => stop.abort() }
}
