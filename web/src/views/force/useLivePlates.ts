import { onBeforeUnmount, ref, shallowRef } from 'vue'

import { type LiveEvent, useLive } from '@/parts/useLive'

import type { Recording } from './useForce'

interface PlateEvent extends LiveEvent {
  state: 'empty' | 'waiting' | 'armed' | 'recording' | 'captured' | 'refused' | 'lost' | 'ended'
  forceN: number
  trace: number[]
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
  const forceN = ref(0)
  const trace = shallowRef<number[]>([])
  const captured = shallowRef<Recording[]>([])
  const refused = ref<string[]>([])
  const live = useLive<PlateEvent>({
    path: '/devices/plates/live',
    refused: { state: 'lost', text: 'The force plates do not answer.' },
    gone: { state: 'lost', text: 'The connection to Dunnock is gone. Arm again.' },
    over: ['lost', 'ended'],
    take(e) {
      forceN.value = e.forceN
      if (e.recording) captured.value = [...captured.value, e.recording]
      else if (e.state === 'refused') refused.value = [...refused.value, e.text ?? '']
      else {
        live.state.value = e.state
        live.text.value = e.text ?? ''
        if (e.trace.length) trace.value = e.trace
      }
    },
  })

  const arm = (athlete: string, kind: string) => live.start({ state: 'looking', text: '' }, { kind, athlete })
  function drop(id: string) {
    captured.value = captured.value.filter((r) => r.id !== id)
  }
  function clear() {
    captured.value = []
    refused.value = []
    trace.value = []
  }
  function stop() {
    live.close()
    live.state.value = 'idle'
  }
  onBeforeUnmount(stop)
  return { ...live, forceN, trace, captured, refused, arm, stop, drop, clear }
}
