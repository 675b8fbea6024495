import type { Page } from '@playwright/test'

type Cookies = Awaited<ReturnType<ReturnType<Page['context']>['cookies']>>

/** What the browser kept of the last sign-in: hashing a password takes its time, and one walk of it is enough. */
let kept: Cookies = []

/** Signs the demo's coach in, at the form unless a session of an earlier walk still holds, and shows the squad. */
export async function signIn(page: Page) {
  if (kept.length > 0) {
    await page.context().addCookies(kept)
    const session = await page.request.get('/api/v1/session')
    if (session.ok()) await page.goto('/')
    else await typeIn(page)
  } else await typeIn(page)
  await page.getByRole('heading', { name: 'Squad' }).waitFor()
  kept = await page.context().cookies()
}

async function typeIn(page: Page) {
  await page.goto('/sign-in')
  await page.getByLabel('Email address').fill('coach@skerravoe.example')
  await page.getByLabel('Password').fill('links-and-lifts')
  await page.getByRole('button', { name: 'Sign in' }).click()
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
