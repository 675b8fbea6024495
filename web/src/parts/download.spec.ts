import { expect, test } from 'vitest'

import { fileName } from './download'

test('a name becomes part of a file name', () => {
  expect(fileName('Torquil Brae')).toBe('torquil-brae')
  expect(fileName(' Åse  O’Neill / Björk ')).toBe('ase-o-neill-bjork')
  expect(fileName('李')).toBe('李')
})
