import { golferId, signIn } from './helpers'
import { expect, test } from './walk'

test('a retest says what became of a block, and the squad is looked at again', async ({ page }) => {
  await signIn(page)
  const id = await golferId(page, 'Marit Hellyer')
  await page.goto(`/golfers/${id}/progress`)
  const retest = page.getByTestId('retest')
  await expect(retest.getByRole('listitem').first()).toContainText(/Vertical power/)
  await retest.getByRole('listitem').first().getByRole('button').click()
  await expect(page.getByText(/Tested both times: .*Countermovement jump/)).toBeVisible()
  await expect(page.getByRole('img', { name: /^Club speed:/ })).toBeVisible()
  await expect(page.getByRole('img', { name: /Version \d+, .* Leads: vertical power/ })).toBeVisible()
  // What it decided stands in the block that was drafted from it.
  const decided = await retest.getByRole('listitem').first().getByRole('button').locator('span').last().innerText()
  const list = (await (await page.request.get(`/api/v1/athletes/${id}/programmes`)).json()) as {
    id: string
    version?: number
  }[]
  await page.goto(`/golfers/${id}/programme/${list.find((p) => p.version === 2)?.id}`)
  await page.getByText(/things were assumed or left out/).click()
  await expect(page.getByText(decided).first()).toBeVisible()

  await page.goto('/')
  await page.getByRole('button', { name: 'Draft plans again…' }).click()
  await expect(page.getByRole('dialog')).toContainText(/stays? as (it is|they are)|change/)
  await expect(page.getByRole('button', { name: 'Stop' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Close' }).click()
})
