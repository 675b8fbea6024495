import { IDBFactory } from 'fake-indexeddb'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { queryClient } from '@/api/client'
import { rememberPerson } from '@/parts/unsent'
import type { Log } from '@/views/floor/log'
import { keepLog, sessionName } from '@/views/floor/session'

import { keep, kept, sweep } from './kept'

const HOUR = 3600_000

describe('what is kept on the device', () => {
  beforeEach(() => {
    queryClient.clear()
    vi.stubGlobal('indexedDB', new IDBFactory())
    rememberPerson('ansgar')
  })
  afterEach(() => {
    vi.restoreAllMocks()
    vi.unstubAllGlobals()
    rememberPerson('')
  })
  const later = (ms: number) => {
    const now = Date.now() + ms
    vi.spyOn(Date, 'now').mockReturnValue(now)
  }

  it('is shown for three days and no longer', async () => {
    await keep('today', { date: '2026-11-24' })
    later(71 * HOUR)
    expect((await kept('today'))?.value).toEqual({ date: '2026-11-24' })
    vi.restoreAllMocks()
    later(73 * HOUR)
    expect(await kept('today')).toBeUndefined()
    vi.restoreAllMocks()
    expect(await kept('today')).toBeUndefined()
  })

  it('is removed when it is too old, whoever it is of', async () => {
    await keep('today', { date: '2026-11-24' })
    rememberPerson('berit')
    later(73 * HOUR)
    await sweep()
    vi.restoreAllMocks()
    rememberPerson('ansgar')
    expect(await kept('today')).toBeUndefined()
  })

  it('is not shown to the next person, and goes at sign-out', async () => {
    await keep('today', { date: '2026-11-24' })
    rememberPerson('berit')
    expect(await kept('today')).toBeUndefined()
    rememberPerson('ansgar')
    expect(await kept('today')).toBeDefined()
    await sweep(true)
    expect(await kept('today')).toBeUndefined()
  })

  it('holds what was noted of a session since', async () => {
    const log = { entries: 2, items: [{ item: 'a', sets: [] }] } as unknown as Log
    await keepLog('g', 's', log)
    expect(await kept(sessionName('g', 's'))).toBeUndefined()
    await keep(sessionName('g', 's'), { title: 'C', log: { entries: 1 } })
    await keepLog('g', 's', log)
    await keepLog('g', 's', { entries: 1 } as unknown as Log)
    expect((await kept(sessionName('g', 's')))?.value).toEqual({ title: 'C', log })
  })

  it('is nothing while nobody is signed in', async () => {
    rememberPerson('')
    await keep('today', { date: '2026-11-24' })
    rememberPerson('ansgar')
    expect(await kept('today')).toBeUndefined()
  })
})
