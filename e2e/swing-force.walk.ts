import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { expect, type Page, test } from './walk'

import { bringIn, golferId, sendHome, signIn } from './helpers'

/** Force from file to finding: a CSV and a C3D file, impact by hand, the four answers, a live jump. */
test.describe.configure({ mode: 'serial' })

const folder = mkdtempSync(join(tmpdir(), 'dunnock-force-'))
/** A trial of the stand-in plates as a file, with what is true of it. */
function trial(name: string, ...args: string[]): { path: string; truth: Record<string, number> } {
  const path = join(folder, name)
  const out = execFileSync('../bin/dunnock', ['sim', 'plates', '--write', path, ...args], { encoding: 'utf8' })
  return { path, truth: JSON.parse(out) as Record<string, number> }
}
let id = ''
async function force(page: Page) {
  await signIn(page)
  id ||= await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${id}/force`)
}
async function choose(page: Page, ...paths: string[]) {
  await page
    .getByRole('button', { name: /^Bring in/ })
    .first()
    .click()
  await page.getByTestId('force-files').setInputFiles(paths)
  await expect(page.getByTestId('look')).toBeVisible()
}

test('a CSV of a jump comes in, is read and stands in the screen', async ({ page }) => {
  const { path, truth } = trial('jump.csv', '--height', '0.27', '--mass', '63', '--lead-share', '0.57')
  await force(page)
  await choose(page, path)
  await expect(page.getByTestId('look')).toContainText('1000 Hz')
  await expect(page.getByTestId('preview')).toBeVisible()
  await page.getByRole('button', { name: 'Bring in 1 file' }).click()
  await expect(page.getByTestId('verdict-row')).toContainText('Countermovement jump, 27.')
  await page.getByRole('button', { name: 'Look at them' }).click()
  await expect(page.getByTestId('verdict')).toContainText('In the screen of Tue 24 Nov 2026')
  const height = await page
    .getByRole('row', { name: /Height by take-off speed/ })
    .getByRole('cell')
    .first()
    .textContent()
  expect(Math.abs(Number(height) - 100 * (truth.HeightM ?? 0))).toBeLessThan(1)
  await expect(page.getByTestId('force-findings')).toContainText('Side difference of the push: high')
  await expect(page.getByTestId('force-findings')).toContainText('Recheck after')

  // The onset is moved by ten samples, and back.
  const time = page
    .getByRole('row', { name: /Time to take-off/ })
    .getByRole('cell')
    .first()
  const found = (await time.textContent()) ?? ''
  await page.getByTestId('event-onsetS').focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect(time).toHaveText((Number(found) - 0.01).toFixed(3))
  await page.getByRole('button', { name: 'Undo move' }).click()
  await expect(time).toHaveText(found)
})

test('a C3D of a swing without an event: impact is placed by hand and the four answers are read', async ({ page }) => {
  const { path, truth } = trial('swing.c3d', '--kind', 'swing', '--mass', '63', '--side', 'left')
  // The file's own event goes: nobody marked impact.
  const bytes = readFileSync(path)
  const at = bytes.indexOf('Impact')
  bytes.write('Nobody', at)
  writeFileSync(path, bytes)
  await force(page)
  await choose(page, path)
  await expect(page.getByText('The file names no impact')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Bring in 1 file' })).toBeDisabled()
  const preview = page.getByTestId('preview')
  const box = (await preview.boundingBox())!
  await preview.click({ position: { x: box.width * 0.65, y: box.height / 2 } })
  await expect(page.getByLabel('Impact, s')).not.toHaveValue('')
  await page.getByRole('button', { name: 'Bring in 1 file' }).click()
  await expect(page.getByTestId('verdict-row')).toContainText('Swing, vertical')
  await page.getByRole('button', { name: 'Look at them' }).click()
  await expect(page.getByTestId('foot-plan')).toBeVisible()

  // Impact to its place with the mouse, then to the millisecond with the keys.
  const impact = page.getByTestId('event-impactS')
  const time = async () => Number(await impact.getAttribute('aria-valuenow'))
  const want = truth.ImpactS ?? 0
  await impact.locator('.hit').hover({ position: { x: 11, y: 60 } })
  const line = (await impact.locator('.hit').boundingBox())!
  const change = page.waitForResponse((r) => r.request().method() === 'PATCH')
  await page.mouse.down()
  await page.mouse.move(line.x + 17, line.y + 60, { steps: 3 })
  await page.mouse.up()
  await change
  await expect(page.getByText('Reading anew …')).toBeHidden()
  await impact.focus()
  // What a hand does: it looks where the line is, and presses on until it is right.
  await expect(async () => {
    const steps = Math.round((want - (await time())) * 1000)
    if (steps === 0) return
    const again = page.waitForResponse((r) => r.request().method() === 'PATCH', { timeout: 8000 })
    const key = steps < 0 ? 'ArrowLeft' : 'ArrowRight'
    for (let i = 0; i < Math.floor(Math.abs(steps) / 10); i++) await page.keyboard.press(`Shift+${key}`)
    for (let i = 0; i < Math.abs(steps) % 10; i++) await page.keyboard.press(key)
    await again
    await expect.poll(time, { timeout: 4000 }).toBeCloseTo(want, 3)
  }).toPass()
  await expect(page.getByText('Reading anew …')).toBeHidden()
  // Top is an estimate until it is placed.
  await expect(page.getByText('top estimated')).toBeVisible()
  const top = page.getByTestId('event-topS')
  await top.focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByText('top estimated')).toBeHidden()

  const answers = page.getByTestId('answers')
  for (const q of ['When', 'Where', 'How much', 'How it builds']) await expect(answers).toContainText(q)
  await expect(answers).toContainText('the usual order')
  await expect(answers).toContainText(/80% at impact/)
  await expect(answers).toContainText('1.65 BW')
  await expect(page.getByTestId('order-line')).toHaveAttribute(
    'aria-label',
    /lateral 1[34]\d ms, rotational 1[01]\d ms, vertical [67]\d ms/,
  )
  await page.getByRole('button', { name: 'Newtons of each foot' }).click()
  await expect(page.getByRole('group', { name: 'Forces of each foot over time' })).toBeVisible()

  for (const [name, file] of [
    ['Signals, CSV', /swing-signals\.csv$/],
    ['Numbers, JSON', /swing-result\.json$/],
    ['The file as it came', /swing\.c3d$/],
  ] as const) {
    await page.getByRole('button', { name: 'Export…' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('link', { name }).click()
    expect((await download).suggestedFilename()).toMatch(file)
    await page.keyboard.press('Escape')
  }
  for (const [name, ending] of [
    ['Picture, PNG', '.png'],
    ['Drawing, SVG', '.svg'],
  ] as const) {
    await page.getByRole('button', { name: 'Export…' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name, exact: true }).click()
    expect((await download).suggestedFilename()).toContain(ending)
    await page.keyboard.press('Escape')
  }
})

test('a batch tells of every file, and columns are mapped where no name tells', async ({ page }) => {
  const good = [1, 2, 3].map(
    (n) => trial(`batch ${n}.csv`, '--seed', String(n + 20), '--mass', '63', '--height', '0.26').path,
  )
  const bad = join(folder, 'picture.csv')
  writeFileSync(bad, Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(400)]))
  await force(page)
  await choose(page, ...good, bad)
  await page.getByLabel('put results in the screen of the day').uncheck()
  await page.getByRole('button', { name: 'Bring in 4 files' }).click()
  await expect(page.getByTestId('progress')).toContainText('4 of 4, 3 in')
  await expect(page.getByTestId('verdict-row').filter({ hasText: 'picture.csv' })).toContainText('This is a picture')
  await page.getByRole('button', { name: 'Take all back' }).click()
  await expect(page.getByTestId('verdict-row').filter({ hasText: 'Taken back.' })).toHaveCount(3)
  await page.getByRole('button', { name: 'Close' }).click()

  const odd = join(folder, 'odd.csv')
  writeFileSync(odd, readFileSync(good[0]!, 'utf8').replace('Fz_lead,Fz_trail', 'Alpha,Beta'))
  await choose(page, odd)
  await expect(page.getByText('No column of a force plate was found')).toBeVisible()
  await page.getByLabel('What Alpha is').selectOption('force z')
  await page.getByLabel('Foot or plate of Alpha').selectOption('lead')
  await page.getByLabel('What Beta is').selectOption('force z')
  await page.getByLabel('Foot or plate of Beta').selectOption('trail')
  await expect(page.getByTestId('preview')).toBeVisible()
  await page.getByRole('button', { name: 'Bring in 1 file' }).click()
  await expect(page.getByText('Name the source')).toBeVisible()
  await page.getByPlaceholder('the plates, or their program').fill('Hall plates')
  await page.getByLabel('put results in the screen of the day').uncheck()
  await page.getByRole('button', { name: 'Bring in 1 file' }).click()
  await expect(page.getByTestId('verdict-row')).toContainText('Countermovement jump')
  await page.getByRole('button', { name: 'Close' }).click()
  await choose(page, odd)
  await expect(page.getByTestId('look')).toContainText('Read as “Hall plates”')
})

test('a live jump from the stand-in is kept, and stands in the screen and the read', async ({
  page,
  browser,
  demo,
}) => {
  await signIn(page)
  // Nothing measured on the day of the jump: the walks of a screen day may have been here before.
  const id = await bringIn(page, 'Lova Lander', (f) => (f.screens = f.screens.filter((s) => s.date < '2026-11-24')))
  await page.goto(`/golfers/${id}/force`)
  await page.getByRole('button', { name: 'Record live' }).click()
  await page.getByRole('button', { name: 'Arm', exact: true }).click()
  await expect(page.getByTestId('plates-state')).toHaveText('Ready.', { timeout: 20_000 })
  await expect(page.getByTestId('captured')).toHaveCount(2, { timeout: 40_000 })
  await page.getByRole('button', { name: 'Stop' }).click()
  await page.getByTestId('captured').nth(1).getByRole('button', { name: 'Discard' }).click()
  await page.getByTestId('captured').getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByTestId('kept')).toContainText(/jump, 3[34]\.\d cm\. In the screen/)
  await page.getByRole('button', { name: 'Close' }).click()

  await page.goto(`/golfers/${id}/screen`)
  await page.getByLabel('Countermovement jump trial 1').waitFor()
  await expect(page.getByLabel('Countermovement jump trial 1')).toHaveValue(/^3[34]/)
  await page.getByLabel('Countermovement jump trial 1').focus()
  await expect(page.getByRole('link', { name: 'bring in or record force' })).toBeVisible()
  await page.goto(`/golfers/${id}/read`)
  const from = page.getByTestId('from-force')
  await expect(from).toContainText('the best jump of Tue 24 Nov 2026')
  await page.getByRole('button', { name: /Vertical power/ }).click()
  await expect(page.getByRole('complementary', { name: /vertical power/i })).toContainText(/3[34]\.\d/)
  await sendHome(browser, demo, ['Lova Lander'])
})

test('two days lie over each other, and the instructor gets a page', async ({ page }) => {
  await signIn(page)
  const torquil = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${torquil}/force`)
  await page.getByRole('button', { name: 'All swings of Thu 24 Sep into set A' }).click()
  await page.getByRole('button', { name: 'All swings of Thu 19 Nov into set B' }).click()
  await expect(page.getByTestId('overlay-sets')).toContainText('4 swings of Thu 24 Sep 2026')
  await expect(page.getByText(/lateral: B leaves A’s band/)).toBeVisible()
  await page.getByRole('button', { name: 'Within-golfer CV' }).click()
  await expect(page.getByText(/A varies by \d+% at most/).first()).toBeVisible()
  await page.getByText('torquil jump 3.csv').click()
  await expect(page.getByTestId('stretch-use')).toContainText('times the squat jump')
  await page.getByRole('button', { name: 'Windows and filters…' }).click()
  await page.getByLabel('Swings, low-pass').fill('30')
  await page.getByRole('button', { name: 'Read all anew' }).click()
  await expect(page.getByText('14 recordings were read anew.')).toBeVisible()
  await page.getByLabel('Swings, low-pass').fill('40')
  await page.getByRole('button', { name: 'Read all anew' }).click()
  await expect(page.getByText('14 recordings were read anew.')).toBeVisible()
  await page.getByLabel('Vertical peak from', { exact: true }).fill('1.8')
  await page.getByRole('button', { name: 'Save windows' }).click()
  await expect(page.getByText('The windows are saved.')).toBeVisible()
  await page.getByRole('button', { name: 'Back to the shipped ones' }).click()
  await expect(page.getByText('The shipped windows hold again.')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('link', { name: 'Page for the swing instructor' }).click()
  await expect(page.getByRole('heading', { name: 'Yours to judge' })).toBeVisible()
  await expect(page.getByTestId('order-line')).toBeVisible()
})

test('feet that push unlike are answered in the programme by name', async ({ page, browser, demo }) => {
  await signIn(page)
  const una = await bringIn(page, 'Una Unlike', () => undefined)
  const { path } = trial('unlike.csv', '--lead-share', '0.58')
  await page.goto(`/golfers/${una}/force`)
  await choose(page, path)
  await page.getByRole('button', { name: 'Bring in 1 file' }).click()
  await expect(page.getByTestId('verdict-row')).toContainText('Countermovement jump')
  await page.goto(`/golfers/${una}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  const more = page.getByText(/trail side (one set|\d+( s)?) more/).first()
  await more.click()
  await expect(
    page.getByText(/Side difference of the push is .*This answers it.*The trail side goes first/),
  ).toBeVisible()
  await sendHome(browser, demo, ['Una Unlike'])
})
