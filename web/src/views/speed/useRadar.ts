import { onBeforeUnmount } from 'vue'

import { type LiveEvent, useLive } from '@/parts/useLive'

import type { Swing } from './useSpeed'

interface Heard {
  clubMps: number
  ball?: {
    mps?: number
    carryM?: number
    launchDeg?: number
    spinRpm?: number
    strike?: { toeMm: number; highMm: number; directionDeg: number }
  }
}
interface RadarEvent extends LiveEvent {
  swing?: Heard
  odd?: Heard[]
}

/** Swings from the radar, each given on as it is heard. */
export function useRadar(heard: (clubMps: number, seen: Partial<Swing>) => void, impossible: (mps: number) => void) {
  const live = useLive<RadarEvent>({
    path: '/devices/radar/live',
    refused: { state: 'lost', text: 'The radar does not answer.' },
    gone: { state: 'lost', text: 'The connection to Dunnock is gone. What was heard is kept; listen again.' },
    over: ['ended'],
    take(e) {
      live.state.value = e.state
      live.text.value = e.text ?? ''
      for (const x of e.odd ?? []) impossible(x.clubMps)
      if (!e.swing) return
      const b = e.swing.ball
      heard(e.swing.clubMps, {
        ...(b?.mps ? { ballMps: b.mps } : {}),
        ...(b?.carryM ? { carryM: b.carryM } : {}),
        ...(b?.launchDeg ? { launchDeg: b.launchDeg } : {}),
        ...(b?.spinRpm ? { spinRpm: b.spinRpm } : {}),
        ...(b?.strike ? { strike: b.strike } : {}),
      })
    },
  })
  function stop() {
    live.close()
    live.state.value = 'idle'
  }
  onBeforeUnmount(stop)
  return { ...live, listen: () => live.start({ state: 'looking', text: 'Looking for the radar …' }), stop }
}
