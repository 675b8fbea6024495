/** What a field of choices lists: the words beside the contract's value. */
export interface Choice<V> {
  title: string
  value: V
}

/** Choices from pairs of value and words. */
export const choices = <V>(...pairs: [value: V, title: string][]): Choice<V>[] =>
  pairs.map(([value, title]) => ({ title, value }))

/** The side a golfer plays from; the lead limb is the one nearer the target. */
export const playingSides = choices<'right' | 'left'>(
  ['right', 'right side (lead side is the left)'],
  ['left', 'left side (lead side is the right)'],
)

/** Those who may clear a golfer, and set a limit. */
export const clearers = choices(['doctor', 'doctor'], ['physiotherapist', 'physiotherapist'])

export const weekdays = choices<'mon' | 'tue' | 'wed' | 'thu' | 'fri' | 'sat' | 'sun'>(
  ['mon', 'Mon'],
  ['tue', 'Tue'],
  ['wed', 'Wed'],
  ['thu', 'Thu'],
  ['fri', 'Fri'],
  ['sat', 'Sat'],
  ['sun', 'Sun'],
)

/** The golfer's own hand or direction a side is: left or right; nothing where it is not known, or no side of the body. */
export function handOf(side: string, playingSide: 'left' | 'right' | undefined): string {
  const lead = ['lead', 'toward'].includes(side)
  if (!playingSide || (!lead && !['trail', 'away'].includes(side))) return ''
  return lead === (playingSide === 'right') ? 'left' : 'right'
}
