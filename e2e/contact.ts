import { readFileSync } from 'node:fs'
import { mkdir } from 'node:fs/promises'

import { signIn } from './helpers'
import { everyView, show } from './views'
import { test } from './walk'

/** Contact sheets of every view on a phone, a tablet and a desk, to be looked at: into e2e/test-results/contact. */
const SIZES = [
  { width: 360, height: 740, touch: true, aSheet: 12, shown: 250 },
  { width: 820, height: 1180, touch: true, aSheet: 6, shown: 520 },
  { width: 1280, height: 800, touch: false, aSheet: 6, shown: 780 },
]
const ONLY = process.env.DUNNOCK_VIEWS?.split(',')
const TO = '../e2e/test-results/contact'

for (const { width, height, touch, aSheet, shown } of SIZES)
  test(`every view at ${width} by ${height}`, async ({ browser, page, demo }) => {
    test.setTimeout(600_000)
    await mkdir(TO, { recursive: true })
    await signIn(page)
    const views = (await everyView(page)).filter((v) => !ONLY || ONLY.includes(v.name))
    const context = await browser.newContext({
      storageState: await page.context().storageState(),
      baseURL: demo.url,
      viewport: { width, height },
      hasTouch: touch,
      isMobile: touch,
      reducedMotion: 'reduce',
    })
    const seen = await context.newPage()
    const pictures: { name: string; path: string }[] = []
    for (const [i, view] of views.entries()) {
      await show(seen, view)
      const path = `${TO}/${width}-${i}-${view.name}.png`
      await seen.screenshot({ path })
      pictures.push({ name: view.name, path })
    }
    await context.close()
    const sheet = await browser.newPage({ viewport: { width: 1600, height: 800 } })
    for (let i = 0; i < pictures.length; i += aSheet) {
      const figures = pictures.slice(i, i + aSheet).map(({ name, path }) => {
        const picture = readFileSync(path).toString('base64')
        return `<figure style="margin: 4px"><figcaption>${name}</figcaption><img width="${shown}" src="data:image/png;base64,${picture}"></figure>`
      })
      await sheet.setContent(`<body style="margin: 0; display: flex; flex-wrap: wrap">${figures.join('')}</body>`)
      await sheet.screenshot({ path: `${TO}/sheet-${width}-${i / aSheet}.png`, fullPage: true })
    }
  })
