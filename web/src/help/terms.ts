/** Words of ours, each said in a sentence or two where it is met. */
export interface Term {
  title: string
  text: string
  /** What is drawn beside it. */
  drawn?: 'sides' | 'turns'
}

export const terms = {
  spread: {
    title: 'Spread',
    text: 'How far results of such golfers commonly lie apart in a test, set beside its target. A gap of one spread is as wide in a jump as in a hip turn: so gaps can be laid side by side.',
  },
  lead: {
    title: 'Lead and trail',
    text: 'The lead limb is the one nearer the target at address, the trail limb the one farther away. It has nothing to do with the better or the writing hand.',
    drawn: 'sides',
  },
  toward: {
    title: 'Toward and away',
    text: 'Which way a turn or a throw goes: toward the target, as in the swing down and through, or away from it, as in the swing back.',
    drawn: 'turns',
  },
  error: {
    title: 'Typical error',
    text: 'How far a result commonly moves when the same test is done again and nothing has changed. A change is called real from 1.96 × √2 of it on, within error below √2 of it, and unclear between the two.',
  },
  verdict: {
    title: 'Real, unclear, within error',
    text: 'How sure a change is, set beside how far the test moves by itself. Real (solid arrow): chance alone would hardly do it. Within error (dot): it may be nothing. Unclear (dashed arrow): between the two; test again.',
  },
  need: {
    title: 'Need',
    text: 'The gap to the target, in spreads, times how much the school makes of the quality at this stage. The clear quality with the highest need leads the block.',
  },
  reserve: {
    title: 'In reserve',
    text: 'How many more repetitions would have gone well when the set ended. “Leave 3 in reserve” ends a set of five with a load that eight would go with.',
  },
  speedReserve: {
    title: 'Reserve of speed',
    text: 'How far the club speed on the course stays below the fastest swing: what is in hand. Little of it asks for a higher ceiling, much of it for letting go of it.',
  },
  levels: {
    title: 'Leads, build, keep, spare',
    text: 'What leads gets most of the week, what is built gets more than it needs to stay, what is kept gets just that. What is spare has more than it needs and is not stretched further.',
  },
  zones: {
    title: 'Zones',
    text: 'Where between speed and force a set lies: Z1 fast and light, Z2 fast with some load, Z3 explosive with load, Z4 strength, Z5 endurance and grip, M range and control.',
  },
} satisfies Record<string, Term>

export type TermName = keyof typeof terms
