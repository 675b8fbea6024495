import { expect, test, type Page } from './walk'

import { bringIn, sendHome, set, signIn, type GolferFile } from './helpers'

test.afterAll(({ browser, demo }) => sendHome(browser, demo, ['Peter Peaks', 'Lena Layoff', 'Wyn Weakside']))

/** A day so many days behind the file's own. */
const daysOn = (f: GolferFile, days: number) =>
  new Date(Date.parse(f.asOf) + days * 86_400_000).toISOString().slice(0, 10)

async function draft(page: Page, id: string) {
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByTestId('rule-summary')).toHaveText('Every rule that could be checked is kept.')
}

test('a block that ends in a peak event tapers toward it', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Peter Peaks', (f) => {
    f.competitions = [{ date: daysOn(f, 32), name: 'Harbour Cup', peak: true }]
  })
  await draft(page, id)
  await expect(page.getByRole('columnheader', { name: /Week 3.*taper/s }).first()).toBeVisible()
  await expect(page.getByRole('columnheader', { name: /taper, retest/ })).toBeVisible()
  const taper = page.getByText(/In the 14 days before an event to peak for, volume falls by 30 to 45%/)
  await page.getByText(/rules are kept/).click()
  await expect(taper).toBeVisible()
  await expect(page.getByText('it is the eve of Harbour Cup')).toHaveCount(1)
})

test('after a lay-off the work comes back slowly, and says so', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Lena Layoff', (f) => Object.assign(f, { offWeeks: 12, offWhy: 'holiday' }))
  await draft(page, id)
  const strip = page.getByRole('region', { name: 'Asked and given' })
  await strip.getByRole('button', { name: /more are kept up/ }).click()
  await expect(
    strip.getByText(/LAY-OFF: the first weeks after 12 without training come back slowly/).first(),
  ).toBeVisible()
  await expect(page.getByText(/then by reserve, leave [4-9] in reserve/).first()).toBeVisible()
})

test('a really weaker side gets more, and the card says which', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Wyn Weakside', (f) => {
    set(f, 'grip', 30, 'lead')
    set(f, 'grip', 46, 'trail')
  })
  await draft(page, id)
  const more = page.getByText(/lead side (one set|\d+( s)?) more/).first()
  await expect(more).toBeVisible()
  await more.click()
  await expect(page.getByText(/side goes first and gets more, until it is tested again/)).toBeVisible()
})
