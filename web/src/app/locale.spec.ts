import { expect, test } from 'vitest'
import { createVuetify } from 'vuetify'
import { en } from 'vuetify/locale'

import { english } from './locale'

/** Every path of words, as `input.clear`. */
const paths = (of: object, before = '$vuetify'): string[] =>
  Object.entries(of).flatMap(([name, at]) =>
    typeof at === 'string' ? [`${before}.${name}`] : paths(at as object, `${before}.${name}`),
  )

test('the words are those of the library’s own adapter', () => {
  const { locale } = createVuetify()
  expect(paths(en).length).toBeGreaterThan(80)
  for (const path of paths(en)) expect(english.t(path, 'one', 2, 3), path).toBe(locale.t(path, 'one', 2, 3))
  expect(english.t('Clear {0}', 'Height')).toBe('Clear Height')
  expect(english.t('$vuetify.not.there')).toBe('$vuetify.not.there')
  expect(english.n(1234.5)).toBe(locale.n(1234.5))
  expect(english.provide({})).toBe(english)
})
