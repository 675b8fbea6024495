import { expect, test } from './walk'

import { bringIn, sendHome, set, signIn } from './helpers'

/** The golfers brought in go again: the walks that follow find the demo as it was. */
test.afterAll(({ browser, demo }) => sendHome(browser, demo, ['Torquil Twin', 'Even Steven', 'Wrenna Sore']))

test('a clear leader is named in plain words, and the programme gives what it asks for', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Torquil Twin', () => undefined)
  await page.goto(`/golfers/${id}/read`)
  await expect(page.getByTestId('headline')).toContainText('Mobility holds Torquil back most: lead hip turns in 21.5°')
  await expect(page.getByTestId('headline')).not.toContainText('spread')
  await page.getByText('The arithmetic').click()
  await expect(page.getByText(/Need .* = gap × relevance 0.7/)).toBeVisible()

  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  const strip = page.getByRole('region', { name: 'Asked and given' })
  const mobility = strip.getByRole('listitem', { name: /^Mobility, leads: wanted 5 to 8 min a joint/ })
  await expect(mobility).toContainText('met')
  await expect(mobility).toContainText('% of the minutes')
  await strip.getByRole('button', { name: /more are kept up/ }).click()
  await expect(strip.getByRole('listitem', { name: /^Grip, kept up/ })).toBeVisible()
})

test('no clear leader is an answer, and an even mix the plan', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Even Steven', (f) => {
    for (const [t, v] of Object.entries({ 'thoracic-rotation': 52, 'hip-ir': 37, 'ankle-lunge': 11 })) set(f, t, v)
  })
  await page.goto(`/golfers/${id}/read`)
  await expect(page.getByTestId('headline')).toContainText('Nothing measured lies clearly below target.')
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByText('Nothing leads: an even mix')).toBeVisible()
})

test('a limit is met by a safe plan, on screen and on the card, and ended with a reason', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Wrenna Sore', (f) => {
    const grip = f.screens.at(-1)?.trials.filter((t) => t.test === 'grip' && t.side === 'lead') ?? []
    Object.assign(grip[0] ?? {}, { status: 'stopped', value: 0, pain: 6, region: 'wrist-hand' })
  })
  await page.goto(`/golfers/${id}/read`)
  await expect(page.getByText(/Pain 6 of 10 \(wrist or hand, lead side\) in grip/)).toBeVisible()
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByTestId('rule-summary')).toHaveText('Every rule that could be checked is kept.')
  await expect(page.getByRole('rowheader', { name: /Trap-bar deadlift|Bench press/ })).toHaveCount(0)
  await page.locator('table a').first().click()
  await expect(page.getByTestId('card')).toContainText('Limits: wrist hand, lead side: none of this pattern')

  await page.goto(`/golfers/${id}/intake`)
  await page.getByRole('button', { name: 'End this limit…' }).click()
  await page.getByLabel('Why it may end').fill('Seen by the physiotherapist')
  await page.getByRole('button', { name: 'End it' }).click()
  await expect(page.getByText(/ended on .*, Seen by the physiotherapist/)).toBeVisible()
  await expect(page.getByTestId('standing')).toHaveCount(0)
})
