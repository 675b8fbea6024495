import { expect, type Page, test } from './walk'

import { golferId, signIn } from './helpers'

const file = (name: string, text: string | Buffer) => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.isBuffer(text) ? text : Buffer.from(text),
})
const choose = (page: Page, name: string, text: string | Buffer) =>
  page.getByLabel('CSV or XLSX file').setInputFiles(file(name, text))

test('a test of one\u2019s own is made, put into a battery, and typed like any other', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Tests', exact: true }).click()
  await page.getByRole('button', { name: 'A test of your own' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Step-down control')
  await page.getByLabel('Trials', { exact: true }).fill('2')
  await page.getByLabel('Plausible to').fill('60')
  await page.getByLabel('Plausible from').fill('80')
  await page.getByRole('button', { name: 'Save this test' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'limits: impossible below' })).toBeVisible()
  await page.getByLabel('Plausible from').fill('1')
  await page.getByLabel('Set-up').fill('From a 20 cm box, one leg, heel taps the floor. Count the clean ones in 30 s.')
  await page.getByRole('button', { name: 'Save this test' }).click()
  await page.getByRole('searchbox', { name: 'Find a test' }).fill('step')
  await page.getByRole('button', { name: 'Step-down control own' }).click()
  await expect(page.getByText('heel taps the floor')).toBeVisible()

  await page.getByRole('button', { name: 'A battery of your own' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Two of ours')
  for (const t of ['Step-down control', 'Countermovement jump']) {
    await page.getByRole('combobox', { name: 'Add a test' }).fill(t)
    await page.getByRole('option', { name: t }).first().click()
  }
  await page.getByRole('button', { name: 'Save this battery' }).click()
  await expect(page.getByText('Two of ours')).toBeVisible()

  const id = await golferId(page, 'Eilidh Saltness')
  await page.goto(`/golfers/${id}/screen`)
  await page.getByRole('button', { name: 'Start a screen' }).click()
  await page.getByLabel('Done on').fill('2026-11-17')
  await expect(page.getByText('There is a screen of that day already.')).toBeVisible()
  await page.getByLabel('Done on').fill('2026-11-20')
  await page.getByRole('dialog').getByLabel('Battery', { exact: true }).selectOption('Two of ours')
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByLabel('Step-down control trial 1')).toBeFocused()
  await page.keyboard.type('12.5')
  await page.keyboard.press('Enter')
  await page.keyboard.type('500')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'not possible' })).toBeVisible()
  await page.getByRole('button', { name: 'Put back' }).click()
  await expect(page.getByTestId('result-own-step-down-control-')).toContainText('12.5 cm')
  await expect(page.getByLabel('Body mass trial 1')).toHaveCount(0)
})

test('what a screen was done under is kept with it', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Eilidh Saltness')
  await page.goto(`/golfers/${id}/screen`)
  await page.getByRole('button', { name: /tested by|Lesson, club/ }).click()
  await page.getByLabel('Intent of the swings').selectOption('full')
  await page.getByLabel('Club changed since').fill('lighter shaft')
  await page.getByLabel('Place').fill('barn')
  await page.getByLabel('Floor').fill('rubber')
  await page.keyboard.press('Tab')
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
  await page.reload()
  await expect(page.getByRole('button', { name: /full intent · club: lighter shaft/ })).toBeVisible()
})

