import { expect, test, type Page } from './walk'

import { bringIn, sendHome, set, signIn } from './helpers'

/** From the first cold swing to the ladder that follows from it; a warm-up built, broken, mended, printed and run. */
test.afterAll(({ browser, demo }) =>
  sendHome(browser, demo, [
    'Cora Coldtee',
    'Tam Teetime',
    'Lou Late',
    'Piet Paste',
    'Jun One',
    'Jun Two',
    'Uma Undecided',
    'Gil Gripwork',
  ]),
)

const ladder = async (page: Page) => {
  const doses = await page.getByText(/^\d+, your own side/).allTextContents()
  return doses.reduce((n, d) => n + Number(d.split(',')[0]), 0)
}

test('a live cold start becomes a finding in the read and a longer ladder in the warm-up', async ({ page }) => {
  test.setTimeout(120_000)
  await signIn(page)
  const id = await bringIn(page, 'Cora Coldtee', () => undefined)
  await page.goto(`/golfers/${id}/warmup`)
  await expect(page.getByTestId('sum')).toContainText('of 10 minutes')
  expect(await ladder(page)).toBe(8)

  await page.goto(`/golfers/${id}/speed`)
  await page.getByRole('button', { name: 'Cold start…' }).click()
  await page.getByRole('button', { name: 'desk' }).click()
  await expect(page.getByLabel('What came before')).toHaveValue('desk')
  await page.getByRole('button', { name: 'Begin the first swing' }).click()
  await page.getByRole('button', { name: 'Listen to the radar' }).click()
  // The radar does not wait for the one who looks: ten swings or more.
  await expect.poll(() => page.getByRole('row').count(), { timeout: 60_000 }).toBeGreaterThan(10)
  await page.getByRole('button', { name: 'Stop listening' }).click()
  await expect(page.getByTestId('last-swing')).not.toHaveText('–')
  await expect(page.getByText('Saved')).toBeVisible()
  await page.reload()
  const cold = page.getByTestId('cold-start')
  await expect(cold).toContainText('after desk')
  await expect(cold).toContainText('yd of carry by the rule of thumb')
  const swings = Number((/(\d+) swings/.exec((await cold.locator('dl').textContent()) ?? '') ?? [])[1])
  expect(swings).toBeGreaterThan(8)

  await page.goto(`/golfers/${id}/read`)
  await expect(page.getByText(/Cold first tee, .* after desk: the first swings? lacks?/)).toBeVisible()
  await page.goto(`/golfers/${id}/warmup`)
  await expect(page.getByTestId('sum')).toBeVisible()
  await page.getByRole('button', { name: 'A minute more' }).click()
  await page.getByRole('button', { name: 'A minute less' }).click()
  await expect.poll(() => ladder(page)).toBe(swings)
})

test('numbers are typed one after the other, pasted, voided by a key, kept over a reload, and go into the screen', async ({
  page,
}) => {
  await signIn(page)
  const id = await bringIn(page, 'Piet Paste', (f) => (f.screens = f.screens.slice(0, 1)))
  await page.goto(`/golfers/${id}/speed`)
  const box = page.getByTestId('type-speed').locator('input')
  for (const v of ['100', '101', '102']) {
    await box.fill(v)
    await box.press('Enter')
  }
  await expect(page.getByTestId('last-swing')).toHaveText('102.0')
  await box.press('x')
  await expect(page.getByRole('button', { name: 'It counts' })).toBeVisible()
  await page.getByRole('button', { name: 'It counts' }).click()
  await box.fill('400')
  await box.press('Enter')
  await expect(page.getByText('400 mph is no club speed')).toBeVisible()
  await box.fill('')
  await box.evaluate((el) => {
    const data = new DataTransfer()
    data.setData('text', '101\n101.5\n95\n95')
    el.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
  })
  await expect(page.getByRole('row')).toHaveCount(1 + 7)
  await expect(page.getByTestId('swing-state')).toContainText('The set is over')
  // The network goes, a swing is typed, the page is loaded anew: nothing is lost.
  await page.route('**/api/v1/speed-series/**', (r) => r.abort())
  await box.press('n')
  await box.fill('99')
  await box.press('Enter')
  await expect(page.getByTestId('last-swing')).toHaveText('99.0')
  await page.unroute('**/api/v1/speed-series/**')
  await page.reload()
  await expect(page.getByRole('row')).toHaveCount(1 + 8)
  await page.getByRole('button', { name: 'Into the screen' }).click()
  await expect(page.getByTestId('said')).toContainText('Driver speed, full intent')
  await page.getByRole('button', { name: 'Remove' }).click()
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByRole('row')).toHaveCount(1 + 8)

  // A file in another unit: what the columns hold is guessed, and the odd row is told.
  await page.getByRole('button', { name: 'From a file…' }).click()
  await page.getByLabel('CSV or XLSX file of swings').setInputFiles({
    name: 'range.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Club speed (m/s);Ball speed (m/s);Carry (m)\n45;66;210\n46;67;214\nfast;;\n'),
  })
  await expect(page.getByTestId('swing-file')).toContainText('2 swings, the first 100.7, 102.9 mph')
  await expect(page.getByText('Row 4: “fast”').or(page.getByText(/Row 4: "fast" is no number/))).toBeVisible()
  await page.getByRole('button', { name: 'Bring in 2 swings' }).click()
  await expect(page.getByRole('row')).toHaveCount(1 + 2)
  await expect(page.getByText(/yd/).first()).toBeVisible()
})

