import { capital, spaced } from './words'

/** The rules of the rulebook as they are called before a coach's eyes. */
const names: Record<string, string> = {
  CLEAR: 'Clearance',
  CONTRA: 'Limits and pain',
  JUNIOR: 'Under 18',
  GROWTH: 'Growth spurt',
  SENIOR: 'From 60',
  KIT: 'Kit at hand',
  LEVEL: 'Level of exercise',
  ORDER: 'Fast before slow',
  'BOTH-SIDES': 'Both sides',
  SPECIAL: 'Look-alikes of the swing',
  WAVE: 'Volume through the weeks',
  'LOAD-STEP': 'Step in load',
  RESERVE: 'Reps in reserve',
  'EXPLOSIVE-REPS': 'Reps of throws and jumps',
  CONTACTS: 'Landings',
  SWINGS: 'Fast swings',
  IMPLEMENT: 'Mass of the club',
  SPACING: 'Days between hard days',
  TAPER: 'Before a peak',
  'IN-SEASON': 'In season',
  NOVEL: 'New exercises',
  UNSTABLE: 'Unstable ground',
  'GRIP-EVE': 'Grip before play',
  RANGE: 'Doses of range',
  'SPEED-ALWAYS': 'Fast work each week',
  'PUSH-PULL': 'Push and pull',
  FLAT: 'Rising weeks',
  TIME: 'Minutes of a session',
  COVERAGE: 'Tests it rests on',
  RETEST: 'Retest',
}

export const ruleName = (id: string) => names[id] ?? capital(spaced(id.toLowerCase()))

/** How much a broken rule weighs, in words. */
export const weight: Record<string, string> = {
  blocking: 'never issued',
  warning: 'issued with a reason',
  advice: 'advice',
}
