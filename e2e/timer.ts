import { expect, test } from '@playwright/test'

import { golferId, signIn } from './helpers'

/** How far the timer of the runner is off after ten real minutes, most of them hidden; docs/performance.md. */
test('ten minutes of the timer', async ({ page, context }) => {
  test.setTimeout(720_000)
  await signIn(page)
  const id = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${id}/warmup`)
  await page.getByTestId('sum').waitFor()
  for (let i = 0; i < 10; i++) await page.getByRole('button', { name: 'A minute more' }).click()
  await page.getByTestId('sum').getByText('of 20 minutes').waitFor()
  const total = await page.getByTestId('sum').locator('b').first().textContent()
  const [m, s] = (total ?? '0:0').split(':').map(Number)
  const whole = 60 * (m ?? 0) + (s ?? 0)
  await page.getByRole('button', { name: 'Run it' }).click()
  const begin = Date.now()
  const other = await context.newPage() // the runner's tab is hidden for most of it
  await other.goto('about:blank')
  await other.waitForTimeout(580_000)
  await page.bringToFront()
  await page.waitForTimeout(20_000)
  // What is left is shown in whole seconds: the moment it changes is the moment to compare.
  const at = await page.getByTestId('runner').evaluate(
    (el) =>
      new Promise<{ left: number; now: number }>((done) => {
        const line = el.querySelector('.small')!
        const seen = new MutationObserver(() => {
          seen.disconnect()
          const [min, sec] = (/(\d+):(\d+) to go/.exec(line.textContent ?? '') ?? ['', '0', '0']).slice(1).map(Number)
          done({ left: 60 * (min ?? 0) + (sec ?? 0), now: Date.now() })
        })
        seen.observe(line, { childList: true, characterData: true, subtree: true })
      }),
  )
  const passed = (at.now - begin) / 1000
  const off = whole - at.left - passed
  console.log(
    `timer after ${passed.toFixed(1)} s: ${(1000 * off).toFixed(0)} ms off, of which up to 100 ms is the beat it is drawn with`,
  )
  expect(Math.abs(off)).toBeLessThan(2)
})
