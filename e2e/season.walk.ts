import { bringIn, sendHome, signIn } from './helpers'
import { expect, test } from './walk'

/** A season worked backwards from what is peaked for: dates moved, blocks following, and taken back. */
test.afterAll(({ browser, demo }) => sendHome(browser, demo, ['Sunniva Season']))

test('two competitions make a season, a moved date moves the blocks, days away stop them', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Sunniva Season', (f) => {
    f.competitions = [
      { date: '2027-01-16', name: 'Winter plate', peak: true },
      { date: '2027-03-13', name: 'Spring salver', peak: true },
    ]
  })
  await page.goto(`/golfers/${id}/season`)
  const blocks = page.getByTestId('blocks')
  await expect(blocks.getByRole('row', { name: /block to Winter plate/ })).toBeVisible()
  await expect(blocks.getByRole('row', { name: /block to Spring salver/ })).toBeVisible()
  const before = await blocks.innerText()

  // A week later: the blocks follow, and Undo brings the date back.
  const first = page.getByRole('slider', { name: /Winter plate/ })
  await first.focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect(first).toHaveAttribute('aria-valuetext', /23 Jan/)
  await expect(blocks).not.toHaveText(before, { useInnerText: true })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(blocks).toHaveText(before, { useInnerText: true })

  // By the mouse: the last pennant two weeks later.
  const last = page.getByRole('slider', { name: /Spring salver/ })
  const box = await last.locator('.grip').boundingBox()
  const plot = await page.getByRole('group', { name: 'Season' }).boundingBox()
  if (!box || !plot) throw new Error('the pennant has no place')
  await page.mouse.move(box.x + 8, box.y + 40)
  await page.mouse.down()
  await page.mouse.move(box.x + 30, box.y + 40, { steps: 4 })
  await page.mouse.up()
  await expect(last).not.toHaveAttribute('aria-valuetext', /13 Mar/)
  await expect(blocks).not.toHaveText(before, { useInnerText: true })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(blocks).toHaveText(before, { useInnerText: true })

  // A holiday in the middle: what was one stretch is two, and the way back is easier.
  await page.getByRole('button', { name: 'Add days away' }).click()
  await page.getByLabel('From', { exact: true }).fill('2027-01-25')
  await page.getByLabel('To', { exact: true }).fill('2027-02-10')
  await expect(blocks.getByRole('row', { name: /Away/ })).toBeVisible()
  await expect(blocks.getByRole('row', { name: /Way back/ })).toBeVisible()

  // The block that is drafted is as long as the season leaves for it.
  const weeks = await blocks.locator('tbody tr').first().locator('td').nth(1).innerText()
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByTestId('rule-summary')).toBeVisible()
  const sent = await page.request.get(`/api/v1/athletes/${id}/programmes`)
  const [drafted] = (await sent.json()) as { id: string }[]
  const view = (await (await page.request.get(`/api/v1/programmes/${drafted?.id}`)).json()) as {
    programme: { blocks: { weeks: unknown[] }[] }
  }
  expect(`${view.programme.blocks[0]?.weeks.length}-week`).toBe(weeks.split(' ')[0])
})
