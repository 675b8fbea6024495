import { afterEach, expect, it, vi } from 'vitest'

import { fetchOrAhead } from './ahead'

afterEach(() => {
  vi.unstubAllGlobals()
  delete window.ahead
})

const ask = (path: string, method = 'GET') =>
  fetchOrAhead(new Request(`http://localhost/api/v1${path}`, { method })).then((r) => r.text())
const begin = (at = performance.now()) =>
  (window.ahead = { at, answers: new Map([['/api/v1/session', Promise.resolve(new Response('ahead'))]]) })

it('takes what was asked ahead once, and asks for everything else', async () => {
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('asked')))
  expect(await ask('/session')).toBe('asked')
  begin()
  expect(await ask('/meta')).toBe('asked')
  expect(await ask('/session')).toBe('ahead')
  expect(await ask('/session')).toBe('asked')
})

it('takes nothing that was asked before a change, or long ago', async () => {
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('asked')))
  begin()
  await ask('/session', 'POST')
  expect(await ask('/session')).toBe('asked')
  begin(performance.now() - 11_000)
  expect(await ask('/session')).toBe('asked')
})
