import { afterEach, expect, it, vi } from 'vitest'

import { fetchOrAhead, holdQuestions } from './ahead'

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

it('asks for what a page shows once it is drawn, and for who is there at once', async () => {
  const asked: string[] = []
  vi.stubGlobal('fetch', (r: Request) => {
    asked.push(r.method + new URL(r.url).pathname.replace('/api/v1', ' '))
    return Promise.resolve(new Response('asked'))
  })
  const letGo = holdQuestions()
  const held = ask('/meta')
  await ask('/session')
  await ask('/screens/1', 'PUT')
  expect(asked).toEqual(['GET /session', 'PUT /screens/1'])
  letGo()
  expect(await held).toBe('asked')
  await ask('/athletes')
  expect(asked.slice(2)).toEqual(['GET /meta', 'GET /athletes'])
})

it('waits for a page that is never drawn no longer than two seconds', async () => {
  vi.useFakeTimers()
  vi.stubGlobal('fetch', () => Promise.resolve(new Response('asked')))
  holdQuestions()
  const held = ask('/meta')
  await vi.advanceTimersByTimeAsync(2000)
  expect(await held).toBe('asked')
  vi.useRealTimers()
})
