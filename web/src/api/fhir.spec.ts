import { Fhir } from 'fhir'
import { expect, it } from 'vitest'

import bundle from '../../../internal/formats/testdata/bundle.fhir.json'

/** The server's golden bundle, held against the published R4 structure by a library of its own. */
const validator = new Fhir()
const errors = (b: unknown) =>
  (validator.validate(b as object).messages ?? []).filter((m) => m.severity === 'error' || m.severity === 'fatal')

it('fits FHIR R4', () => {
  expect(bundle.entry.length).toBeGreaterThan(10)
  expect(errors(bundle)).toEqual([])
})

it('would not, were a required part missing', () => {
  const broken = JSON.parse(JSON.stringify(bundle)) as typeof bundle
  delete (broken.entry[1]?.resource as { status?: string }).status
  expect(errors(broken).length).toBeGreaterThan(0)
})
