import type { Page } from '@playwright/test'

export async function signIn(page: Page) {
  await page.goto('/sign-in')
  await page.getByLabel('Email address').fill('coach@skerravoe.example')
  await page.getByLabel('Password').fill('links-and-lifts')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.getByRole('heading', { name: 'Squad' }).waitFor()
}

/** The id of a golfer of the demo. */
export async function golferId(page: Page, name: string): Promise<string> {
  const answer = await page.request.get('/api/v1/athletes')
  const body = (await answer.json()) as {
    athletes: { id: string; name: string }[]
  }
  const found = body.athletes.find((a) => a.name === name)
  if (!found) throw new Error(`no golfer ${name}`)
  return found.id
}
