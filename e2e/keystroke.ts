import { expect, test } from './walk'

import { golferId, signIn } from './helpers'

/** From the Enter that gives a value over to its result on the screen, the server in between; docs/performance.md. */
test('from keystroke to result', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${id}/screen`)
  await page.getByTestId('result-hip-ir-lead').waitFor()
  const took: number[] = []
  for (let i = 0; i < 40; i++) {
    const cell = page.getByLabel('Hip internal rotation, prone lead trial 1')
    await cell.fill(String(20 + (i % 2) * 6 + i / 100))
    took.push(
      await cell.evaluate(
        (input: HTMLInputElement) =>
          new Promise<number>((done) => {
            const result = document.querySelector('[data-testid="result-hip-ir-lead"]')!
            const before = result.textContent
            const begin = performance.now()
            const seen = new MutationObserver(() => {
              if (result.textContent === before) return
              seen.disconnect()
              done(performance.now() - begin)
            })
            seen.observe(result, { childList: true, characterData: true, subtree: true })
            input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }))
          }),
      ),
    )
    await page.waitForTimeout(120)
  }
  took.sort((a, b) => a - b)
  const at = (p: number) => took[Math.floor(p * (took.length - 1))]!.toFixed(0)
  console.log(`keystroke to result: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(1)} ms`)
  expect(took).toHaveLength(40)
})
