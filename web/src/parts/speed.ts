/** Exact: 1609.344 m in a mile, 3600 s in an hour. */
const MPS_PER_MPH = 1609.344 / 3600

/** A speed in m/s as it is shown, to one decimal. */
export function toShown(mps: number, unit: 'mph' | 'm/s'): number {
  return Math.round((unit === 'mph' ? mps / MPS_PER_MPH : mps) * 10) / 10
}

/** A shown speed in m/s, to four decimals, so that it comes back as typed. */
export function fromShown(value: number, unit: 'mph' | 'm/s'): number {
  return Math.round((unit === 'mph' ? value * MPS_PER_MPH : value) * 10_000) / 10_000
}
