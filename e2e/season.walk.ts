import { readFile } from 'node:fs/promises'

import { bringIn, sendHome, signIn } from './helpers'
import { expect, test } from './walk'

/** A season worked backwards from what is peaked for: dates moved, blocks following, and taken back. */
test.afterAll(({ browser, demo }) => sendHome(browser, demo, ['Sunniva Season', 'Cato Calendar']))

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

  // The season is kept: what a date changes is said before it is taken on.
  await page.getByRole('button', { name: 'Keep this season' }).click()
  await expect(page.getByRole('button', { name: 'Keep this season' })).toHaveCount(0)
  await expect(page.getByTestId('changes')).toHaveCount(0)

  // A competition is dropped on the season and taken back.
  await page.getByRole('button', { name: 'Drop a competition' }).click()
  await page.getByTestId('season-tool').click({ position: { x: 120, y: 20 } })
  await expect(page.getByRole('slider', { name: 'Match, played through' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('slider', { name: 'Match, played through' })).toHaveCount(0)

  // A holiday in the middle: what was one stretch is two, and the way back is easier.
  await page.getByRole('button', { name: 'Add days away' }).click()
  await page.getByLabel('From', { exact: true }).fill('2027-01-25')
  await page.getByLabel('To', { exact: true }).fill('2027-02-10')
  await expect(blocks.getByRole('row', { name: /Away/ })).toBeVisible()
  await expect(blocks.getByRole('row', { name: /Way back/ })).toBeVisible()
  await expect(page.getByTestId('changes')).toContainText('25 Jan')
  await page.getByRole('button', { name: 'Keep it so' }).click()
  await expect(page.getByTestId('changes')).toHaveCount(0)

  // A block's end is set by keys, and follows the dates again.
  const end = page.getByRole('slider', { name: /^End of the block/ }).first()
  await end.focus()
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByTestId('changes')).toBeVisible()
  await page.getByRole('button', { name: 'Let it follow the dates' }).click()
  await expect(page.getByTestId('changes')).toHaveCount(0)

  // Two rounds a week from the start: the first block is in season, and nothing leads.
  await page.getByRole('button', { name: 'Add weeks with rounds' }).click()
  await page.getByLabel('Played to').fill('2027-01-10')
  await expect(blocks.locator('tbody tr').first()).toContainText('in season')
  await page.getByRole('button', { name: 'Remove weeks with rounds 1' }).click()
  await expect(blocks.locator('tbody tr').first()).not.toContainText('in season')

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

test('a block is printed in one action; a calendar is fetched as a file and by a private address, and the address is revoked', async ({
  page,
  playwright,
}) => {
  await signIn(page)
  const id = await bringIn(page, 'Cato Calendar', (f) => {
    f.competitions = [{ date: '2027-03-13', name: 'Spring salver', peak: true }]
  })
  await page.goto(`/golfers/${id}/intake`)
  await page.getByLabel('Sessions start at').fill('17:30')
  await page.getByLabel('Where sessions are').fill('The barn')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await page.getByRole('button', { name: 'Issue…' }).click()
  await page.getByRole('dialog').getByRole('button', { name: 'Issue', exact: true }).click()
  await expect(page.getByTestId('status')).toContainText('issued')

  // The whole block goes on paper in one action.
  await page.getByRole('button', { name: 'Paper and tables…' }).click()
  const [paper] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Whole block, PDF, A4' }).click(),
  ])
  expect(paper.suggestedFilename()).toMatch(/^cato-calendar-programme-.*\.pdf$/)
  expect((await readFile(await paper.path())).subarray(0, 5).toString()).toBe('%PDF-')

  await page.goto(`/golfers/${id}/season`)
  const section = page.getByTestId('calendar')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    section.getByRole('link', { name: 'Calendar file' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('cato-calendar-training.ics')
  const file = await readFile(await download.path(), 'utf8')
  expect(file).toContain('SUMMARY:Session A')
  expect(file).toContain('SUMMARY:Spring salver')
  expect(file).toContain('LOCATION:The barn')

  await section.getByRole('button', { name: 'Make a private address' }).click()
  const address = await section.getByLabel('Private address, shown this once').inputValue()
  const stranger = await playwright.request.newContext()
  const seen = await (await stranger.get(address)).text()
  expect(seen.replace(/^DTSTAMP.*$/gm, '')).toBe(file.replace(/^DTSTAMP.*$/gm, ''))
  await page.reload()
  await expect(section).toContainText(/In force since .* made by/)
  await section.getByRole('button', { name: 'Revoke' }).click()
  await expect(section).toContainText('The address is in force no longer.')
  expect((await stranger.get(address)).status()).toBe(404)
  await stranger.dispose()
})
