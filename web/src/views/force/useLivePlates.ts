import { onBeforeUnmount, ref, shallowRef } from 'vue'

import { openStream, type Stream } from '@/api/events'

import type { Recording } from './useForce'

interface PlateEvent {
  state: 'empty' | 'waiting' | 'armed' | 'recording' | 'captured' | 'refused' | 'lost' | 'ended'
  text?: string
  device?: string
  forceN: number
  trace: number[]
  health: { kept: number; duplicates: number; late: number; missing: number }
  garbage: number
  recording?: Recording
}

/** What each state asks of the golfer. */
export const asks: Record<string, string> = {
  idle: '',
  looking: 'Looking for the plates …',
  empty: 'Step on, one foot on each plate.',
  waiting: 'Stand still.',
  armed: 'Ready.',
  recording: 'Recording …',
}

/**
 * A live capture from the plates: armed, it takes one trial after the other. Captured trials wait on the server to be
 * kept or discarded.
 */
export function useLivePlates() {
  const state = ref<string>('idle')
  const text = ref('')
  const device = ref('')
  const forceN = ref(0)
  const trace = shallowRef<number[]>([])
  const captured = shallowRef<Recording[]>([])
  const refused = ref<string[]>([])
  const health = ref('')
  let source: Stream | undefined

  function arm(athlete: string, kind: string) {
    stop()
    state.value = 'looking'
    text.value = ''
    source = openStream<PlateEvent>(
      '/devices/plates/live',
      {
        event: take,
        refused: (why) => {
          state.value = 'lost'
          text.value = why || 'The force plates do not answer.'
        },
        ended: () => {
          if (state.value === 'lost' || state.value === 'ended') return
          state.value = 'lost'
          text.value = 'The connection to Dunnock is gone. Arm again.'
        },
      },
      { kind, athlete },
    )
  }

  function take(e: PlateEvent) {
    forceN.value = e.forceN
    device.value = e.device ?? ''
    const h = e.health
    health.value = [
      [e.garbage, 'unreadable lines'],
      [h.duplicates, 'samples sent twice'],
      [h.late, 'late samples'],
      [h.missing, 'samples missing'],
    ]
      .filter(([n]) => (n as number) > 0)
      .map(([n, what]) => `${n} ${what}`)
      .join(', ')
    if (e.recording) captured.value = [...captured.value, e.recording]
    else if (e.state === 'refused') refused.value = [...refused.value, e.text ?? '']
    else {
      state.value = e.state
      text.value = e.text ?? ''
      if (e.trace.length) trace.value = e.trace
    }
    if (e.state === 'lost' || e.state === 'ended') source?.close()
  }

  function drop(id: string) {
    captured.value = captured.value.filter((r) => r.id !== id)
  }
  function clear() {
    captured.value = []
    refused.value = []
    trace.value = []
  }
  function stop() {
    source?.close()
    source = undefined
    state.value = 'idle'
  }
  onBeforeUnmount(stop)
  return { state, text, device, forceN, trace, captured, refused, health, arm, stop, drop, clear }
}
