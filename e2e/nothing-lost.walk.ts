import { expect, type Page, test } from './walk'

import { golferId, signIn } from './helpers'

/** What a coach could lose: answers, drafts, values typed over, entries on a shared tablet, the fourth week on paper. */

/** The golfers made here: erased at the end, since other walks count the squad. */
const made: string[] = []
test.afterAll(async ({ browser }) => {
  const page = await browser.newPage()
  await signIn(page)
  for (const id of made) expect((await page.request.delete(`/api/v1/athletes/${id}`)).status()).toBe(204)
  await page.close()
})

async function newGolfer(page: Page, name: string): Promise<string> {
  const answer = await page.request.post('/api/v1/athletes', {
    data: { profile: { name, birthDate: '1988-04-07', playingSide: 'right', trainingMonths: 12, sex: 'female' } },
  })
  const { id } = (await answer.json()) as { id: string }
  made.push(id)
  return id
}
async function newScreen(page: Page, golfer: string): Promise<void> {
  await page.request.post(`/api/v1/athletes/${golfer}/screens`, { data: { date: '2026-11-24' } })
  await page.goto(`/golfers/${golfer}/screen`)
}
const saved = (page: Page) => expect(page.getByTestId('save-state')).toHaveText('Saved')

test('answers of no are kept over a reload, and a clearance is not cleared without a question', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await newGolfer(page, 'Nora Ness')}/intake`)
  const first = page.getByRole('radiogroup').first()
  await first.getByLabel('No').check()
  await saved(page)
  await page.reload()
  await expect(first.getByLabel('No')).toBeChecked()
  await expect(page.getByText(/questions are still open/)).toBeVisible()

  const all = page.getByRole('radiogroup')
  await all.nth(1).waitFor()
  for (const q of await all.all()) await q.getByLabel('No').check()
  await expect(page.getByTestId('clearance')).toContainText('Cleared')
  await page.getByRole('button', { name: 'Ask again…' }).click()
  await expect(page.getByText('All answers are cleared')).toBeVisible()
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(page.getByTestId('clearance')).toContainText('Cleared')
  await page.getByRole('button', { name: 'Ask again…' }).click()
  await page.getByRole('button', { name: 'Ask again', exact: true }).click()
  await expect(page.getByTestId('clearance')).toContainText('have not been answered')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByTestId('clearance')).toContainText('Cleared')
})

test('what people write is understood, or asked and offered; a block with labels is laid by name', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await signIn(page)
  await newScreen(page, await newGolfer(page, 'Wynn Ways'))
  const type = async (cell: string, text: string) => {
    await page.getByLabel(cell, { exact: true }).fill(text)
    await page.getByLabel(cell, { exact: true }).press('Enter')
  }
  await type('Standing height  trial 1', `6'0"`)
  await expect(page.getByTestId('result-height-')).toContainText('182.9 cm')
  await type('Standing height  trial 2', '72')
  const trouble = page.getByRole('alert')
  await expect(trouble).toContainText('Standing height, trial 2: 72 cm is not possible')
  await trouble.getByRole('button', { name: '72 in' }).click()
  await expect(trouble).toHaveCount(0)
  await type('Body mass  trial 1', '140 lb')
  await expect(page.getByTestId('result-mass-')).toContainText('63.5 kg')
  await type('Hip internal rotation, prone lead trial 1', '38,5°')
  await expect(page.getByTestId('result-hip-ir-lead')).toContainText('38.5°')
  await saved(page)

  await page.evaluate(() =>
    navigator.clipboard.writeText('Test\tLeft\tRight\nGrip\t31\t33\nThoracic rotaton\t44\tn/a\nShoe\t40\t40'),
  )
  await page.getByLabel('Grip lead trial 1').focus()
  await page.keyboard.press('Control+v')
  const look = page.getByRole('form', { name: 'What was pasted' })
  await expect(look.getByRole('row', { name: /Grip trail/ })).toContainText('33')
  await expect(look.getByRole('row', { name: /Thoracic rotation, seated toward/ })).toContainText('is it this?')
  await expect(look).toContainText('Shoe 40 40: no test is called like this')
  await expect(look).toContainText('not measured')
  await expect(page.getByLabel('Grip lead trial 1')).toHaveValue('')
  await look.getByLabel('Take Thoracic rotation, seated toward').uncheck()
  await look.getByRole('button', { name: 'Put 2 values into the sheet' }).click()
  await expect(page.getByLabel('Grip lead trial 1')).toHaveValue('31')
  await expect(page.getByLabel('Grip trail trial 1')).toHaveValue('33')
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(page.getByLabel('Grip lead trial 1')).toHaveValue('')
})

