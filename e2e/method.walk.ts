import { bringIn, sendHome, set, signIn } from './helpers'
import { expect, test } from './walk'

/** What a practice works by: schools compared and copied, a rule's number changed, a broken rule mended at one click. */
test.afterAll(({ browser, demo }) => sendHome(browser, demo, ['Sigrun Schools', 'Rolf Rules']))

test('two schools are laid side by side, and one of our own is planned under', async ({ page }) => {
  await signIn(page)
  const id = await bringIn(page, 'Sigrun Schools', (f) => set(f, 'cmj', 30))
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('link', { name: 'Compare schools' }).click()
  await page.getByRole('combobox', { name: 'beside' }).selectOption('Swing-led speed')
  await expect(page.getByTestId('differs')).toContainText('Swing-led speed gives')
  await expect(page.getByRole('row', { name: /^Landings, throws, fast swings/ })).toBeVisible()

  await page.getByRole('link', { name: 'Schools and rules' }).click()
  const ours = page.getByTestId('school-swing-led-speed')
  await expect(ours).toContainText('one small uncontrolled group')
  await ours.getByRole('button', { name: 'Copy and change…' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Links way')
  await page.getByLabel('Other side, %').fill('30')
  await page.getByLabel('Stage 1, off-season, strength').fill('30')
  await expect(page.getByText('the shares add up to 115')).toBeVisible()
  await page.getByLabel('Stage 1, off-season, strength').fill('15')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  const own = page.getByRole('article').filter({ hasText: 'Links way' })
  await expect(own).toContainText('30% from the other side')

  await page.goto(`/golfers/${id}/programme`)
  await page.getByLabel('School', { exact: true }).selectOption({ label: 'Links way' })
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByText(/^Links way · /)).toBeVisible()
  await page.getByRole('button', { name: 'Discard this draft…' }).click()
  await page.getByRole('button', { name: 'Discard it' }).click()
  await page.goto('/method')
  await own.getByRole('button', { name: 'Remove…' }).click()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect(own).toHaveCount(0)
})

test('a number of a rule is tried, changed and put back; a broken rule is mended at one click and undone', async ({
  page,
}) => {
  await signIn(page)
  const id = await bringIn(page, 'Rolf Rules', (f) => set(f, 'cmj', 30))
  await page.goto(`/golfers/${id}/programme`)
  await page.getByRole('button', { name: 'Draft a programme' }).first().click()
  await expect(page.getByTestId('rule-summary')).toBeVisible()

  await page.goto('/method?part=rules')
  const rule = page.getByTestId('rule-CONTACTS')
  await rule.getByLabel('Landings: advanced').fill('42')
  await rule.getByRole('button', { name: 'What would it catch?' }).click()
  await expect(rule).toContainText(/It would catch .*Rolf Rules/)
  await rule.getByLabel('Reason').fill('The hall has a hard floor.')
  await rule.getByRole('button', { name: 'Change it' }).click()
  await expect(page.getByTestId('journal')).toContainText('The hall has a hard floor.')

  await page.goto(`/golfers/${id}/programme`)
  const summary = page.getByTestId('rule-summary')
  await expect(summary).toContainText('break a rule')
  const mend = page.getByRole('button', { name: /^Mend Landings/ })
  const broken = await mend.count()
  await mend.first().click()
  await expect.poll(() => mend.count()).toBeLessThan(broken)
  await expect(page.getByRole('button', { name: /^Undo: (Without|Fewer sets)/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(mend).toHaveCount(broken)

  await page.goto('/method?part=rules')
  await rule.getByRole('button', { name: 'put back' }).click()
  await expect(rule.getByLabel('Landings: advanced')).toHaveValue('120')
  await page.goto(`/golfers/${id}/programme`)
  await expect(summary).not.toContainText('Landings')
})
