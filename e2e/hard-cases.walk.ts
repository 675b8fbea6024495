import { expect, type Page, test } from './walk'

import { golferId, readsWell, signIn } from './helpers'

test('nothing is answered without a session, and nothing is loaded from elsewhere', async ({ page, request, demo }) => {
  expect((await request.get('/api/v1/athletes')).status()).toBe(401)
  const foreign: string[] = []
  const errors: string[] = []
  page.on('request', (r) => {
    if (!r.url().startsWith(`${demo.url}/`) && !r.url().startsWith('data:')) foreign.push(r.url())
  })
  page.on('console', (m) => {
    if (m.type() === 'error' && !m.text().includes('401')) errors.push(m.text())
  })
  page.on('pageerror', (e) => errors.push(String(e)))
  await signIn(page)
  const id = await golferId(page, 'Torquil Brae')
  for (const step of ['intake', 'screen', 'read', 'programme']) {
    await page.goto(`/golfers/${id}/${step}`)
    await page.waitForLoadState('networkidle')
  }
  expect(foreign).toEqual([])
  expect(errors).toEqual([])
})

test('no date is shown in the form of files', async ({ page }) => {
  await signIn(page)
  const golfer = `/golfers/${await golferId(page, 'Torquil Brae')}`
  for (const path of [
    '/',
    '/days',
    '/tests',
    '/repeats',
    '/files',
    ...['intake', 'screen', 'force', 'read', 'programme'].map((s) => `${golfer}/${s}`),
  ]) {
    await page.goto(path)
    await page.waitForLoadState('networkidle')
    expect(await page.locator('body').innerText(), path).not.toMatch(/\b\d{4}-\d\d-\d\d\b/)
  }
})

test('what is typed into the sheet is judged in place', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Eilidh Saltness')}/screen`)
  const grip = page.getByLabel('Grip lead trial 1')
  const alert = page.locator('.troubles')

  await grip.fill('-5')
  await grip.press('Enter')
  await expect(alert).toContainText('Grip, lead, trial 1: -5 kg is not possible')
  await alert.getByRole('button', { name: 'Put back' }).click()
  await expect(grip).toHaveValue('22.5')

  await grip.fill('twenty')
  await grip.press('Enter')
  await expect(alert).toContainText('"twenty" is not a number')
  await alert.getByRole('button', { name: 'Put back' }).click()

  const speed = page.getByLabel('Driver speed, full intent trial 1')
  await speed.fill('400')
  await speed.press('Enter')
  await expect(alert).toContainText('400 mph is not possible')
  await alert.getByRole('button', { name: 'Put back' }).click()

  const jump = page.getByLabel('Countermovement jump trial 1')
  await jump.fill('70')
  await jump.press('Enter')
  await expect(alert).toContainText('unlikely')
  await jump.focus()
  await jump.press('Enter')
  await expect(page.getByTestId('result-cmj-')).toContainText('70.0 cm')

  // A skipped one says why.
  const seated = page.getByLabel('Sitting height trial 1')
  await seated.focus()
  await page.keyboard.press('k')
  await expect(page.getByRole('button', { name: 'Skip this trial' })).toBeDisabled()
  await page.getByLabel('Reason', { exact: true }).fill('no box to sit on')
  await page.keyboard.press('Enter')
  await expect(seated).toHaveValue('skipped')
  await expect(page.getByLabel('Sitting height trial 2')).toBeFocused()

  // A stopped trial is never a zero.
  await jump.focus()
  await page.keyboard.press('p')
  await page.getByRole('radio', { name: '6', exact: true }).click()
  await page.getByLabel('Where').selectOption('knee')
  await page.getByRole('button', { name: 'Stop the test' }).click()
  await expect(page.getByTestId('result-cmj-')).toHaveText('stopped pain 6 in trial 1')
  await page.reload()
  await expect(jump).toHaveValue('stopped')
  await expect(seated).toHaveValue('skipped')
  await page.getByRole('link', { name: /^Read/ }).click()
  await expect(page.getByText(/Pain 6 of 10 \(knee\)/)).toBeVisible()
  await expect(page.getByText('Not measured: countermovement jump (stopped).').first()).toBeVisible()
})

