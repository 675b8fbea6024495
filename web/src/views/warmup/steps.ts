import { handOf } from '@/parts/choices'
import type { TimedStep } from '@/parts/useTimer'

import type { Item } from './useWarmUp'

const sides: Record<string, string> = {
  other: 'other side',
  lead: 'lead side',
  trail: 'trail side',
  toward: 'toward the target',
  away: 'away from the target',
}

const sideOf = (side: string, playingSide?: 'left' | 'right') => {
  const hand = handOf(side, playingSide)
  if (!hand) return sides[side]
  return ['toward', 'away'].includes(side) ? `to your ${hand}` : `${hand} side`
}

/**
 * The timed steps of a warm-up: what is done a side is called side by side. For a golfer whose side is given, lead and
 * trail are left and right.
 */
export function stepsOf(items: Item[], playingSide?: 'left' | 'right'): TimedStep[] {
  return items.flatMap((i): TimedStep[] => {
    const base = {
      name: i.name,
      ...(i.dose ? { dose: i.dose } : {}),
      ...(i.cue ? { cue: i.cue } : {}),
    }
    if (i.side !== 'each' || i.seconds < 10) {
      const side = sideOf(i.side, playingSide)
      return [{ id: i.id, ...base, seconds: i.seconds, ...(side ? { side } : {}) }]
    }
    const first = Math.ceil(i.seconds / 2)
    return [
      { id: `${i.id}-1`, ...base, seconds: first, side: 'first side' },
      { id: `${i.id}-2`, ...base, seconds: i.seconds - first, side: 'change sides' },
    ]
  })
}

/** An item in a line of text. */
export const itemWords = (i: Item) => `${i.name}${i.dose ? ` (${i.dose})` : ` (${i.seconds} s)`}`
