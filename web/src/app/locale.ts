import { computed, ref, shallowRef } from 'vue'
import type { LocaleInstance } from 'vuetify'
import { en } from 'vuetify/locale'

const OWN = '$vuetify.'

/** The words at a path as `input.clear`, or nothing. */
function wordsAt(path: string): string | undefined {
  let at: unknown = en
  for (const step of path.split('.')) at = (at as Record<string, unknown> | undefined)?.[step]
  return typeof at === 'string' ? at : undefined
}

const numbers = new Map<string, Intl.NumberFormat>()
function number(value: number, options?: Intl.NumberFormatOptions): string {
  const key = JSON.stringify(options ?? {})
  const format = numbers.get(key) ?? new Intl.NumberFormat('en', options)
  numbers.set(key, format)
  return format.format(value)
}

/**
 * The words the library's components say themselves, in English, the one language there is. Its own adapter makes a
 * register of all of its words before anything is drawn; here they are looked up when one is said.
 */
export const english: LocaleInstance = {
  name: 'english',
  current: ref('en'),
  fallback: ref('en'),
  messages: shallowRef({ en }),
  decimalSeparator: computed(() => '.'),
  numericGroupSeparator: computed(() => ','),
  t: (key, ...params) => {
    const words = key.startsWith(OWN) ? (wordsAt(key.slice(OWN.length)) ?? key) : key
    return words.replace(/\{(\d+)\}/g, (_, at: string) => String(params[Number(at)]))
  },
  n: number,
  provide: () => english,
}
