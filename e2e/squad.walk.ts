import { golferId, onlyTheDemo, signIn } from './helpers'
import { expect, type Page, test } from './walk'

/** The squad as a list: sorted, found, grouped, put away, acted on together; a photo. */
test.beforeAll(({ browser, demo }) => onlyTheDemo(browser, demo))

const names = (page: Page) =>
  page
    .getByRole('list')
    .getByRole('link', { name: /^[A-Z]\w+ [A-Z]\w+$/ })
    .allTextContents()

test('what is due this week stands first; the order and what is looked for stay on the way back', async ({ page }) => {
  await signIn(page)
  await page.goto('/')
  await expect(page.getByRole('heading', { name: /^Due this week/ })).toBeVisible()
  expect((await names(page))[0]).toBe('Jonas Firth') // the questions are open
  await page.getByLabel('Order of the squad').selectOption('youngest first')
  await expect.poll(() => names(page)).toHaveLength(6)
  expect((await names(page))[0]).toBe('Finn Orrin')
  await page.getByRole('searchbox', { name: 'Name, group or what is due' }).fill('none yet')
  await expect.poll(async () => (await names(page)).includes('Marit Hellyer')).toBe(false)
  const found = await names(page)
  await page.getByRole('link', { name: 'Finn Orrin' }).click()
  await expect(page.getByRole('heading', { name: 'What holds club speed back' })).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('searchbox', { name: 'Name, group or what is due' })).toHaveValue('none yet')
  expect(await names(page)).toEqual(found)
  expect(new URL(page.url()).search).toBe('?sort=age&q=none+yet')
})

