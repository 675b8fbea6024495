import { readFileSync } from 'node:fs'

import { expect, type Page, test } from './walk'

import { readsWell, signIn } from './helpers'
import { everyView, faults, openViews, show, tooCramped, tooWide } from './views'

test.describe.configure({ timeout: 420_000 })

test('every view there is stands in the list of views', async ({ page }) => {
  await signIn(page)
  const source = ['router', 'steps'].map((f) => readFileSync(`../web/src/app/${f}.ts`, 'utf8')).join('')
  const names = [...source.matchAll(/\bname: '([a-z-]+)'/g)].map((m) => m[1])
  const listed = (await everyView(page)).map((v) => v.name)
  expect([...new Set([...listed, ...openViews])].sort()).toEqual([...new Set(names)].sort())
})

test('what a view must not have is found', async ({ page }) => {
  await page.setContent(`<main><h1>Screen</h1><p style="font-size: 10px">Read on 2026-11-24 by LOAD-STEP.</p>
    <p>A sentence that is said here and there. A sentence that is said here and there.</p>
    <button style="width: 10px; height: 10px"></button><svg width="40" height="40"></svg>
    <div style="width: 3000px">wide</div><table><tr><td>1</td></tr></table></main>`)
  const found = await faults(page, { name: 'screen', path: '', golfer: 'Torquil Brae' }, false)
  for (const what of [
    'wide',
    'small',
    'aim',
    'raw: 2026-11-24',
    'raw: LOAD-STEP',
    'said 2 times',
    'title',
    'plot',
    'table',
  ])
    expect(found.join('\n')).toContain(what)
  await page.setContent('<div style="height: 60vh"></div><main id="content">Work</main>')
  expect(await tooCramped(page)).toHaveLength(1)
})

const CONTRAST = !!process.env.DUNNOCK_CONTRAST

/** Colours of the other theme, on the page as it is. */
const darken = (page: Page) => page.evaluate(() => void document.documentElement.classList.add('v-theme--dark'))

/** Another screen; what listens to its width has answered a frame later. */
async function turn(page: Page, width: number, height: number) {
  await page.setViewportSize({ width, height })
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
}

// Each view is opened once and turned from a phone into a tablet and a desk: opening is what takes the time.
test('every view fits a phone, a tablet and a desk, can be read and aimed at, and speaks plainly', async ({
  browser,
  demo,
}) => {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    baseURL: demo.url,
    hasTouch: true,
    isMobile: true,
    reducedMotion: 'reduce',
    locale: 'en-GB',
    timezoneId: 'Europe/London',
  })
  const page = await context.newPage()
  await signIn(page)
  const found: string[] = []
  for (const view of await everyView(page)) {
    await page.setViewportSize({ width: 360, height: 740 })
    await show(page, view)
    const wrong = [...(await faults(page, view, true)), ...(await tooCramped(page))].map((f) => `360 px: ${f}`)
    // As wide as a page of 1280 px is at four times its size, and the smallest phones.
    await turn(page, 320, 640)
    wrong.push(...(await tooWide(page)).map((f) => `320 px: ${f}`))
    await turn(page, 820, 1180)
    wrong.push(...(await faults(page, view, true)).map((f) => `820 px: ${f}`))
    await turn(page, 1280, 800)
    wrong.push(...(await faults(page, view, true)).map((f) => `1280 px: ${f}`))
    // Contrast takes as long as all the rest; `make contrast` looks at it, in the light colours and the dark ones.
    await readsWell(page, view.name, undefined, CONTRAST ? [] : ['color-contrast'])
    if (CONTRAST) {
      await darken(page)
      await readsWell(page, `${view.name}, dark`, ['color-contrast'])
    }
    found.push(...wrong.map((f) => `${view.name}, ${f}`))
  }
  expect(found).toEqual([])
  await context.close()
})
