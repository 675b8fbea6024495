import { expect, test } from './walk'

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
  await page.getByRole('button', { name: 'Run it' }).click()
  // What is left is shown in whole seconds: the moment it changes is the moment to compare.
  const turn = () =>
    page.getByTestId('runner').evaluate(
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
  await turn() // it runs
  const before = await turn()
  const other = await context.newPage() // the runner's tab is hidden for most of it
  await other.goto('about:blank')
  await other.waitForTimeout(580_000)
  await page.bringToFront()
  await page.waitForTimeout(20_000)
  const after = await turn()
  const drift = before.left - after.left - (after.now - before.now) / 1000
  console.log(
    `timer over ${((after.now - before.now) / 1000).toFixed(1)} s: ${(1000 * drift).toFixed(0)} ms of drift, drawn every 100 ms`,
  )
  expect(Math.abs(drift)).toBeLessThan(2)
})