test('Tab goes from cell to cell, and the ways of doing a test are a letter away', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Torquil Brae')}/screen`)
  await page.getByLabel('Seated chest throw  trial 1').focus()
  await page.keyboard.press('Tab')
  await expect(page.getByLabel('Seated chest throw  trial 2')).toBeFocused()
  await page.keyboard.press('Shift+Tab')
  await expect(page.getByLabel('Seated chest throw  trial 1')).toBeFocused()
  const ways = page.getByLabel('How Seated chest throw is done')
  const way = await ways.inputValue()
  await page.keyboard.press('v')
  await expect(ways).toBeFocused()
  await page.keyboard.press('3')
  await expect(ways).toHaveValue(way)
  await page.keyboard.press('Escape')
  await expect(page.getByLabel('Seated chest throw  trial 1')).toBeFocused()
})

test('typing over, taking back and bringing back in the sheet', async ({ page }) => {
  await signIn(page)
  const id = await newGolfer(page, 'Tove Sand')
  await newScreen(page, id)
  const cell = page.getByLabel('Hip internal rotation, prone lead trial 1')
  await cell.fill('31')
  await cell.press('Enter')
  await saved(page)

  // Ctrl Z while typing over takes back only what is being typed.
  await cell.focus()
  await page.keyboard.type('99')
  await page.keyboard.press('Control+z')
  await expect(cell).toHaveValue('31')
  await page.keyboard.press('Tab')
  await page.reload()
  await expect(cell).toHaveValue('31')

  // 330lbs is no “stopped” but pounds, and more of them than is usual.
  const mass = page.getByLabel('Body mass trial 1')
  await mass.focus()
  await page.keyboard.type('330lbs')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('Body mass, trial 1: 330 lb is unlikely')
  await page.getByRole('button', { name: 'Put back' }).click()
  await expect(mass).toHaveValue('')

  // Undo and redo, by key and by button.
  await cell.fill('33')
  await cell.press('Enter')
  await saved(page)
  await cell.focus()
  await page.keyboard.press('Control+z')
  await expect(cell).toHaveValue('31')
  await page.keyboard.press('Control+y')
  await expect(cell).toHaveValue('33')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(cell).toHaveValue('31')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(cell).toHaveValue('33')

  // A digit after Tab does not change the ball.
  const ball = page.getByLabel('How Seated chest throw is done')
  const before = await ball.inputValue()
  await ball.focus()
  await page.keyboard.type('3')
  await page.keyboard.type('2')
  await expect(ball).toHaveValue(before)
})

test('a screen with nothing in it is not done', async ({ page }) => {
  await signIn(page)
  const id = await newGolfer(page, 'Una Moor')
  await newScreen(page, id)
  await expect(page.getByRole('link', { name: /^Screen (none|done)/ })).toContainText('none yet')
  await page.getByLabel('Body mass trial 1').fill('64')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('link', { name: /^Screen (none|done)/ })).toContainText('done')
})