test('two warm-ups are compared: the order is drawn, the feeling said first, and one pair says nothing', async ({
  page,
}) => {
  await signIn(page)
  const id = await bringIn(page, 'Uma Undecided', () => undefined)
  await page.goto(`/golfers/${id}/speed`)
  await page.getByRole('button', { name: 'Warm-up trial…' }).click()
  await page.getByLabel('How', { exact: true }).selectOption('halves of one day (heavy implement only)')
  await page.getByRole('button', { name: 'Begin the comparison' }).click()
  const trial = page.getByTestId('trial-with the heavy implement')
  await expect(trial).toContainText('No pair is complete yet')
  await expect(trial.getByRole('button', { name: 'Record its five swings' })).toBeDisabled()
  await trial.getByLabel('How fast it feels, 0 to 10').fill('7')
  await trial.getByRole('button', { name: 'Record its five swings' }).click()
  const box = page.getByTestId('type-speed').locator('input')
  for (const v of ['100', '101', '100.5', '101.2', '100.8']) {
    await box.fill(v)
    await box.press('Enter')
  }
  await expect(page.getByTestId('swing-state')).toContainText('this half is done')
  await expect(page.getByText('Saved')).toBeVisible()
  await page.reload()
  await page.getByRole('button', { name: 'Warm-up trial…' }).click()
  await expect(trial.getByRole('row')).toHaveCount(2)
  await expect(trial).toContainText('100.7')
  await expect(trial).toContainText(/too early by \d+ minutes/)
})