test('a target is changed, moves the read, and is put back', async ({ page }) => {
  await signIn(page)
  await page.goto('/tests')
  await page.getByRole('button', { name: 'Ankle lunge' }).click()
  await page.getByLabel('Target 1', { exact: true }).fill('18')
  await page.getByRole('button', { name: 'Keep these targets' }).click()
  await expect(page.getByRole('button', { name: 'Back to ours' })).toBeVisible()
  const id = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${id}/read`)
  await page.getByRole('button', { name: 'Mobility' }).click()
  await expect(
    page
      .getByRole('complementary', { name: 'Mobility' })
      .getByText(/against 18\.0 cm/)
      .first(),
  ).toBeVisible()
  await page.goto('/tests')
  await page.getByRole('button', { name: 'Ankle lunge' }).click()
  await page.getByRole('button', { name: 'Back to ours' }).click()
  await expect(page.getByLabel('Target 1', { exact: true })).toHaveValue('10')
})

test('repeats say which error is used, and how sure a change must be is a choice', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'How sure' }).click()
  const row = (name: string) => page.getByRole('row').filter({ hasText: name })
  await expect(row('Hip internal rotation')).toContainText('this squad')
  await expect(row('Countermovement jump')).toContainText('our default')
  await page.getByRole('button', { name: 'Grip', exact: true }).click()
  await expect(page.getByLabel(/^Differences of 1\d pairs of Grip/)).toBeVisible()
  await expect(page.getByText('Limits of agreement')).toBeVisible()
  const real = row('Countermovement jump').getByRole('cell').nth(4)
  await expect(real).toHaveText('4.16 cm')
  await page.getByLabel('Confidence').selectOption('90')
  await expect(real).toHaveText('3.49 cm') // 1.645 · √2 · 1.5
  await page.getByLabel('Confidence').selectOption('95')
  await expect(real).toHaveText('4.16 cm')
})

test('a file is mapped, looked at row by row, saved whole, and taken back', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Files' }).click()
  const csv = (rows: string) => `Name;Day;CMJ;Grip (lb) lead 1;mystery\n${rows}`
  await choose(page, 'autumn.csv', csv('Torquil Brae;01.07.2026;35,5;120;x\nNobody Here;01.07.2026;30;;\n'))
  await page.getByLabel('What mystery means').selectOption('golfer')
  await page.getByRole('button', { name: 'Look at it' }).click()
  await expect(
    page.getByRole('alert').filter({ hasText: '"Name" and "mystery" both mean the golfer’s name' }),
  ).toBeVisible()
  await page.getByLabel('What mystery means').selectOption('')
  await page.getByLabel('Remember this source as').fill('barn sheet')
  await page.getByRole('button', { name: 'Look at it' }).click()
  await expect(page.getByTestId('verdict')).toContainText('1 of 2 rows is good')
  await expect(page.getByRole('row').filter({ hasText: 'there is no golfer "Nobody Here"' })).toContainText('3')
  await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0)

  await choose(page, 'autumn again.csv', csv('Torquil Brae;01.07.2026;35,5;120;x\nMarit Hellyer;01.07.2026;25,1;66;\n'))
  await expect(page.getByText('Read as last time: barn sheet')).toBeVisible()
  await page.getByRole('button', { name: 'Look at it' }).click()
  await page.getByRole('button', { name: 'Save 4 trials' }).click()
  await expect(page.getByTestId('upload-state')).toContainText('saved: 4 trials saved')
  const id = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${id}/screen`)
  await page.getByLabel('Screen', { exact: true }).selectOption({ label: 'Wed 1 Jul 2026 (2 trials)' })
  await expect(page.getByLabel('Grip lead trial 1')).toHaveValue('54.43') // 120 lb
  await page.goto('/files')
  await page.getByRole('row').filter({ hasText: 'autumn again.csv' }).getByRole('button', { name: 'Take back' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'autumn again.csv' })).toContainText('4 trials taken back')
  await page.goto(`/golfers/${id}/screen`)
  await expect(page.getByLabel('Screen', { exact: true })).not.toContainText('1 Jul')

  await page.goto('/files')
  await choose(page, 'picture.csv', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0]))
  await expect(page.getByRole('alert')).toContainText('not a text file')
})

test('a sheet as people keep it: titles, left and right, averages, a name by its initial', async ({ page }) => {
  await signIn(page)
  await page.goto('/files')
  const sheet = [
    'Barn screen;;;;',
    'Date: 2 July 2026;;;;',
    'Player;CMJ;Grip L;Grip R;Grip avg',
    '"Brae, Torquil";35,5;52;54;53',
    'M. Hellyer;25,1;n/a;30;30',
    'Average;30,3;52;42;41',
  ].join('\r\n')
  await choose(page, 'barn.csv', sheet)
  const where = page.getByRole('button', { name: /Where the results are/ })
  await expect(where).toContainText('header in row 3, golfers or tests down')
  await where.click()
  await expect(page.getByRole('button', { name: 'Header begins in row 3' })).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByLabel('Side of Grip L')).toHaveValue('left')
  await page.getByRole('button', { name: 'Look at it' }).click()
  await expect(page.getByTestId('left-out')).toContainText(
    'Grip avg (worked out from others), 1 cell in which nothing was measured, 1 row with averages',
  )
  await expect(page.getByRole('combobox', { name: 'M. Hellyer is' })).toHaveValue('Marit Hellyer')
  await page.getByRole('button', { name: 'Take these and look again' }).click()
  await page.getByRole('button', { name: 'Save 5 trials' }).click()
  await expect(page.getByTestId('upload-state')).toContainText('saved: 5 trials saved')

  // Torquil plays from the right: his left hand leads. Marit's other name is kept with her.
  const id = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${id}/screen`)
  await page.getByLabel('Screen', { exact: true }).selectOption({ label: 'Thu 2 Jul 2026 (3 trials)' })
  await expect(page.getByLabel('Grip lead trial 1')).toHaveValue('52')
  await page.goto(`/golfers/${await golferId(page, 'Marit Hellyer')}/intake`)
  await expect(page.getByText('M. Hellyer')).toBeVisible()

  await page.goto('/files')
  await page.getByRole('row').filter({ hasText: 'barn.csv' }).getByRole('button', { name: 'Take back' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'barn.csv' })).toContainText('5 trials taken back')
})
