import { test } from '@playwright/test'

import { golferId, signIn } from './helpers'

/** The pictures in docs/screenshots, one for each main view, from the demo on a frozen day. */
const shot = (name: string) => ({ path: `../docs/screenshots/${name}.png` })

test('pictures of the main views', async ({ page }) => {
  await page.goto('/sign-in')
  await page.getByLabel('Email address').waitFor()
  await page.screenshot(shot('sign-in'))
  await signIn(page)
  await page.getByText('Torquil Brae').waitFor()
  await page.screenshot(shot('squad'))

  const magnus = await golferId(page, 'Magnus Quoyle')
  await page.goto(`/golfers/${magnus}/intake`)
  await page.getByTestId('clearance').waitFor()
  await page.screenshot(shot('intake'))

  const torquil = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${torquil}/screen`)
  await page.getByTestId('result-hip-ir-lead').waitFor()
  await page.getByLabel('Hip internal rotation, prone lead trial 1').focus()
  await page.screenshot(shot('screen-sheet'))

  await page.goto(`/golfers/${torquil}/read`)
  await page.getByTestId('headline').waitFor()
  await page.waitForTimeout(300)
  await page.screenshot(shot('read'))

  await page.goto(`/golfers/${torquil}/programme`)
  await page.getByTestId('status').waitFor()
  await page.waitForTimeout(300)
  await page.screenshot(shot('programme'))
  await page.locator('[data-place="b1.w2.s1.i4"]').click()
  await page.getByText('Instead').waitFor()
  await page.waitForTimeout(300)
  await page.screenshot(shot('programme-item'))

  const marit = await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${marit}/programme`)
  await page.getByTestId('status').waitFor()
  await page.locator('tr.day a').first().click()
  await page.getByTestId('card').waitFor()
  await page.emulateMedia({ media: 'print' })
  await page.getByTestId('card').screenshot(shot('session-card'))
})