test('several are put into a group, put away, brought back, and drafted for', async ({ page }) => {
  await signIn(page)
  await page.goto('/')
  await page.getByLabel('Choose Finn Orrin').check()
  await page.getByLabel('Choose Eilidh Saltness').check()
  const bar = page.getByRole('region', { name: 'With the golfers chosen' })
  await bar.getByRole('button', { name: 'Group…' }).click()
  await page.getByRole('dialog').getByRole('combobox', { name: 'Group' }).fill('Monday')
  await page.getByRole('button', { name: 'Put in' }).click()
  await expect(bar.getByRole('status')).toContainText('2 golfers put into Monday')
  await page.locator('select[aria-label=Group]').selectOption('Monday')
  await expect.poll(() => names(page)).toHaveLength(2)

  await bar.getByRole('button', { name: 'Put away' }).click()
  await expect(bar.getByRole('status')).toContainText('2 golfers put away')
  await expect(page.getByText('No golfer matches in Monday')).toBeVisible()
  await page.getByLabel('In the squad or put away').selectOption('put away')
  await expect.poll(() => names(page)).toHaveLength(2)
  await bar.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Nobody is put away.')).toBeVisible()
  await page.getByLabel('In the squad or put away').selectOption('in the squad')

  // Who has no programme gets a draft, who is not cleared is said, and the rest stays.
  await page.locator('select[aria-label=Group]').selectOption('every group')
  await page.getByLabel('Choose Eilidh Saltness').check()
  await page.getByLabel('Choose Torquil Brae').check()
  await bar.getByRole('button', { name: 'Draft…' }).click()
  await expect(page.getByText('1 golfer has a draft: it stays as it is.')).toBeVisible()
  await page.getByRole('button', { name: 'Draft 1' }).click()
  await expect(page.getByText('1 draft made.')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()
  const print = await bar.getByRole('link', { name: 'Print' }).getAttribute('href')
  const paper = await page.request.get(print ?? '')
  expect(paper.headers()['content-type']).toBe('application/pdf')
  await bar.getByRole('link', { name: 'Screen day…' }).click()
  await expect(page.getByTestId('plan-words')).toContainText('min for 2 golfers')

  // As it was.
  await page.goto('/')
  await page.getByRole('link', { name: 'Eilidh Saltness' }).click()
  await page.getByRole('link', { name: 'Programme', exact: true }).click()
  await page.getByRole('button', { name: 'Discard this draft…' }).click()
  await page.getByRole('button', { name: 'Discard it' }).click()
  await page.goto('/?group=Monday')
  await page.getByLabel('Choose everybody shown').check()
  await bar.getByRole('button', { name: 'Group…' }).click()
  await page.getByRole('dialog').getByRole('combobox', { name: 'Group' }).fill('Monday')
  await page.getByRole('button', { name: 'Take out' }).click()
  await expect(bar.getByRole('status')).toContainText('2 golfers taken out of Monday')
})

test('a photo is kept small, needs a guardian under 18, and another golfer is made like this one', async ({ page }) => {
  await signIn(page)
  await page.goto(`/golfers/${await golferId(page, 'Torquil Brae')}/intake`)
  // As a telephone takes it: large, and of noise, which nothing folds small.
  const taken = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(1600, 1200)
    const paint = canvas.getContext('2d')!
    const grain = paint.createImageData(1600, 1200)
    for (let i = 0; i < grain.data.length; i++) grain.data[i] = i % 4 === 3 ? 255 : (i * 2654435761) >>> 24
    paint.putImageData(grain, 0, 0)
    const reader = new FileReader()
    reader.readAsDataURL(await canvas.convertToBlob({ type: 'image/jpeg', quality: 1 }))
    await new Promise((done) => (reader.onload = done))
    return String(reader.result)
  })
  const picture = Buffer.from(taken.slice(taken.indexOf(',') + 1), 'base64')
  expect(picture.length).toBeGreaterThan(1_000_000)
  const sent = page.waitForRequest((r) => r.method() === 'PUT' && r.url().endsWith('/photo'))
  await page
    .getByLabel('Photo of the golfer')
    .setInputFiles({ name: 'me.jpg', mimeType: 'image/jpeg', buffer: picture })
  expect(Number((await (await sent).allHeaders())['content-length'])).toBeLessThan(picture.length)
  const photo = page.getByRole('img', { name: 'Photo of Torquil Brae' })
  await expect(photo).toBeVisible()
  await expect.poll(() => photo.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBe(256)
  await page.getByLabel('Photo of the golfer').setInputFiles({
    name: 'me.png',
    mimeType: 'image/png',
    buffer: Buffer.from('no picture'),
  })
  await expect(page.getByRole('alert').filter({ hasText: 'no JPEG, PNG or WebP' })).toBeVisible()
  await page.getByRole('button', { name: 'Remove the photo' }).click()
  await expect(photo).toHaveCount(0)

  await page.getByRole('button', { name: 'Another golfer like this one…' }).click()
  await page.getByLabel('Name', { exact: true }).last().fill('Tavish Brae')
  await page.getByLabel('Birth date').last().fill('2012-05-04')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('combobox', { name: 'Golfer' })).toHaveValue('Tavish Brae')
  await expect(page.getByText('Under 18: a photo needs the guardian’s consent, below.')).toBeVisible()
  await page.getByRole('button', { name: 'Erase this golfer…' }).click()
  await page.getByRole('dialog').getByRole('textbox').fill('Tavish Brae')
  await page.getByRole('button', { name: 'Erase', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Squad' })).toBeVisible()
})

test('of three hundred golfers only those that are seen are drawn, and anybody is found', async ({
  page,
  demo,
  browser,
}) => {
  await signIn(page)
  await page.goto('/files')
  const rows = Array.from(
    { length: 300 },
    (_, i) => `Guest ${String(i).padStart(4, '0')},1990-05-01,right,2026-09-20,30`,
  )
  const many = {
    name: 'many.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['golfer,birth date,playing side,date,cmj', ...rows].join('\n')),
  }
  await page.getByLabel('CSV or XLSX file').setInputFiles(many)
  await page.getByLabel('Make golfers who are not there').check()
  await page.getByRole('button', { name: 'Look at it' }).click()
  await page.getByRole('button', { name: 'Save 300 trials' }).click()
  await expect(page.getByTestId('upload-state')).toContainText('saved: 300 trials saved')
  await page.goto('/?sort=name')
  await expect(page.getByRole('link', { name: 'Eilidh Saltness' })).toBeVisible()
  expect(await page.getByRole('listitem').count()).toBeLessThan(40)
  await page.keyboard.press('End')
  await expect(page.getByRole('link', { name: 'Torquil Brae' })).toBeVisible()
  expect(await page.getByRole('listitem').count()).toBeLessThan(40)
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('listitem')).toHaveCount(306) // on paper everybody stands
  await page.emulateMedia({ media: 'screen' })
  await page.getByRole('combobox', { name: 'Golfer' }).fill('guest 0177')
  await page.getByRole('option', { name: 'Guest 0177' }).click()
  await expect(page.getByRole('region', { name: 'This golfer' })).toContainText('Guest 0177')
  await page.goto('/files')
  await page.getByRole('row').filter({ hasText: 'many.csv' }).getByRole('button', { name: 'Take back' }).click()
  await expect(page.getByRole('row').filter({ hasText: 'many.csv' })).toContainText('300 trials taken back')
  await onlyTheDemo(browser, demo)
})
