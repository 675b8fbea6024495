import type { Schemas } from '@/api/client'
import { signed } from '@/parts/words'

/** A number of the table: what it is called in the answer, by how much it is shown larger, and how it comes about. */
export interface Row {
  key: keyof Schemas['JumpResult']
  name: string
  by: number
  decimals: number
  unit: string
  how: string
}
const row = (key: Row['key'], name: string, decimals: number, unit: string, how = '', by = 1): Row => ({
  key,
  name,
  by,
  decimals,
  unit,
  how,
})
/** The numbers of a jump, in the order in which they are read. */
export const rowsOf = (jump: Schemas['JumpResult']): Row[] => [
  row('jumpHeightM', 'Height by take-off speed', 1, 'cm', 'v²/2g', 100),
  row('flightHeightM', 'Height by flight time', 1, 'cm', 'g·t²/8', 100),
  row('heightDifferenceM', 'Their difference', 1, 'cm', 'flight less speed', 100),
  row('timeToTakeoffS', 'Time to take-off', 3, 's', jump.onsetRule === 'back30ms' ? 'onset 30 ms back' : 'from onset'),
  row('rsiModified', 'Modified reactive strength', 2, 'm/s', 'height ÷ time'),
  row('peakPowerW', 'Peak power', 0, 'W', 'force × velocity'),
  row('peakPowerWPerKg', 'Peak power per kg', 1, 'W/kg'),
  row('meanPropulsivePowerW', 'Mean propulsive power', 0, 'W'),
  row('peakPropulsiveForceN', 'Peak force', 0, 'N', 'in the push'),
  row('brakingRfdNps', 'Braking rate of force', 0, 'N/s', 'to the lowest point'),
  row('brakingImpulseNs', 'Braking impulse', 0, 'N·s', 'above body weight'),
  row('propulsiveImpulseNs', 'Propulsive impulse', 0, 'N·s', 'above body weight'),
  row('countermovementDepthM', 'Depth', 1, 'cm', 'centre of mass', 100),
  row('landingPeakPerBodyWeight', 'Landing peak', 1, 'BW'),
  row('sideDifferencePct', 'Side difference, push', 1, '%', '+ lead more'),
  row('landingDifferencePct', 'Side difference, landing', 1, '%', '+ lead more'),
]

/** A number as it is shown: nothing measured is a dash, and there is no minus before a zero. */
export const shown = (v: number | null | undefined, r: Row) =>
  v === null || v === undefined ? '–' : signed(v * r.by, r.decimals)
