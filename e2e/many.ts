import { expect, test } from './walk'

import { signIn } from './helpers'

const MANY = 10_000

/** A squad of ten thousand in the browser: how soon it can be used, is found in, and a golfer is gone to. */
test('a squad of ten thousand', async ({ page }) => {
  test.setTimeout(900_000)
  await signIn(page)
  await page.goto('/files')
  const rows = Array.from(
    { length: MANY },
    (_, i) => `Guest ${String(i).padStart(5, '0')},1990-05-01,right,2026-09-20,30`,
  )
  await page.getByLabel('CSV or XLSX file').setInputFiles({
    name: 'many.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(['golfer,birth date,playing side,date,cmj', ...rows].join('\n')),
  })
  await page.getByLabel('Make golfers who are not there').check()
  await page.getByRole('button', { name: 'Look at it' }).click()
  await page.getByRole('button', { name: /^Save 10.?000 trials$/ }).click({ timeout: 300_000 })
  await expect(page.getByTestId('upload-state')).toContainText('trials saved', { timeout: 600_000 })

  const times = { first: [] as number[], again: [] as number[], found: [] as number[], gone: [] as number[] }
  let elements = 0
  for (let i = 0; i < 6; i++) {
    let at = Date.now()
    await page.goto('/', { waitUntil: 'commit' })
    await page.getByRole('listitem').first().waitFor()
    times[i === 0 ? 'first' : 'again'].push(Date.now() - at)
    elements = await page.locator('*').count()
    at = Date.now()
    await page.getByRole('searchbox', { name: 'Name, group or what is due' }).fill(`guest 0${i}777`)
    await expect(page.getByRole('listitem')).toHaveCount(1)
    times.found.push(Date.now() - at)
    at = Date.now()
    await page.getByRole('combobox', { name: 'Golfer' }).fill(`guest 0${i}123`)
    await page.getByRole('option', { name: `Guest 0${i}123` }).click()
    await page.getByRole('heading', { name: 'What holds club speed back' }).waitFor()
    times.gone.push(Date.now() - at)
  }
  const middle = (of: number[]) => of.sort((a, b) => a - b)[of.length >> 1]
  console.log(
    `${MANY + 6} golfers: first ${times.first[0]} ms, again ${middle(times.again)} ms, ${elements} elements; ` +
      `one found ${middle(times.found)} ms; from the switcher to a golfer's read ${middle(times.gone)} ms`,
  )
})
