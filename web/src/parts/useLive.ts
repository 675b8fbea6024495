import { onBeforeUnmount, ref } from 'vue'

import { openStream, type Stream } from '@/api/events'

/** What every event of an instrument says. */
export interface LiveEvent {
  state: string
  text?: string
  device?: string
  garbage: number
  /** How often the instrument was lost. */
  lost?: number
  health: Partial<Record<keyof typeof FAULTS, number>>
}

const FAULTS = {
  duplicates: 'samples sent twice',
  late: 'late samples',
  missing: 'samples missing',
  impossible: 'impossible values',
  thinned: 'samples thinned out',
  gaps: 'pauses',
}

interface Ending {
  state: string
  text: string
}

interface Options<E> {
  path: string
  /** The instrument does not answer; the server's own words come first. */
  refused: Ending
  /** The line to Dunnock broke. */
  gone: Ending
  /** States after which nothing more comes. */
  over: string[]
  take: (e: E) => void
}

/** A live stream of an instrument: its state in a word and a sentence, what is wrong with its samples, and its end. */
export function useLive<E extends LiveEvent>(o: Options<E>) {
  const state = ref('idle')
  const text = ref('')
  const device = ref('')
  const health = ref<string[]>([])
  let source: Stream | undefined

  function close() {
    source?.close()
    source = undefined
  }
  function end(with_: Ending) {
    state.value = with_.state
    text.value = with_.text
  }
  function start(looking: Ending, body?: unknown) {
    close()
    end(looking)
    health.value = []
    source = openStream<E>(
      o.path,
      {
        event(e) {
          device.value = e.device ?? ''
          health.value = healthWords(e)
          o.take(e)
          if (o.over.includes(e.state)) close()
        },
        refused: (why) => end({ ...o.refused, text: why || o.refused.text }),
        ended: () => {
          if (!o.over.includes(state.value)) end(o.gone)
        },
      },
      body,
    )
  }
  onBeforeUnmount(close)
  return { state, text, device, health, start, close }
}

function healthWords(e: LiveEvent): string[] {
  const lost = e.lost ?? 0
  const counts: [number, string][] = [
    [lost, lost === 1 ? 'loss of the instrument' : 'losses of the instrument'],
    [e.garbage, 'unreadable lines'],
    ...(Object.keys(FAULTS) as (keyof typeof FAULTS)[]).map((k): [number, string] => [e.health[k] ?? 0, FAULTS[k]]),
  ]
  return counts.filter(([n]) => n > 0).map(([n, what]) => `${n} ${what}`)
}