test.describe('with a thumb', () => {
  test.use({ hasTouch: true, viewport: { width: 820, height: 1180 } })

  test('a lift is set by fields, with steppers', async ({ page }) => {
    await signIn(page)
    await page.goto(`/golfers/${await golferId(page, 'Torquil Brae')}/screen`)
    const lift = page.getByLabel('Trap-bar lift  trial 1')
    const before = await lift.inputValue()
    await lift.tap()
    await page.getByRole('button', { name: 'Fields…' }).tap()
    const fields = page.getByRole('form', { name: 'Trap-bar lift' })
    await expect(fields.getByLabel('Load', { exact: true }).and(page.locator('input'))).toHaveValue(/^1\d\d/)
    await fields.getByRole('button', { name: 'More load' }).tap()
    await fields.getByRole('button', { name: 'Put it in' }).tap()
    await expect(lift).toHaveValue(/^\d+(\.5)?x\d@\d$/)
    await expect(lift).not.toHaveValue(before)
    await page.getByRole('button', { name: 'Undo' }).tap()
    await expect(lift).toHaveValue(before)
  })

  test('pain, stopped and skipped are recorded without a keyboard, in the sheet and at a station', async ({ page }) => {
    await signIn(page)
    const id = await newGolfer(page, 'Vera Tarn')
    await newScreen(page, id)
    const hip = page.getByLabel('Hip internal rotation, prone lead trial 1')
    await hip.tap()
    await hip.fill('28')
    for (const b of ['Pain…', 'Stopped', 'Skipped…', 'Undo']) {
      const box = await page.getByRole('button', { name: b, exact: true }).boundingBox()
      expect(box!.height, b).toBeGreaterThanOrEqual(44)
      expect(box!.width, b).toBeGreaterThanOrEqual(44)
    }
    await page.getByRole('button', { name: 'Pain…' }).tap()
    await page.getByRole('radio', { name: '2', exact: true }).click()
    await page.getByLabel('Where').selectOption('hip')
    await page.getByRole('button', { name: 'Note it' }).tap()
    await expect(page.getByTestId('pain').first()).toHaveText('pain 2 in trial 1')
    await expect(hip).toHaveValue('28')
    await page.getByLabel('Hip internal rotation, prone lead trial 2').tap()
    await page.getByRole('button', { name: 'Stopped' }).tap()
    await expect(page.getByLabel('Hip internal rotation, prone lead trial 2')).toHaveValue('stopped')
    await page.getByLabel('Hip internal rotation, prone trail trial 1').tap()
    await page.getByRole('button', { name: 'Skipped…' }).tap()
    await page.getByLabel('Reason', { exact: true }).fill('cramp')
    await page.getByRole('button', { name: 'Skip this trial' }).tap()
    await expect(page.getByLabel('Hip internal rotation, prone trail trial 1')).toHaveValue('skipped')
    await page.reload()
    await expect(page.getByTestId('pain').first()).toHaveText('pain 2 in trial 1')

    const day = await page.request.post('/api/v1/days', {
      data: { date: '2026-11-24', name: 'Thumbs', start: '09:00', athletes: [id], set: 'usual' },
    })
    const made = (await day.json()) as { id: string; stations: { name: string }[] }
    const at = made.stations.findIndex((s) => s.name === 'Range')
    await page.goto(`/days/${made.id}/stations/${at}`)
    await page.getByRole('tab', { name: 'Hip internal rotation' }).tap()
    await page.getByLabel('Vera Tarn Hip internal rotation, prone trail trial 2').tap()
    await page.getByRole('button', { name: 'Pain…' }).tap()
    await page.getByRole('radio', { name: '5', exact: true }).click()
    await page.getByLabel('Where').selectOption('hip')
    await page.getByRole('button', { name: 'Stop the test' }).tap()
    await expect(page.getByTestId('pain')).toContainText('pain 5 in trail trial 2')
    await page.getByRole('button', { name: 'Undo' }).tap()
    await expect(page.getByTestId('pain')).not.toContainText('trail trial 2')
  })
})

test('what is unsent on a shared tablet belongs to who typed it', async ({ page, context }) => {
  await signIn(page)
  const id = await newGolfer(page, 'Wilma Reed')
  await newScreen(page, id)
  const mass = page.getByLabel('Body mass trial 1')
  await expect(mass).toBeVisible()
  await context.route('**/api/v1/screens/**', (r) => (r.request().method() === 'PATCH' ? r.abort() : r.continue()))
  await mass.fill('61')
  await mass.press('Enter')
  await expect(page.getByTestId('save-state')).toContainText('Not sent yet')
  const screen = page.url()
  const mine = await page.evaluate(() => Object.keys(localStorage).filter((k) => k.startsWith('dunnock.unsent.')))
  expect(mine).toHaveLength(1)

  // Somebody else signs in on the same tablet: their page shows nothing of it, and sends nothing.
  const sent: string[] = []
  await context.unroute('**/api/v1/screens/**')
  page.on('request', (r) => {
    if (r.method() === 'PATCH') sent.push(r.postData() ?? '')
  })
  await page.route('**/api/v1/session', async (r) => {
    const answer = await r.fetch()
    const body = answer.ok() ? { ...((await answer.json()) as object), id: '99999999-9999-4999-8999-999999999999' } : {}
    await r.fulfill({ response: answer, ...(answer.ok() ? { json: body } : {}) })
  })
  await page.goto(screen)
  await expect(mass).toHaveValue('')
  await page.waitForTimeout(500)
  expect(sent).toEqual([])

  // Who typed it comes back: it is there, and is sent.
  await page.unroute('**/api/v1/session')
  await page.goto(screen)
  await expect(mass).toHaveValue('61')
  await saved(page)
  expect(sent.join()).toContain('61')
})

