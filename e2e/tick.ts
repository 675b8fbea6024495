import { expect, test } from './walk'

import { feelsFine, golferId, openSession, signIn } from './helpers'

/** From the tap that ticks a set to the frame that shows it ticked, on a processor four times slower; docs/performance.md. */
test('from tap to ticked', async ({ browser, demo }) => {
  const context = await browser.newContext({ viewport: { width: 360, height: 740 }, hasTouch: true, baseURL: demo.url })
  const page = await context.newPage()
  await signIn(page)
  const id = await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${id}/floor/${await openSession(page, id)}`)
  await feelsFine(page)
  await page.getByRole('button', { name: 'Warm: to the work' }).click()
  const slow = await context.newCDPSession(page)
  await slow.send('Emulation.setCPUThrottlingRate', { rate: 4 })
  const took: number[] = []
  for (let i = 0; i < 30; i++) {
    const space = page.getByRole('button', { name: 'The space is clear' })
    const tick = page.getByTestId('tick')
    await expect(
      space
        .or(tick)
        .or(page.getByRole('region', { name: 'After the session' }))
        .first(),
    ).toBeVisible()
    if (await space.isVisible()) {
      await space.click()
      continue
    }
    if (!(await tick.isVisible())) break
    if (await tick.isDisabled()) {
      await page.getByLabel('Load', { exact: true }).and(page.locator('input')).fill('12')
      await page.keyboard.press('Tab')
    }
    took.push(
      await tick.evaluate(
        (button: HTMLButtonElement) =>
          new Promise<number>((done) => {
            const begin = performance.now()
            const seen = new MutationObserver(() => {
              seen.disconnect()
              requestAnimationFrame(() => {
                // A message comes after the frame is drawn.
                const drawn = new MessageChannel()
                drawn.port1.onmessage = () => done(performance.now() - begin)
                drawn.port2.postMessage(0)
              })
            })
            seen.observe(document.querySelector('[aria-label="The session"]')!.parentElement!, {
              childList: true,
              characterData: true,
              subtree: true,
            })
            button.click()
          }),
      ),
    )
    await page.waitForTimeout(400)
  }
  took.sort((a, b) => a - b)
  const at = (p: number) => took[Math.floor(p * (took.length - 1))]!.toFixed(0)
  console.log(
    `tap to ticked, four times slower: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst of ${took.length} ${at(1)} ms`,
  )
  expect(took.length).toBeGreaterThan(8)
  await context.close()
})
