import type { Schemas } from '@/api/client'

/** What the intake edits: the facts of a golfer, with every list there to be added to. */
export type Form = Schemas['AthleteChange'] & { situation: Situation }
type Situation = Required<
  Pick<Schemas['Situation'], 'away' | 'playing' | 'marks' | 'locks' | 'acceptedJoints' | 'pinches' | 'endedLimits'>
> &
  Schemas['Situation']

const whole = (s: Schemas['Situation'] = {}): Situation => ({
  ...s,
  away: s.away ?? [],
  playing: s.playing ?? [],
  marks: s.marks ?? [],
  locks: s.locks ?? [],
  acceptedJoints: s.acceptedJoints ?? [],
  pinches: s.pinches ?? [],
  endedLimits: s.endedLimits ?? [],
})

/** A golfer's facts as a change of them: a copy, to be edited. */
export function changeOf(a: Schemas['Athlete'] | Schemas['AthleteChange']): Form {
  const { revision, profile, clearance, consent, limits, training, competitions } = a
  const { school, otherSideShare, startDate, situation } = a
  return JSON.parse(
    JSON.stringify({
      revision,
      profile,
      clearance,
      consent,
      limits,
      training,
      competitions,
      school,
      otherSideShare,
      startDate,
      situation: whole(situation),
    }),
  ) as Form
}
