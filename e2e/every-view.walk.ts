import { readFileSync } from 'node:fs'

import { expect, type Page, test } from './walk'

import { readsWell, signIn } from './helpers'
import { everyView, faults, openViews, show, tooWide } from './views'

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
})

/** Colours of the other theme, on the page as it is. */
const darken = (page: Page) =>
  page.evaluate(() => {
    for (const e of document.querySelectorAll('.v-theme--light')) e.classList.replace('v-theme--light', 'v-theme--dark')
  })

for (const [what, width, height, touch] of [
  ['a phone', 360, 740, true],
  ['a tablet', 820, 1180, true],
  ['a desk', 1280, 800, false],
] as const)
  test(`every view fits ${what}, can be read and aimed at, and speaks plainly`, async ({ browser, demo }) => {
    const context = await browser.newContext({
      viewport: { width, height },
      baseURL: demo.url,
      hasTouch: touch,
      isMobile: touch && width < 500,
      reducedMotion: 'reduce',
      locale: 'en-GB',
      timezoneId: 'Europe/London',
    })
    const page = await context.newPage()
    await signIn(page)
    const found: string[] = []
    for (const view of await everyView(page)) {
      await show(page, view)
      const wrong = await faults(page, view, touch)
      if (what === 'a phone') {
        // As wide as a page of 1280 px is at four times its size, and the smallest phones.
        await page.setViewportSize({ width: 320, height: 640 })
        wrong.push(...(await tooWide(page)))
        await page.setViewportSize({ width, height })
      }
      if (what === 'a desk') {
        await readsWell(page, view.name)
        // The dark colours take as long again: `make contrast`.
        if (process.env.DUNNOCK_DARK) {
          await darken(page)
          await readsWell(page, `${view.name}, dark`, ['color-contrast'])
        }
      }
      found.push(...wrong.map((f) => `${view.name}: ${f}`))
    }
    expect(found).toEqual([])
    await context.close()
  })
