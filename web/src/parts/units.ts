import { computed } from 'vue'

import type { Schemas } from '@/api/client'
import { useSession } from '@/api/queries'

/** The units the practice reads, quantity by quantity. */
export type Units = Schemas['Units']

/** How many of the base unit one holds; exact by definition: 0.45359237 kg in a pound, 0.3048 m in a foot. */
const factors: Record<string, number> = {
  'm/s': 1,
  mph: 1609.344 / 3600,
  kg: 1,
  lb: 0.45359237,
  cm: 0.01,
  in: 0.0254,
  m: 1,
  ft: 0.3048,
}

/** Until the practice is known, everything is shown as it is kept. */
export const AS_KEPT: Units = { speed: 'm/s' }

/** The unit in which what is kept in a unit is shown. */
export function shownUnit(kept: string, units: Units): string {
  const of: Record<string, string | undefined> = {
    'm/s': units.speed,
    kg: units.mass,
    cm: units.length,
    m: units.distance,
  }
  return of[kept] ?? kept
}

/** The same as it is written after a number. */
export function unitAfter(kept: string, units: Units): string {
  const unit = shownUnit(kept, units)
  return unit === 'deg' ? '°' : unit === '%' ? '%' : ` ${unit}`
}

/** A value kept in a unit, in the one it is shown in. */
export function inShown(value: number, kept: string, units: Units): number {
  const shown = shownUnit(kept, units)
  return shown === kept ? value : (value * (factors[kept] ?? 1)) / (factors[shown] ?? 1)
}

/** Decimals a value is shown with: one where it is converted or a speed. */
export const decimalsShown = (decimals: number, kept: string, units: Units): number =>
  kept === 'm/s' || shownUnit(kept, units) !== kept ? 1 : decimals

/** A value kept in a unit as it is shown, without its unit. */
export const numberShown = (value: number, kept: string, decimals: number, units: Units): string =>
  inShown(value, kept, units).toFixed(decimalsShown(decimals, kept, units))

/** The units of the practice of whoever is signed in. */
export function useUnits() {
  const { data } = useSession()
  return computed(() => data.value?.units ?? AS_KEPT)
}
