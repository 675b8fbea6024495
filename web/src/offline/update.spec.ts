import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

import { useUpdate } from './update'

/** A browser that keeps applications, with a version that waits. */
function browser(o: { waiting?: boolean } = {}) {
  const sent: unknown[] = []
  const worker = Object.assign(new EventTarget(), { postMessage: (m: unknown) => sent.push(m) })
  const registration = Object.assign(new EventTarget(), {
    waiting: o.waiting ? worker : null,
    installing: null as typeof worker | null,
  })
  const container = Object.assign(new EventTarget(), { controller: {}, register: () => Promise.resolve(registration) })
  Object.defineProperty(navigator, 'serviceWorker', { value: container, configurable: true })
  return { sent, worker, registration }
}

describe('a newer version', () => {
  beforeEach(() => setActivePinia(createPinia()))
  afterEach(() => {
    delete (navigator as { serviceWorker?: unknown }).serviceWorker
    vi.unstubAllGlobals()
  })

  it('is offered when it came, and taken over when the coach says so', async () => {
    const b = browser()
    const update = useUpdate()
    await update.register()
    expect(update.waiting).toBeUndefined()
    b.registration.installing = b.worker
    b.registration.dispatchEvent(new Event('updatefound'))
    b.registration.waiting = b.worker
    b.worker.dispatchEvent(new Event('statechange'))
    expect(update.waiting).toBeDefined()
    expect(b.sent).toEqual([])
    update.takeOver()
    expect(b.sent).toEqual(['take over'])
  })

  it('waits while a session runs', async () => {
    const b = browser({ waiting: true })
    const update = useUpdate()
    await update.register()
    update.busy = true
    update.takeOver()
    expect(b.sent).toEqual([])
    update.busy = false
    update.takeOver()
    expect(b.sent).toEqual(['take over'])
  })

  it('says what an address that is not secure cannot do', async () => {
    vi.stubGlobal('isSecureContext', false)
    const update = useUpdate()
    await update.register()
    expect(update.cannot).toMatch(/not secure.*does not open without a network/)
  })
})
