import type { Test } from './cells'

/** The parts of a value that has several: load, repetitions and reserve of a lift; speed and mass of a ladder's swing. */
export interface Parts {
  /** Load or speed. */
  first?: number | undefined
  reps?: number | undefined
  /** Reserve or mass. */
  second?: number | undefined
}

/** Tests whose values have parts. */
export const hasParts = (test: Test | undefined) => test?.rule === 'one-rm' || test?.rule === 'ladder'

/** The parts of a value as it is written: 150x5@2, or 118@310. */
export function partsOf(text: string): Parts {
  const m = /^([\d.]+)(?:x(\d+))?@([\d.]+)$/.exec(text.trim())
  if (!m) return {}
  return { first: Number(m[1]), ...(m[2] ? { reps: Number(m[2]) } : {}), second: Number(m[3]) }
}

/** The value as it is written, or nothing while a part is missing. */
export function textOf(p: Parts, lift: boolean): string {
  if (p.first === undefined || p.second === undefined) return ''
  if (!lift) return `${p.first}@${p.second}`
  return p.reps === undefined ? '' : `${p.first}x${p.reps}@${p.second}`
}