test('a column in pounds stays in pounds, dates that can be read two ways are asked about, and columns left out are said', async ({
  page,
}) => {
  await signIn(page)
  await page.goto('/files')
  await page.getByLabel('CSV or XLSX file').setInputFiles({
    name: 'gym.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Name,Day,Squeeze (lbs),Shoe\nMarit Hellyer,04/07/2026,70,38\n'),
  })
  await page.getByLabel('What Day means').selectOption('date')
  await page.getByLabel('What Squeeze (lbs) means').selectOption('measure')
  await page.getByLabel('Test of Squeeze (lbs)').selectOption('grip')
  await expect(page.getByLabel('Unit of Squeeze (lbs)')).toHaveValue('lb')
  await expect(page.getByText('Every date here can be read both ways.')).toBeVisible()
  await page.getByRole('button', { name: 'Look at it' }).click()
  await expect(page.getByRole('alert').filter({ hasText: '04/07 may be 4 July or 7 April' })).toBeVisible()
  await page.getByLabel('In 04/07 stands', { exact: true }).selectOption('the month first')
  await page.getByRole('button', { name: 'Look at it' }).click()
  await expect(page.getByTestId('verdict')).toContainText('1 of 1 row is good')
  await expect(page.getByTestId('left-out')).toContainText('Not brought in: Shoe')
  await page.getByRole('button', { name: 'Save 1 trial' }).click()
  await expect(page.getByTestId('upload-state')).toContainText('saved')
  const marit = await golferId(page, 'Marit Hellyer')
  const ofApril = async () => {
    const answer = await page.request.get(`/api/v1/athletes/${marit}/screens`)
    return ((await answer.json()) as { id: string; date: string }[]).find((s) => s.date === '2026-04-07')
  }
  await expect.poll(ofApril).toBeDefined()
  const april = await ofApril()
  const sheet = await (await page.request.get(`/api/v1/screens/${april!.id}`)).json()
  expect((sheet as { trials: { value: number }[] }).trials[0]!.value).toBeCloseTo(70 * 0.45359237, 3)
  await page.getByRole('button', { name: 'Take this file back' }).click()
  await expect(page.getByTestId('upload-state')).toContainText('taken back')
})

test('quick edits queue, a second editor gets the difference, and drafts are not thrown away unasked', async ({
  page,
  browser,
}) => {
  await signIn(page)
  const id = await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${id}/programme`)
  await expect(page.getByTestId('status')).toContainText('Version')
  const issued = await page.getByTestId('status').innerText()
  await page.getByRole('button', { name: 'Change this version' }).click()
  await expect(page.getByTestId('status')).toHaveText('Draft')
  await page.waitForURL(/programme\/.+/)

  const other = await (await browser.newContext()).newPage()
  await other.route('**/live', (r) => r.abort()) // it does not hear of what the first one does
  await signIn(other)
  await other.goto(page.url())
  await expect(other.getByTestId('status')).toHaveText('Draft')

  // Three deletions as fast as a hand can: none collides with the one before.
  const cells = page.locator('[data-place^="b1.w1.s1.i"]')
  const n = await cells.count()
  await cells.nth(1).focus()
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('Delete')
    await page.waitForTimeout(i === 0 ? 0 : 400) // two at once, and one after
  }
  await expect(cells).toHaveCount(n - 3)
  await expect(page.locator('.stop')).toHaveCount(0)

  // The same item: they are asked which change stands. Another place: both do.
  await other.locator('[data-place="b1.w1.s1.i2"]').focus()
  await other.keyboard.press('Delete')
  await expect(other.getByRole('heading', { name: 'This place was changed meanwhile' })).toBeVisible()
  await expect(other.getByTestId('since').getByRole('listitem').first()).toContainText('Removed')
  await other.getByRole('button', { name: 'Keep theirs' }).click()
  await expect(other.locator('[data-place^="b1.w1.s1.i"]')).toHaveCount(n - 3)
  await other.close()

  await page.getByRole('button', { name: 'Draft again' }).click()
  await expect(page.getByTestId('differences').getByRole('listitem').first()).toBeVisible()
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(cells).toHaveCount(n - 3)
  await page.getByRole('button', { name: 'Discard this draft…' }).click()
  await page.getByRole('button', { name: 'Discard it' }).click()
  await expect(page.getByTestId('status')).toHaveText(issued)
})

test('all four weeks are on the paper, and no buttons', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Torquil Brae')}/programme`)
  await page.getByRole('columnheader', { name: /Week 4/ }).waitFor()
  await page.emulateMedia({ media: 'print' })
  await page.setViewportSize({ width: 1047, height: 718 }) // A4 across within its margins, at 96 to the inch
  const week = await page.getByRole('columnheader', { name: /Week 4/ }).boundingBox()
  expect(week!.x + week!.width).toBeLessThanOrEqual(1047)
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1047)
  await expect(page.locator('.v-btn:visible')).toHaveCount(0)
  const pdf = await page.pdf({ preferCSSPageSize: true })
  expect(pdf.toString('latin1')).toMatch(/MediaBox \[0 0 84\d(\.\d+)? 59\d/)
})