test('a thousand pasted rows are refused by name, with nothing laid', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Finn Orrin')}/screen`)
  const cell = page.getByLabel('Body mass trial 1')
  await expect(cell).toHaveValue('52.4')
  await cell.evaluate((el) => {
    const data = new DataTransfer()
    data.setData('text/plain', '50\t50\n'.repeat(1000))
    el.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await expect(page.getByText(/1000 rows were pasted, but only \d+ are left/)).toBeVisible()
  await expect(cell).toHaveValue('52.4')
})

test('two people type into one screen at once, and neither loses anything', async ({ page, browser }) => {
  await signIn(page)
  const id = await golferId(page, 'Magnus Quoyle')
  const other = await (await browser.newContext()).newPage()
  await signIn(other)
  await page.goto(`/golfers/${id}/screen`)
  await other.goto(`/golfers/${id}/screen`)
  const pushUps = 'Strict push-ups trial 1'
  await expect(other.getByLabel(pushUps)).toHaveValue('10')
  // Different cells from both sheets: both stay, and both see both.
  await page.getByLabel('Grip lead trial 1').fill('34.4')
  await other.getByLabel('Grip trail trial 1').fill('38.4')
  await Promise.all([page.keyboard.press('Enter'), other.keyboard.press('Enter')])
  for (const p of [page, other]) {
    await expect(p.getByLabel('Grip lead trial 1')).toHaveValue('34.4', { timeout: 4000 })
    await expect(p.getByLabel('Grip trail trial 1')).toHaveValue('38.4', { timeout: 4000 })
  }
  // The same cell: what came second is asked about, and kept if wanted.
  await other.context().setOffline(true)
  await other.getByLabel(pushUps).fill('14')
  await other.keyboard.press('Enter')
  await page.getByLabel(pushUps).fill('11')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
  await other.context().setOffline(false)
  const alert = other.getByRole('alert').filter({ hasText: 'wrote 11 here meanwhile' })
  await alert.getByRole('button', { name: 'Keep mine' }).click({ timeout: 10_000 })
  await expect(page.getByLabel(pushUps)).toHaveValue('14', { timeout: 4000 })
  await other.close()
})

test('typing without a connection loses nothing', async ({ page, context }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Marit Hellyer')}/screen`)
  const cell = page.getByLabel('Strict push-ups trial 1')
  await expect(cell).toHaveValue('11')
  await context.setOffline(true)
  await cell.fill('12')
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('save-state')).toContainText('Not sent yet')
  await context.setOffline(false)
  await expect(page.getByTestId('save-state')).toHaveText('Saved', { timeout: 15_000 })
  await page.reload()
  await expect(cell).toHaveValue('12')
})

test('the newcomer gets an honest answer on every page', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Jonas Firth')
  await page.goto(`/golfers/${id}/read`)
  await expect(page.getByTestId('headline')).toContainText('No screen yet')
  await page.goto(`/golfers/${id}/screen`)
  await expect(page.getByRole('heading', { name: 'No screen yet' })).toBeVisible()
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await page.getByRole('button', { name: 'Draft the programme' }).click() // nothing is said: all is assumed
  await expect(page.getByText(/things were assumed or left out/)).toBeVisible()
  await page.getByRole('button', { name: 'Issue…' }).click()
  await expect(page.getByText('It cannot be issued:')).toBeVisible()
  await expect(page.getByRole('dialog').getByRole('link', { name: 'To the intake' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Issue', exact: true })).toBeDisabled()
})

test('a red flag stops testing and drafting', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Jonas Firth')
  await page.goto(`/golfers/${id}/intake`)
  await page.getByRole('radiogroup', { name: 'New chest pain' }).getByLabel('Yes').check()
  await expect(page.getByTestId('clearance')).toContainText('Red flag')
  await page.goto(`/golfers/${id}/programme`)
  await page
    .getByRole('button', { name: /^Draft/ })
    .first()
    .click()
  await expect(page.getByRole('alert').first()).toContainText('refer to a doctor now')
})

/** The demo's screen day. */
test('the slash finds a golfer, g and a letter go to a page, the question mark helps, and a page that is not there leads back', async ({
  page,
}) => {
  await signIn(page)
  await page.keyboard.press('/')
  await page.getByLabel('Find', { exact: true }).fill('torq')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'What holds club speed back' })).toBeVisible()
  await expect(page).toHaveTitle('Read · Torquil Brae · Dunnock')
  await page.keyboard.press('g')
  await page.keyboard.press('i')
  await expect(page.getByTestId('clearance')).toBeVisible()
  await page.keyboard.press('?')
  const help = page.getByRole('dialog', { name: 'Help' })
  await expect(help.getByRole('heading', { name: 'Intake' })).toBeVisible()
  await readsWell(page, 'help')
  await help.getByLabel('Look in the guide').fill('tee time')
  await help.getByRole('button', { name: 'Warm-up', exact: true }).click()
  await expect(help.getByRole('heading', { name: 'Warm-up' })).toBeVisible()
  await help.getByLabel('Letters alone are keys').uncheck()
  await help.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('?')
  await expect(help).toBeHidden()
  await page.getByRole('link', { name: 'To the content' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('#content')).toBeFocused()
  await page.goto('/golfers/00000000-0000-4000-8000-000000000000/read')
  await expect(page.getByText('This golfer is not there')).toBeVisible()
})
