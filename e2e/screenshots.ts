import { test } from './walk'

import { golferId, signIn } from './helpers'
import { settled } from './views'

/** The pictures in docs/screenshots, one for each main view, from the demo on a frozen day. */
const shot = (name: string) => ({ path: `../docs/screenshots/${name}.png` })

test('pictures of the main views', async ({ page }) => {
  test.setTimeout(120_000)
  await signIn(page)
  await page.getByText('Torquil Brae').waitFor()
  await page.screenshot(shot('squad'))

  const magnus = await golferId(page, 'Magnus Quoyle')
  await page.goto(`/golfers/${magnus}/intake`)
  await page.getByTestId('clearance').waitFor()
  await settled(page)
  await page.screenshot(shot('intake'))

  const torquil = await golferId(page, 'Torquil Brae')
  await page.goto(`/golfers/${torquil}/screen`)
  await page.getByTestId('result-hip-ir-lead').waitFor()
  await page.getByLabel('Hip internal rotation, prone lead trial 1').focus()
  await page.screenshot(shot('screen-sheet'))

  const marit = await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${marit}/speed`)
  await page.getByTestId('cold-start').waitFor()
  await page.waitForTimeout(400)
  await page.screenshot(shot('speed'))
  await page.goto(`/golfers/${marit}/warmup`)
  await page.getByTestId('sum').waitFor()
  await page.getByLabel('Tee time').fill('09:00')
  await page.getByTestId('pennant').waitFor()
  await page.waitForTimeout(600)
  await page.screenshot(shot('warm-up'))

  await page.goto(`/golfers/${marit}/progress`)
  await page.getByTestId('retest').waitFor()
  await page.getByText('Vertical power', { exact: true }).first().waitFor()
  await page.screenshot(shot('progress'))

  await page.goto('/today')
  await page.getByRole('heading', { name: 'Came in' }).waitFor()
  await page.screenshot(shot('today'))
  await page.goto(`/golfers/${marit}/load`)
  await page.getByRole('table').waitFor()
  await page.waitForTimeout(300)
  await page.screenshot(shot('load'))
  await page.goto('/classes/plan')
  await page.getByRole('button', { name: 'Everybody' }).click()
  await page.getByRole('button', { name: 'Make the class' }).click()
  await page.getByRole('button', { name: 'Start the clock' }).click()
  await page
    .getByRole('button', { name: /^Set done/ })
    .first()
    .click()
  await page.waitForTimeout(900)
  await page.screenshot(shot('board'))
  const week = (await (await page.request.get(`/api/v1/athletes/${marit}/floor`)).json()) as {
    sessions: { session: string; kind: string; state: string; letter: string }[]
  }
  const open = week.sessions.find((s) => s.kind === 'planned' && !s.state && s.letter === 'A')
  await page.setViewportSize({ width: 360, height: 740 })
  await page.goto(`/golfers/${marit}/floor/${open?.session}`)
  await page.getByRole('button', { name: 'Start without asking' }).click()
  await page.getByRole('button', { name: 'Warm: to the work' }).click()
  await page.getByRole('button', { name: 'The space is clear' }).click()
  for (let i = 0; i < 12; i++) {
    if (await page.getByRole('heading', { name: 'Trap-bar deadlift' }).isVisible()) break
    await page.getByTestId('tick').click()
    await page.waitForTimeout(120)
  }
  await page.getByTestId('tick').click()
  await page.waitForTimeout(1500)
  await page.screenshot(shot('floor'))
  await page.setViewportSize({ width: 1280, height: 800 })

  await page.goto(`/golfers/${torquil}/read`)
  await page.getByTestId('headline').waitFor()
  await page.waitForTimeout(300)
  await page.screenshot(shot('read'))

  await page.goto(`/golfers/${torquil}/force`)
  await page.getByText('torquil swing 5.c3d').click()
  await page.getByTestId('foot-plan').waitFor()
  await page.waitForTimeout(500)
  await page.screenshot(shot('force-swing'))

  await page.goto(`/golfers/${torquil}/programme`)
  await page.getByTestId('status').waitFor()
  await page.waitForTimeout(300)
  await page.screenshot(shot('programme'))

  await page.goto(`/golfers/${marit}/season`)
  await page.getByTestId('blocks').waitFor()
  await page.getByTestId('block-why').waitFor()
  await page.getByTestId('calendar').getByRole('button').first().waitFor()
  await page.screenshot(shot('season'))
  await page.goto('/method?part=rules')
  await page.getByTestId('rule-CONTACTS').scrollIntoViewIfNeeded()
  await page.screenshot(shot('rules'))

  await page.goto('/days')
  await page.getByText('Winter screen').click()
  await page.getByRole('heading', { name: 'Stations' }).waitFor()
  await page.screenshot(shot('screen-day'))

  await page.goto('/tests')
  await page.getByRole('button', { name: 'Single-leg stance, eyes open' }).click()
  await page.screenshot(shot('tests'))
  await page.goto('/files')
  await page.getByLabel('CSV or XLSX file').setInputFiles({
    name: 'barn sheet, September.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Name;Day;CMJ;Grip (lb) lead 1;Grip (lb) lead 2;shoe\nTorquil Brae;01.09.2026;35,8;128;126;46\nMarit Hellyer;01.09.2026;25,2;66;67;39\nNobody Here;01.09.2026;30;;;\nEilidh Saltness;02.09.2026;94;50;51;38\n',
    ),
  })
  await page.getByRole('button', { name: 'Look at it' }).click()
  await page.getByTestId('verdict').waitFor()
  await page.screenshot(shot('files'))

  await page.goto(`/golfers/${marit}/programme`)
  await page.getByTestId('status').waitFor()
  await page.locator('tr.day a').first().click()
  await page
    .getByTestId('card')
    .getByText(/Warm-up, 6 min/)
    .waitFor()
  await page.emulateMedia({ media: 'print' })
  await page.getByTestId('card').screenshot(shot('session-card'))
})
