import { bringIn, sendHome, signIn } from './helpers'
import { expect, test } from './walk'

const same = { 'Sec-Fetch-Site': 'same-origin' }

/** From a set ticked on one device to it on the board of another, twenty golfers in the class; docs/performance.md. */
test('a board of twenty follows', async ({ browser, demo }) => {
  test.setTimeout(300_000)
  const context = await browser.newContext({ baseURL: demo.url })
  const page = await context.newPage()
  await signIn(page)
  const names = Array.from({ length: 20 }, (_, i) => `Class Golfer ${String(i + 1).padStart(2, '0')}`)
  const golfers: string[] = []
  for (const n of names) golfers.push(await bringIn(page, n, () => undefined))
  const made = await page.request.post('/api/v1/classes', {
    data: { date: '2026-11-24', name: 'Twenty', athletes: golfers, minutes: 60, coaches: 3 },
    headers: same,
  })
  expect(made.ok(), await made.text()).toBe(true)
  const { id } = (await made.json()) as { id: string }
  await page.goto(`/classes/${id}`)
  await page.getByRole('button', { name: 'Start the clock' }).click()
  const second = await (await browser.newContext({ baseURL: demo.url })).newPage()
  await signIn(second)
  await second.goto(`/classes/${id}`)
  const ticks = page.getByRole('button', { name: /^Set done: / })
  await ticks.first().waitFor()
  const took: number[] = []
  for (let i = 0; i < 20; i++) {
    const here = ticks.nth(i % (await ticks.count()))
    const name = (await here.getAttribute('aria-label')) ?? ''
    const there = second.getByRole('button', { name, exact: true }).first()
    const before = (await there.innerText()).trim()
    const seen = there.evaluate(
      (el, was) =>
        new Promise<number>((done) => {
          const look = () => ((el.textContent ?? '').trim() === was ? false : (done(Date.now()), true))
          if (look()) return
          new MutationObserver((_, o) => look() && o.disconnect()).observe(el, {
            characterData: true,
            subtree: true,
            childList: true,
          })
        }),
      before,
    )
    const begin = await here.evaluate((el: HTMLButtonElement) => {
      const now = Date.now()
      el.click()
      return now
    })
    took.push((await seen) - begin)
    await page.waitForTimeout(300)
  }
  took.sort((a, b) => a - b)
  const at = (p: number) => took[Math.floor(p * (took.length - 1))]
  console.log(`a board of 20 follows: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst of 20 ${at(1)} ms`)
  expect(took).toHaveLength(20)
  await second.context().close()
  await context.close()
})

test.afterAll(async ({ browser, demo }) =>
  sendHome(
    browser,
    demo,
    Array.from({ length: 20 }, (_, i) => `Class Golfer ${String(i + 1).padStart(2, '0')}`),
  ),
)
