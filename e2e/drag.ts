import { golferId, signIn } from './helpers'
import { expect, test } from './walk'

/** How a cell follows the pointer that drags it: the time between the frames in which it moves; docs/performance.md. */
test('a dragged cell', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Torquil Brae')}/programme`)
  const cell = page.locator('[data-place="b1.w1.s1.i1"]')
  const box = await cell.boundingBox()
  if (!box) throw new Error('no cell')
  await page.mouse.move(box.x + 20, box.y + 12)
  await page.mouse.down()
  await page.mouse.move(box.x + 40, box.y + 30, { steps: 3 })
  await page.locator('.ghost').waitFor()
  const frames = page.evaluate(
    () =>
      new Promise<number[]>((done) => {
        const ghost = document.querySelector<HTMLElement>('.ghost')
        const took: number[] = []
        let last = performance.now()
        let place = ghost?.style.transform
        const look = () => {
          const now = performance.now()
          if (ghost && ghost.style.transform !== place) {
            took.push(now - last)
            place = ghost.style.transform
          }
          last = now
          if (took.length < 120) requestAnimationFrame(look)
          else done(took)
        }
        requestAnimationFrame(look)
      }),
  )
  for (let i = 0; i < 400; i++) await page.mouse.move(box.x + 40 + (i % 300), box.y + 30 + (i % 200))
  const took = (await frames).sort((a, b) => a - b)
  await page.keyboard.press('Escape')
  await page.mouse.up()
  const at = (p: number) => took[Math.floor(p * (took.length - 1))]!.toFixed(1)
  console.log(`dragged cell, frame: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(1)} ms`)
  expect(took).toHaveLength(120)
})
