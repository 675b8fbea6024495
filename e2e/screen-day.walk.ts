import { expect, type Page, test } from './walk'

import { choose, golferId, onlyTheDemo, signIn } from './helpers'

/** A screen day for the whole squad, from the plan to the read, with two tablets typing at once. */
test.describe.configure({ mode: 'serial' })

async function station(page: Page, day: string, name: string) {
  await page.goto(day)
  await page.getByRole('link', { name, exact: true }).click()
  await page.getByRole('table').waitFor()
}

let day = ''

test.beforeAll(({ browser, demo }) => onlyTheDemo(browser, demo))

test('the day is planned, and says how it compares with the best there can be', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Screen days' }).click()
  await page.getByRole('button', { name: 'Plan a day' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Barn day')
  await expect(page.getByText('Choose golfers to see the running order')).toBeVisible()
  await page.getByLabel('All of them').check()
  const words = page.getByTestId('plan-words')
  await expect(words).toContainText('min for 6 golfers')
  await expect(words).toContainText(/no order can be shorter|at best \d+ min were possible/)
  const before = await words.textContent()
  await page.getByLabel('Minutes at Club speed').fill('22')
  await expect(words).not.toHaveText(before ?? '')
  await page.getByLabel('Places at Club speed').fill('2')
  await page.getByLabel('Minutes at Club speed').fill('14')
  await page.getByRole('button', { name: 'Keep this day' }).click()
  await expect(page.getByRole('heading', { name: 'Barn day' })).toBeVisible()
  day = new URL(page.url()).pathname
  // Nobody is at two places: no two lengths of one golfer overlap.
  const rows = page.getByRole('row')
  expect(await rows.count()).toBe(6)
  for (const row of await rows.all()) {
    const boxes = await Promise.all((await row.getByRole('button').all()).map((b) => b.boundingBox()))
    const spans = boxes.flatMap((b) => (b ? [[b.x, b.x + b.width] as const] : [])).sort((a, b) => a[0] - b[0])
    for (let i = 1; i < spans.length; i++) expect(spans[i]![0]).toBeGreaterThanOrEqual(spans[i - 1]![1] - 0.5)
  }
})

test('two tablets type into one day, and each sees the other within two seconds', async ({ browser }) => {
  const [a, b] = await Promise.all([browser.newContext(), browser.newContext()])
  const [one, two] = await Promise.all([a.newPage(), b.newPage()])
  await Promise.all([signIn(one), signIn(two)])
  await Promise.all([station(one, day, 'Range'), station(two, day, 'Range')])
  await one.getByRole('tab', { name: 'Hip internal rotation' }).click()
  await two.getByRole('tab', { name: 'Hip internal rotation' }).click()

  // Whose turn it is, what they did last time, and who is next.
  // Torquil's trials were 21 and 22 on the lead side, 24 and 25 on the trail side: their means.
  const turn = one.getByRole('complementary', { name: 'Whose turn it is' })
  await one.getByLabel('Torquil Brae Hip internal rotation, prone lead trial 1').focus()
  await expect(turn.getByTestId('station-last')).toHaveText(/Last time lead 21\.5, trail 24\.5/)

  // One types the lead side down the squad, the other the trail side, at once: Enter goes to the next golfer.
  const names = await one.locator('tbody th').allTextContents()
  const golfers = names.map((n) => n.trim().split('  ')[0]!.trim())
  expect(golfers).toHaveLength(6)
  const type = async (page: Page, side: string, values: string[]) => {
    await page.getByLabel(`${golfers[0]} Hip internal rotation, prone ${side} trial 1`).focus()
    for (const v of values) {
      await page.keyboard.type(v)
      await page.keyboard.press('Enter')
    }
  }
  // Near what each did before: what is far from it would be asked about.
  const near: Record<string, [lead: string, trail: string]> = {
    'Eilidh Saltness': ['46', '45'],
    'Finn Orrin': ['38', '42'],
    'Jonas Firth': ['30', '31'],
    'Magnus Quoyle': ['27', '15'],
    'Marit Hellyer': ['35', '36'],
    'Torquil Brae': ['22', '25'],
  }
  const lead = golfers.map((g) => near[g]?.[0] ?? '')
  const trail = golfers.map((g) => near[g]?.[1] ?? '')
  await Promise.all([type(one, 'lead', lead), type(two, 'trail', trail)])
  for (const page of [one, two]) {
    for (const [i, g] of golfers.entries()) {
      await expect(page.getByLabel(`${g} Hip internal rotation, prone lead trial 1`)).toHaveValue(lead[i] ?? '', {
        timeout: 4000,
      })
      await expect(page.getByLabel(`${g} Hip internal rotation, prone trail trial 1`)).toHaveValue(trail[i] ?? '', {
        timeout: 4000,
      })
    }
  }

  // What one writes is on the other's page within two seconds.
  const cell = `${golfers[2]} Hip internal rotation, prone lead trial 2`
  await one.getByLabel(cell).fill('37')
  await one.keyboard.press('Enter')
  await expect(one.getByTestId('save-state')).toHaveText('Saved')
  const since = Date.now()
  await expect(two.getByLabel(cell)).toHaveValue('37', { timeout: 5000 })
  const took = Date.now() - since
  test.info().annotations.push({ type: 'seen by the other after', description: `${took} ms` })
  expect(took).toBeLessThan(2000)

  // The same cell from both: the second is asked, and nothing is lost.
  await b.setOffline(true)
  const same = `${golfers[3]} Hip internal rotation, prone lead trial 2`
  const usual = Number(lead[3])
  await two.getByLabel(same).fill(String(usual + 3))
  await two.keyboard.press('Enter')
  await expect(two.getByTestId('save-state')).toContainText('Not sent yet')
  await one.getByLabel(same).fill(String(usual + 2))
  await one.keyboard.press('Enter')
  await expect(one.getByTestId('save-state')).toHaveText('Saved')
  await b.setOffline(false)
  const alert = two.getByRole('alert').filter({ hasText: 'keep yours, or take theirs' })
  await expect(alert).toContainText(`wrote ${usual + 2} here meanwhile`, { timeout: 10_000 })
  await alert.getByRole('button', { name: 'Take theirs' }).click()
  await expect(two.getByLabel(same)).toHaveValue(String(usual + 2), { timeout: 4000 })
  await a.close()
  await b.close()
})

test('the other stations are typed, pain stops a test, and nobody is ranked', async ({ page }) => {
  await signIn(page)
  await station(page, day, 'Jumps')
  await expect(page.getByText('nobody is ranked on this page')).toBeVisible()
  const rows = await page.locator('tbody th').allTextContents()
  const open = rows.map((n) => n.trim()).filter((n) => !n.includes('not cleared'))
  expect(open).toHaveLength(5)
  // Enter goes down the golfers, then to the next trial.
  await page.getByLabel(`${open[0]} Countermovement jump  trial 1`).focus()
  // Near what each jumped before; what is far from it would be asked about.
  const jumped: Record<string, number> = {
    'Eilidh Saltness': 25,
    'Finn Orrin': 30,
    'Magnus Quoyle': 20,
    'Marit Hellyer': 27,
    'Torquil Brae': 37,
  }
  const near = (i: number) => jumped[Object.keys(jumped).find((n) => open[i]?.startsWith(n)) ?? ''] ?? 0
  for (const v of [near(0), near(1), near(2), near(3), near(4), near(0) + 0.5]) {
    await page.keyboard.type(String(v))
    await page.keyboard.press('Enter')
  }
  await expect(page.getByLabel(`${open[0]} Countermovement jump  trial 2`)).toHaveValue(String(near(0) + 0.5))
  await expect(page.getByTestId('station-result-0-')).toContainText(String(near(0) + 0.5))
  await page.getByLabel(`${open[1]} Countermovement jump  trial 2`).focus()
  await page.keyboard.press('p')
  await page.getByRole('radio', { name: '6', exact: true }).click()
  await choose(page, 'Where', 'knee')
  await page.getByRole('button', { name: 'Stop the test' }).click()
  await expect(page.getByTestId('station-result-1-')).toContainText('stopped')
  // An impossible value is refused by name, and typing goes on.
  await page.getByLabel(`${open[2]} Countermovement jump  trial 2`).fill('170')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: open[2]! })).toContainText('not possible')
  await page.getByRole('button', { name: 'Put back' }).click()
  // Taken back.
  await page.getByLabel(`${open[3]} Countermovement jump  trial 2`).fill(String(near(3)))
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
  await page.keyboard.press('Control+z')
  await expect(page.getByLabel(`${open[3]} Countermovement jump  trial 2`)).toHaveValue('')
})