test('ten minutes to the tee: built, a rule broken and mended by its fix, run by a faked clock, printed', async ({
  page,
}) => {
  await signIn(page)
  const id = await bringIn(page, 'Tam Teetime', () => undefined)
  await page.goto(`/golfers/${id}/warmup`)
  await page.getByLabel('Tee time').fill('09:00')
  await expect(page.getByTestId('sum')).toContainText('Start at 08:41 to be on the tee at 08:55')
  await expect(page.getByTestId('pennant')).toBeVisible()
  await expect(page.getByTestId('if-late')).toContainText('jumps')
  await expect(page.getByTestId('rules-kept')).toBeVisible()

  await page.getByRole('button', { name: /^Brisk walk/ }).click()
  await page.getByRole('button', { name: 'Take out' }).click()
  const rule = page.getByTestId('rule-W-COLD')
  await expect(rule).toContainText('Nothing fast while cold')
  await rule.getByRole('button', { name: 'Mend' }).click()
  await expect(page.getByTestId('rules-kept')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(rule).toBeVisible()
  await page.reload()
  await expect(rule).toBeVisible()
  await page.getByRole('button', { name: /A minute more/ }).click()
  await page.getByRole('button', { name: 'Build anew' }).click()
  await expect(page.getByTestId('sum')).toContainText('of 11 minutes')

  await page.clock.install()
  await page.getByRole('button', { name: 'Run it' }).click()
  const name = page.getByTestId('runner-name')
  await expect(name).toHaveText('Brisk walk, arms swinging')
  await page.clock.fastForward('01:11')
  await expect(name).toHaveText('Easy skips on the spot')
  await page.getByRole('button', { name: 'Pause' }).click()
  await page.clock.fastForward('05:00')
  await expect(name).toHaveText('Easy skips on the spot')
  await page.getByRole('button', { name: 'Go on' }).click()
  await page.getByTestId('runner').getByRole('button', { name: 'Skip' }).click()
  await expect(page.getByTestId('runner-side')).toHaveText('first side')
  await page.clock.fastForward('20:00')
  await expect(name).toHaveText('Done')
  await page.getByTestId('runner').getByRole('button', { name: 'Close' }).first().click()
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('heading', { name: 'Tam Teetime: to the tee, 11 minutes by the tee' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Run it' })).toBeHidden()
})

test('late for the tee time, what there is still time for is built, and undone', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Lou Late', () => undefined)
  await page.clock.setFixedTime(new Date('2026-11-24T08:45:00'))
  await page.goto(`/golfers/${id}/warmup`)
  await page.getByLabel('Tee time').fill('09:00')
  await page.getByRole('button', { name: 'Late: what is left now' }).click()
  await expect(page.getByTestId('sum')).toContainText('of 6 minutes')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByTestId('sum')).toContainText('of 10 minutes')
})

test('a grip session and drill rounds are laid into a day and run from its card on a faked clock', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Gil Gripwork', (f) => {
    set(f, 'grip', 26)
  })
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByTestId('rule-summary')).toBeVisible()
  for (const kind of ['Grip session', 'Drill round']) {
    await page.getByRole('button', { name: '+ add' }).first().click()
    await page.getByRole('button', { name: 'Swings, drills, grip, lever' }).click()
    await page.getByRole('radio', { name: kind }).check()
    await page.getByRole('button', { name: 'Add', exact: true }).click()
    await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled()
  }
  await expect(page.getByRole('button', { name: /1 × 5 of 5 s each side, in turn/ }).first()).toBeVisible()
  await expect(page.getByRole('button', { name: /1 × 10 swings, playing 5, other 5/ }).first()).toContainText('balance')
  await page.locator('.plan .day a').first().click()
  await page.clock.install()
  const name = page.getByTestId('runner-name')
  const runner = page.getByTestId('runner')
  await page.getByRole('button', { name: 'Run the grip work' }).click()
  await expect(name).toContainText('Get ready')
  await page.clock.fastForward('00:11')
  await expect(name).not.toContainText('Get ready')
  const first = await name.textContent()
  await page.getByRole('button', { name: 'Pause' }).click()
  await page.clock.fastForward('10:00')
  await expect(name).toHaveText(first ?? '')
  await page.getByRole('button', { name: 'Go on' }).click()
  await page.clock.fastForward('59:00')
  await expect(name).toHaveText('Done')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Run the swings' }).click()
  await expect(name).toContainText('Get ready')
  await page.clock.fastForward('00:11')
  await expect(runner).toContainText('playing side')
})

test('a junior group warms up in one line, and who has a limit is told what to do instead', async ({ page }) => {
  await signIn(page)
  for (const name of ['Jun One', 'Jun Two']) {
    await bringIn(page, name, (f) => {
      Object.assign(f.athlete, { birthDate: '2012-03-01' })
      Object.assign(f, { consent: { guardian: 'A parent', on: f.asOf } })
      if (name === 'Jun Two') f.limits = [{ region: 'knee', kind: 'no-impact', setBy: 'doctor' }]
    })
  }
  await page.goto('/')
  await page.getByRole('link', { name: 'Warm-up for a group…' }).click()
  await page.getByLabel(/Jun One/).check()
  await page.getByLabel(/Jun Two/).check()
  const notes = page.getByTestId('group-notes')
  await expect(notes).toContainText('2 in one line, 9.1 m from one to the next')
  await expect(notes).toContainText('Jun Two: march instead of')
  const steps = page.getByRole('button', { name: /^Step swings, three-quarter/ }).first()
  await expect(steps).toBeVisible()
  // Put together by hand like any other, judged, taken back, and taken along.
  await steps.click()
  await page.getByRole('button', { name: 'Take out' }).click()
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(steps).toBeVisible()
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'PDF' }).click()
  expect((await saved).suggestedFilename()).toMatch(/^warm-up-.*\.pdf$/)
})
