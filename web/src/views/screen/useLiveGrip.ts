import { onBeforeUnmount, shallowRef } from 'vue'

import { type LiveEvent, useLive } from '@/parts/useLive'

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

interface GripEvent extends LiveEvent {
  state: 'live' | 'lost' | 'ended'
  samples: [number, number][]
  squeezes: Squeeze[]
}

/** Seconds of trace that are drawn. */
export const WINDOW = 20

/**
 * A live recording from the dynamometer. The server measures; here the trace is kept for drawing and the squeezes as
 * they were last measured. Nothing is saved until the coach keeps it.
 */
export function useLiveGrip() {
  const trace = shallowRef<[number, number][]>([])
  const squeezes = shallowRef<Squeeze[]>([])
  const live = useLive<GripEvent>({
    path: '/devices/grip/live',
    refused: { state: 'refused', text: 'The dynamometer does not answer.' },
    gone: { state: 'ended', text: 'The connection to Dunnock is gone. What was recorded can be kept.' },
    over: ['ended'],
    take(e) {
      live.state.value = e.state
      live.text.value = e.text ?? ''
      squeezes.value = e.squeezes
      const all = trace.value.concat(e.samples)
      const from = (all.at(-1)?.[0] ?? 0) - WINDOW
      trace.value = all.filter((p) => p[0] >= from)
    },
  })

  function start() {
    trace.value = []
    squeezes.value = []
    live.start({ state: 'waiting', text: 'Looking for the dynamometer …' })
  }
  function stop() {
    live.close()
    if (['live', 'lost', 'waiting'].includes(live.state.value)) live.state.value = 'ended'
  }
  onBeforeUnmount(stop)

  return { ...live, trace, squeezes, start, stop }
}
