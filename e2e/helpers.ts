import AxeBuilder from '@axe-core/playwright'

import { expect, type Browser, type Dunnock, type Page } from './walk'

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

interface Trial {
  test: string
  side?: string
  value: number
  pain?: number
}
export interface GolferFile {
  asOf: string
  athlete: { name: string }
  limits: object[]
  training: { kit: string[] }
  competitions: object[]
  offWeeks?: number
  offWhy?: string
  screens: { date: string; trials: Trial[] }[]
}

/** Brings in a golfer made from the demo's Torquil, changed, and returns the id. */
export async function bringIn(page: Page, name: string, change: (f: GolferFile) => void) {
  const from = await golferId(page, 'Torquil Brae')
  const file = (await (await page.request.get(`/api/v1/athletes/${from}/export`)).json()) as GolferFile
  file.athlete.name = name
  change(file)
  const sent = await page.request.post('/api/v1/golfer-files', {
    data: JSON.stringify(file),
    headers: { 'Content-Type': 'application/octet-stream', 'Sec-Fetch-Site': 'same-origin' },
  })
  expect(sent.status(), await sent.text()).toBe(201)
  return golferId(page, name)
}

/** Gives every trial of a test, on one side or all, one value. */
export const set = (f: GolferFile, test: string, value: number, side?: string) =>
  f.screens.forEach((s) =>
    s.trials.filter((t) => t.test === test && (!side || t.side === side)).forEach((t) => (t.value = value)),
  )

/** Golfers brought in go again: the walks that follow find the demo as it was. */
export async function sendHome(browser: Browser, demo: Dunnock, names: string[]) {
  const page = await browser.newPage({ baseURL: demo.url })
  await signIn(page)
  for (const name of names) {
    const id = await golferId(page, name).catch(() => '')
    if (id) await page.request.delete(`/api/v1/athletes/${id}`, { headers: { 'Sec-Fetch-Site': 'same-origin' } })
  }
  await page.close()
}

/** Sends home whoever is not of the demo: what comes next counts the golfers. */
export async function onlyTheDemo(browser: Browser, demo: Dunnock) {
  const page = await browser.newPage({ baseURL: demo.url })
  await signIn(page)
  const { athletes } = (await (await page.request.get('/api/v1/athletes')).json()) as { athletes: { name: string }[] }
  await page.close()
  const guests = athletes.map((a) => a.name).filter((n) => !DEMO.includes(n))
  if (guests.length > 0) await sendHome(browser, demo, guests)
}
const DEMO = ['Eilidh Saltness', 'Finn Orrin', 'Jonas Firth', 'Magnus Quoyle', 'Marit Hellyer', 'Torquil Brae']

/** The id of the first session of the week a golfer has still open. */
export async function openSession(page: Page, id: string): Promise<string> {
  const week = (await (await page.request.get(`/api/v1/athletes/${id}/floor`)).json()) as {
    sessions: { session: string; kind: string; state: string }[]
  }
  const open = week.sessions.find((s) => s.kind === 'planned' && !s.state)
  if (!open) throw new Error('no session is open')
  return open.session
}

/** Answers the five questions before a session as on a usual day. */
export async function feelsFine(page: Page) {
  const before = page.getByRole('region', { name: 'Before the session' })
  for (const title of ['None', 'Well', '7 h and more', 'As usual'])
    await before.getByRole('button', { name: title, exact: true }).first().click()
  await before.getByRole('group', { name: 'Soreness' }).getByRole('button', { name: 'None', exact: true }).click()
  await before.getByRole('button', { name: /^(Start|Go on)$/ }).click()
}

/** Chooses from a list: the browser's own, or one that opens, again where it was still moving when it was clicked. */
export async function choose(page: Page, label: string, option: string) {
  const field = page.getByLabel(label).first()
  if (await field.evaluate((f) => f.tagName === 'SELECT')) return void (await field.selectOption(option))
  const list = page.getByRole('listbox', { name: label })
  await expect(async () => {
    if (!(await list.isVisible())) await field.press('Enter', { timeout: 2000 })
    await list.getByRole('option', { name: option, exact: true }).click({ timeout: 2000 })
    await expect(list).toBeHidden({ timeout: 2000 })
  }).toPass()
}

/** Expects nothing on a page that assistive technology reads badly: by WCAG 2.2 AA, by some of its rules alone, or by all but some. */
export async function readsWell(page: Page, what: string, rules?: string[], but: string[] = []) {
  const axe = new AxeBuilder({ page }).options({ resultTypes: ['violations'] })
  const levels = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']
  const found = await (rules ? axe.withRules(rules) : axe.withTags(levels).disableRules(but)).analyze()
  const where = found.violations.map((v) => {
    const nodes = v.nodes.map((n) => n.target.join(' ')).slice(0, 3)
    return `${what} ${v.id}: ${nodes.join(' | ')}`
  })
  expect(where, what).toEqual([])
}
