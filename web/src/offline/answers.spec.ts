import { IDBFactory } from 'fake-indexeddb'
import type { Middleware } from 'openapi-fetch'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'

import { queryClient } from '@/api/client'
import { rememberPerson } from '@/parts/unsent'

import { keptAnswers, oldest } from './answers'
import { refused, sayRefused, stopDownload } from './refused'

const ID = '11111111-1111-4111-8111-111111111111'
const ask = (path: string, method = 'GET') => new Request(`http://localhost/api/v1${path}`, { method })
const json = (value: unknown, status = 200) => new Response(JSON.stringify(value), { status })
type Came = Parameters<NonNullable<Middleware['onResponse']>>[0]
const came = (request: Request, response: Response) => keptAnswers.onResponse?.({ request, response } as Came)
const failed = async (request: Request) =>
  (await keptAnswers.onError?.({ request, error: new Error('no network') } as never)) as Response | undefined
/** What is kept is kept a moment later. */
const kept = () => new Promise((done) => setTimeout(done, 20))

beforeEach(() => {
  queryClient.clear()
  vi.stubGlobal('indexedDB', new IDBFactory())
  vi.stubGlobal('requestIdleCallback', (act: () => void) => setTimeout(act))
  rememberPerson('ansgar')
})
afterEach(async () => {
  await came(ask('/version'), json({ version: 1 })) // there is a connection again
  vi.unstubAllGlobals()
  rememberPerson('')
})

it('answers with what was shown where the server cannot be reached, and says since when', async () => {
  const read = ask(`/athletes/${ID}/read?school=barn`)
  expect(await failed(read)).toBeUndefined()
  await came(read, json({ headline: 'Grip' }))
  await kept()
  expect(oldest.value).toBeUndefined()
  const answer = await failed(read)
  expect(await answer?.json()).toEqual({ headline: 'Grip' })
  expect(oldest.value).toBeGreaterThan(Date.now() - 5000)
  expect(await failed(ask(`/athletes/${ID}/read`))).toBeUndefined()
  expect(await (await came(read, json({}, 503)))?.json()).toEqual({ headline: 'Grip' })

  // Its own answer ends nothing; the server's does, and what is shown is asked for anew.
  const again = vi.spyOn(queryClient, 'invalidateQueries').mockResolvedValue()
  await came(read, (await failed(read)) ?? json({}))
  expect(again).not.toHaveBeenCalled()
  await came(ask('/version'), json({ version: 1 }))
  expect(again).toHaveBeenCalledOnce()
  expect(oldest.value).toBeUndefined()
})

it('keeps no answers to health questions, nothing that is made for a moment, and nothing another person sees', async () => {
  const golfer = ask(`/athletes/${ID}`)
  await came(golfer, json({ profile: { name: 'Una' }, clearance: { answeredOn: '2026-11-01', yes: ['heart'] } }))
  const read = ask(`/athletes/${ID}/read`)
  await came(
    read,
    json({ headline: 'Red flag: Chest "pain"? Refer.', clearance: { text: 'Answered yes: Dizzy?' }, n: 'Una' }),
  )
  const others = [ask(`/athletes/${ID}/referral`), ask('/version'), ask('/golfers?q=u'), ask('/athletes', 'POST')]
  for (const request of others) await came(request, json([1]))
  await came(ask('/repeats'), json({}, 422))
  await kept()
  expect(await (await failed(golfer))?.json()).toEqual({
    profile: { name: 'Una' },
    clearance: { answeredOn: '', yes: [] },
    withoutAnswers: true,
  })
  const told = JSON.stringify(await (await failed(read))?.json())
  expect(told).toContain('Una')
  expect(told).not.toMatch(/Chest|Dizzy/)
  for (const request of [...others, ask('/repeats')]) expect(await failed(request)).toBeUndefined()
  rememberPerson('berit')
  expect(await failed(golfer)).toBeUndefined()
})

it('says once that something needs the server', async () => {
  vi.useFakeTimers()
  const says = document.body.appendChild(document.createElement('p'))
  says.setAttribute('role', 'alert')
  says.textContent = 'Not saved: no way through'
  sayRefused('no way through')
  vi.runAllTimers()
  expect(refused.value).toBe('')
  says.remove()
  sayRefused('no way through')
  vi.runAllTimers()
  expect(refused.value).toBe('no way through')

  refused.value = ''
  const link = document.body.appendChild(document.createElement('a'))
  link.href = '/api/v1/exports/csv'
  link.addEventListener('click', stopDownload)
  const online = vi.spyOn(navigator, 'onLine', 'get').mockReturnValue(false)
  const click = new MouseEvent('click', { bubbles: true, cancelable: true })
  link.dispatchEvent(click)
  vi.runAllTimers()
  expect(click.defaultPrevented).toBe(true)
  expect(refused.value).toContain('No connection')
  online.mockRestore()
  link.remove()
  refused.value = ''
  vi.useRealTimers()
})
