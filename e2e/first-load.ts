import { type Browser, test } from './walk'

import { signIn } from './helpers'

/** Prints what a browser with an empty cache loads, and how long it takes, until a view can be used. */
test('first load', async ({ browser, page }) => {
  await measure(browser, 'sign-in', '/sign-in', 'Email address')
  await signIn(page)
  await measure(browser, 'squad', '/', 'Name, group or what is due', await page.context().storageState())
})

type State = NonNullable<Parameters<Browser['newContext']>[0]>['storageState']

async function measure(browser: Browser, name: string, path: string, ready: string, storageState?: State) {
  const context = await browser.newContext(storageState ? { storageState } : {})
  const page = await context.newPage()
  const start = Date.now()
  await page.goto(path)
  await page.getByLabel(ready).first().waitFor()
  const ms = Date.now() - start
  const loaded = await page.evaluate(() =>
    (performance.getEntriesByType('resource') as PerformanceResourceTiming[]).map((e) => ({
      name: e.name,
      size: e.encodedBodySize,
    })),
  )
  const sum = (end: RegExp) => loaded.filter((e) => end.test(e.name)).reduce((n, e) => n + e.size, 0) / 1024
  console.log(
    `${name}: script ${sum(/\.js$/).toFixed(0)} kB, style ${sum(/\.css$/).toFixed(0)} kB, fonts ${sum(/\.woff2$/).toFixed(0)} kB; usable after ${ms} ms`,
  )
  await context.close()
}