test('what was typed at the stations is the golfer’s screen and read', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${id}/screen`)
  await expect(page.getByLabel('Hip internal rotation, prone lead trial 1')).not.toHaveValue('')
  await page.goto(`/golfers/${id}/read`)
  await expect(page.getByText('Screen of Tue 24 Nov')).toBeVisible()
  await page.getByRole('button', { name: 'Mobility' }).click()
  await expect(
    page.getByLabel('Mobility', { exact: true }).getByText(/Hip internal rotation, prone: lead/),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Referral note' }).click()
  await expect(page.getByRole('heading', { name: 'What would help us' })).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Download as PDF' }).click()
  expect((await download).suggestedFilename()).toMatch(/^referral-torquil-brae-.*\.pdf$/)
})

test('a live grip test is recorded from the stand-in and kept', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${id}/screen`)
  await page.getByLabel('Grip trail trial 1').focus()
  await page.keyboard.press('r')
  await expect(page.getByTestId('live-state')).toContainText('Stand-in dynamometer recording')
  await expect(page.getByTestId('squeeze')).toHaveCount(3, { timeout: 30_000 })
  await page.getByTestId('squeeze').nth(1).getByRole('button', { name: 'Leave out' }).click()
  await expect(page.getByTestId('squeeze').nth(1).getByRole('cell').first()).toHaveText('–')
  await page.waitForTimeout(2500) // the third squeeze is held
  await page.getByRole('button', { name: /^Keep 2 of 3 trials/ }).click()
  const first = page.getByLabel('Grip trail trial 1')
  await expect(first).toHaveValue(/^4[01]\.\d$|^4[01]$/)
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
  await expect(page.getByText(/with Stand-in dynamometer/)).toBeVisible()
  await page.reload()
  await expect(page.getByLabel('Grip trail trial 1')).toHaveValue(/^4[01]/)
})
