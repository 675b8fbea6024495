import { onBeforeUnmount, ref, shallowRef } from 'vue'

import { openStream, type Stream } from '@/api/events'

export interface Squeeze {
  onset: number
  end: number
  peak: number
  timeToPeakMs: number
  hold: number
  holdSeconds: number
  fallOff: number
  rate: number
}

interface LiveEvent {
  state: 'live' | 'lost' | 'ended'
  text?: string
  device?: string
  samples: [number, number][]
  squeezes: Squeeze[]
  health: {
    kept: number
    duplicates: number
    late: number
    missing: number
    impossible: number
    thinned: number
    gaps: number
    full: boolean
  }
  garbage: number
  lost: number
}

/** Seconds of trace that are drawn. */
export const WINDOW = 20

/**
 * A live recording from the dynamometer. The server measures; here the trace is kept for drawing and the squeezes as
 * they were last measured. Nothing is saved until the coach keeps it.
 */
export function useLiveGrip() {
  const state = ref<'idle' | 'waiting' | 'live' | 'lost' | 'ended' | 'refused'>('idle')
  const text = ref('')
  const device = ref('')
  const trace = shallowRef<[number, number][]>([])
  const squeezes = shallowRef<Squeeze[]>([])
  const health = ref<string[]>([])
  let source: Stream | undefined

  function start() {
    stop()
    state.value = 'waiting'
    text.value = 'Looking for the dynamometer …'
    trace.value = []
    squeezes.value = []
    health.value = []
    source = openStream<LiveEvent>('/devices/grip/live', {
      event: take,
      refused: (why) => {
        state.value = 'refused'
        text.value = why || 'The dynamometer does not answer.'
      },
      ended: () => {
        if (state.value === 'ended') return
        state.value = 'ended'
        text.value = 'The connection to Dunnock is gone. What was recorded can be kept.'
      },
    })
  }

  function take(e: LiveEvent) {
    state.value = e.state
    text.value = e.text ?? ''
    device.value = e.device ?? ''
    squeezes.value = e.squeezes
    const all = trace.value.concat(e.samples)
    const from = (all.at(-1)?.[0] ?? 0) - WINDOW
    trace.value = all.filter((p) => p[0] >= from)
    health.value = words(e)
    if (e.state === 'ended') source?.close()
  }

  function stop() {
    source?.close()
    source = undefined
    if (state.value === 'live' || state.value === 'lost' || state.value === 'waiting') state.value = 'ended'
  }
  onBeforeUnmount(stop)

  return { state, text, device, trace, squeezes, health, start, stop }
}

function words(e: LiveEvent): string[] {
  const n = (count: number, what: string) => (count > 0 ? [`${count} ${what}`] : [])
  return [
    ...n(e.lost, e.lost === 1 ? 'loss of the instrument' : 'losses of the instrument'),
    ...n(e.garbage, 'unreadable lines'),
    ...n(e.health.duplicates, 'samples sent twice'),
    ...n(e.health.late, 'late samples'),
    ...n(e.health.missing, 'samples missing'),
    ...n(e.health.impossible, 'impossible values'),
    ...n(e.health.thinned, 'samples thinned out'),
    ...n(e.health.gaps, 'pauses'),
  ]
}
