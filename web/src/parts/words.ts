/** A name of the contract as it is read: `no-impact` is `no impact`. */
export const spaced = (s: string) => s.replaceAll('-', ' ')

/** A sentence's first letter as one. */
export const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)

/** A number with a true minus sign, and none before a zero. */
export const signed = (v: number, decimals = 0) =>
  v
    .toFixed(decimals)
    .replace(/^-(?=0(\.0*)?$)/, '')
    .replace('-', '−')

/** The paper printers hold where this browser's language is spoken. */
export const paperHere = () => (/-(US|CA|MX|PH)$/.test(navigator.language) ? 'letter' : 'a4')

/** How many there are of something: 1 row, 2 rows. */
export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`
