import { expect, type Page, test } from './walk'

import { bringIn, golferId, sendHome, signIn } from './helpers'

/** The whole program has to be on the device: these walks are about what happens without a network. */
test.use({ serviceWorkers: 'allow' })

/** Waits until what a view was answered is on the device: each of these was asked for. */
async function onTheDevice(page: Page, answers: string[]) {
  const names = () =>
    page.evaluate(
      () =>
        new Promise<string>((done) => {
          const open = indexedDB.open('dunnock')
          open.onsuccess = () => {
            const keys = open.result.transaction('kept').objectStore('kept').getAllKeys()
            keys.onsuccess = () => (open.result.close(), done(keys.result.join(' ')))
          }
        }),
    )
  for (const answer of answers) await expect.poll(names).toMatch(new RegExp(`answer /${answer}`))
}

test('views that were seen open without a network, say how old they are, and a click that needs the server says so', async ({
  page,
  context,
  browser,
  demo,
}) => {
  await signIn(page)
  const marit = await golferId(page, 'Marit Hellyer')
  const theirs = await bringIn(page, 'Cellar Golfer', () => undefined)
  await page.goto('/')
  await page.evaluate(() => navigator.serviceWorker.ready)
  await page.reload()
  const seen: [path: string, shows: string | RegExp, answers: string[]][] = [
    ['/', 'Torquil Brae', ['athletes( |$)']],
    [`/golfers/${marit}/read`, /Driver speed/, ['athletes/[^ ]+/read', 'meta']],
    [`/golfers/${marit}/programme`, /Week 1/, ['programmes/', 'athletes/[^ ]+/programmes']],
    [`/golfers/${marit}/season`, /Competition/i, ['athletes/[^ ]+/season']],
    [`/golfers/${marit}/progress`, /Club speed/, ['athletes/[^ ]+/progress']],
    [`/golfers/${theirs}/screen`, 'Countermovement jump', ['screens/', 'athletes/[^ ]+/screens']],
    ['/days', 'Winter screen', ['days']],
    ['/tests', 'Countermovement jump', ['battery']],
    ['/method', /Measured gap/i, ['schools']],
  ]
  for (const [path, shows, answers] of seen) {
    await page.goto(path)
    await expect(page.locator('main').getByText(shows).first()).toBeVisible()
    await onTheDevice(page, answers)
  }
  await page.goto(`/golfers/${marit}/intake`)
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Marit Hellyer')
  await onTheDevice(page, [`athletes/${marit}`])
  await context.setOffline(true)
  for (const [path, shows] of seen) {
    await page.goto(path)
    await expect(page.locator('main').getByText(shows).first(), path).toBeVisible()
    await expect(
      page.getByRole('status').filter({ hasText: 'No connection: what stands here is as it was' }),
    ).toBeVisible()
  }
  // Answers to health questions are on no device.
  await page.goto(`/golfers/${marit}/intake`)
  await expect(page.getByText('answers to health questions are kept on no device')).toBeVisible()
  const kept = await page.evaluate(
    () =>
      new Promise<string>((done) => {
        const open = indexedDB.open('dunnock')
        open.onsuccess = () => {
          const all = open.result.transaction('kept').objectStore('kept').getAll()
          all.onsuccess = () => done(JSON.stringify(all.result))
        }
      }),
  )
  expect(kept).toContain('Marit Hellyer')
  expect(kept).not.toMatch(/"yes":\["/)

  // A view nobody has seen says what is missing; a click that needs the server says so.
  await page.goto('/repeats')
  await expect(page.getByRole('alert')).toContainText('Dunnock cannot be reached')
  await page.goto('/')
  await page.getByRole('checkbox', { name: /Magnus Quoyle/ }).check()
  await page.getByRole('button', { name: 'Put away' }).click()
  await expect(page.getByRole('alert')).toContainText('cannot be reached')

  // Typed meanwhile, it waits, and arrives once.
  await page.goto(`/golfers/${theirs}/screen`)
  const cell = page.getByLabel('Countermovement jump trial 1')
  await cell.fill('37.5')
  await cell.press('Enter')
  await expect(page.getByTestId('save-state')).toContainText('Not sent yet')
  await context.setOffline(false)
  await expect(page.getByTestId('save-state')).toHaveText('Saved')
  await expect(page.getByText('No connection: what stands here')).toBeHidden()
  await sendHome(browser, demo, ['Cellar Golfer'])
})
