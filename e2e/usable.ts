import { expect, type Browser, type Page, test } from './walk'

import { signIn } from './helpers'
import { everyView, settled, type View } from './views'

/**
 * How soon every view can be used on a processor four times slower: its heading and its first control are drawn and the
 * page answers. Cold is a first visit; tab is the next one in a new tab, for which the browser starts a process; warm is
 * its address opened again, twice, in the same tab; within is coming from another view of the open program. Of each the
 * middle of so many; with it how far things moved about, and the longest the page did not answer.
 */
test.describe.configure({ timeout: 3_600_000 })
const RUNS = Number(process.env.DUNNOCK_RUNS ?? 5)
const ONLY = process.env.DUNNOCK_VIEWS?.split(',')

/** From where the views are gone to within the program. */
const FROM = ['/tests', '/files'] as const

interface Visit {
  usable: number
  shift: number
  longest: number
}

/** The ways a view is come to. */
const WAYS = ['cold', 'tab', 'warm', 'within'] as const
type Visits = Record<(typeof WAYS)[number], Visit[]>

test('usable', async ({ browser, page, demo }) => {
  await signIn(page)
  const views = (await everyView(page)).filter((v) => !ONLY || ONLY.includes(v.name))
  const state = await page.context().storageState()
  const rows: string[] = []
  for (const view of views) {
    const visits: Visits = { cold: [], tab: [], warm: [], within: [] }
    const pace: number[] = []
    for (let i = 0; i < RUNS; i++) {
      pace.push(errand())
      await visit(browser, demo.url, state, view, visits)
    }
    const middle = (of: Visit[], what: keyof Visit) => of.map((v) => v[what]).sort((a, b) => a - b)[of.length >> 1] ?? 0
    const s = (ms: number) => (ms / 1000).toFixed(2)
    const all = Object.values(visits).flat()
    pace.sort((a, b) => a - b)
    rows.push(
      `${view.name.padEnd(14)} ${WAYS.map((way) => `${way} ${s(middle(visits[way], 'usable'))} s`).join(', ')}; ` +
        `moved ${Math.max(...all.map((v) => v.shift)).toFixed(3)}; longest task ` +
        `${WAYS.map((way) => middle(visits[way], 'longest').toFixed(0)).join(', ')} ms; ` +
        `machine ${(pace[pace.length >> 1] ?? 0).toFixed(0)}`,
    )
    console.log(rows.at(-1))
  }
  expect(rows.length).toBe(views.length)
})

test('something can be read on a thin line', async ({ browser, page, demo }) => {
  await signIn(page)
  const views = (await everyView(page)).filter((v) => !ONLY || ONLY.includes(v.name))
  const state = await page.context().storageState()
  const all: number[] = []
  for (const view of views) {
    const first: number[] = []
    for (let i = 0; i < RUNS; i++) {
      const context = await browser.newContext({ storageState: state, baseURL: demo.url })
      const fresh = await context.newPage()
      const cdp = await context.newCDPSession(fresh)
      const thin = { offline: false, latency: 400, downloadThroughput: 50_000, uploadThroughput: 50_000 }
      await cdp.send('Network.emulateNetworkConditions', thin)
      await fresh.goto(view.path, { waitUntil: 'commit' })
      const paint = await fresh.waitForFunction(
        () => performance.getEntriesByName('first-contentful-paint')[0]?.startTime,
      )
      first.push((await paint.jsonValue()) ?? 0)
      await context.close()
    }
    all.push(first.sort((a, b) => a - b)[first.length >> 1] ?? 0)
  }
  console.log(
    `something to read on 400 kbit/s and 400 ms: ${Math.min(...all).toFixed(0)} to ${Math.max(...all).toFixed(0)} ms`,
  )
  expect(all).toHaveLength(views.length)
})

type State = Awaited<ReturnType<ReturnType<Page['context']>['storageState']>>

/** How long one and the same errand takes this machine now, in ms: it is not equally fast all day. */
function errand(): number {
  const begun = performance.now()
  const list = Array.from({ length: 400_000 }, (_, i) => ({ i, text: String(i) }))
  list.sort((a, b) => b.i - a.i)
  return performance.now() - begun
}

/** A first visit in an empty browser, the next ones, and one from another view of the open program. */
async function visit(browser: Browser, url: string, state: State, view: View, visits: Visits) {
  const context = await browser.newContext({
    storageState: state,
    baseURL: url,
    viewport: { width: 1280, height: 800 },
  })
  const page = await context.newPage()
  await page.addInitScript(watch)
  const cdp = await context.newCDPSession(page)
  await cdp.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  const seen = async () => {
    await page.waitForFunction(() => (window as unknown as { seen: Visit }).seen?.usable > 0)
    await settled(page) // what comes later moves things too
    return page.evaluate(() => (window as unknown as { seen: Visit }).seen)
  }
  for (const way of ['cold', 'tab', 'warm', 'warm'] as const) {
    if (way !== 'warm') await page.goto('about:blank')
    await page.goto(view.path, { waitUntil: 'commit' })
    visits[way].push(await seen())
  }
  await page.goto(view.path === FROM[0] ? FROM[1] : FROM[0])
  await seen()
  // What moves within half a second of a key is what was asked for.
  await page.keyboard.press('Shift')
  await page.evaluate((to) => (window as unknown as { goTo(path: string): void }).goTo(to), view.path)
  visits.within.push(await seen())
  await context.close()
}

/** Runs in the page before anything of it: notes when it can be used, what moved, and what took long. */
function watch() {
  const seen = { usable: 0, shift: 0, longest: 0 }
  let begun = 0
  let old: Element | null = null
  new PerformanceObserver((list) => {
    for (const e of list.getEntries() as unknown as { value: number; hadRecentInput: boolean }[])
      if (!e.hadRecentInput) seen.shift += e.value
  }).observe({ type: 'layout-shift', buffered: true })
  new PerformanceObserver((list) => {
    for (const e of list.getEntries()) seen.longest = Math.max(seen.longest, e.duration)
  }).observe({ type: 'longtask', buffered: true })
  const there = () => {
    const heading = document.querySelector('h1')
    const control = document.querySelector('main :is(button, a[href], input, select, textarea):not([disabled])')
    // From the wall there is nothing to press.
    const enough = control ? control.getBoundingClientRect().height > 0 : location.pathname.endsWith('/wall')
    return heading !== old && !!heading?.textContent?.trim() && enough
  }
  const look = () => {
    if (!there()) return void requestAnimationFrame(look)
    // The page answers when a task that is asked for now is done.
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => (seen.usable = performance.now() - begun)
    port2.postMessage(0)
  }
  requestAnimationFrame(look)
  /** Goes to another view as a link does, and watches anew. */
  const goTo = (path: string) => {
    Object.assign(seen, { usable: 0, shift: 0, longest: 0 })
    begun = performance.now()
    old = document.querySelector('h1')
    history.pushState(null, '', path)
    dispatchEvent(new PopStateEvent('popstate'))
    requestAnimationFrame(look)
  }
  Object.assign(window, { seen, goTo })
}
