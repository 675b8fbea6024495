import { expect, type Page } from './walk'

import { golferId } from './helpers'

/** A view, where it is in the demo, and what stands there once it can be used. */
export interface View {
  /** Its name in the router. */
  name: string
  path: string
  /** The golfer it is of. */
  golfer?: string
  /** Read standing: at a station, on the floor, from the wall. */
  standing?: boolean
}

/** The views nobody has to be signed in for: other walks begin there. */
export const openViews = ['sign-in', 'first-run']

/** Every view of the application, in the demo. */
export async function everyView(page: Page): Promise<View[]> {
  const marit = await golferId(page, 'Marit Hellyer')
  const torquil = await golferId(page, 'Torquil Brae')
  const of = (name: string, path: string, id = torquil, golfer = 'Torquil Brae'): View => ({
    name,
    path: `/golfers/${id}/${path}`,
    golfer,
  })
  const get = async <T>(path: string) => (await (await page.request.get(`/api/v1${path}`)).json()) as T
  const floor = await get<{ sessions: { session: string; kind: string; state: string }[] }>(`/athletes/${marit}/floor`)
  const open = floor.sessions.find((s) => s.kind === 'planned' && !s.state)?.session ?? ''
  const programmes = await get<{ id: string; status: string }[]>(`/athletes/${marit}/programmes`)
  const issued = programmes.find((p) => p.status === 'issued')?.id ?? ''
  const whole = await get<{ programme: { blocks: { weeks: { sessions: { id: string }[] }[] }[] } }>(
    `/programmes/${issued}`,
  )
  const card = whole.programme.blocks[0]?.weeks[0]?.sessions[0]?.id ?? ''
  const day = (await get<{ id: string }[]>('/days'))[0]?.id ?? ''
  const klass = await makeClass(page)
  return [
    { name: 'squad', path: '/' },
    { name: 'today', path: '/today' },
    of('intake', 'intake'),
    of('screen', 'screen'),
    of('force', 'force'),
    of('speed', 'speed'),
    of('read', 'read'),
    of('season', 'season', marit, 'Marit Hellyer'),
    of('programme', 'programme'),
    of('warmup', 'warmup'),
    of('floor', 'floor', marit, 'Marit Hellyer'),
    of('progress', 'progress', marit, 'Marit Hellyer'),
    of('force-page', 'force/page'),
    of('card', `programme/${issued}/card/${card}`, marit, 'Marit Hellyer'),
    of('compare', 'compare'),
    { name: 'practice', path: '/practice' },
    { name: 'group-warmup', path: '/group-warmup' },
    { ...of('run', `floor/${open}`, marit, 'Marit Hellyer'), standing: true },
    of('load', 'load', marit, 'Marit Hellyer'),
    { name: 'plan-class', path: '/classes/plan' },
    { name: 'class', path: `/classes/${klass}`, standing: true },
    { name: 'wall', path: `/classes/${klass}/wall`, standing: true },
    { name: 'days', path: '/days' },
    { name: 'plan-day', path: '/days/plan' },
    { name: 'day', path: `/days/${day}` },
    { name: 'station', path: `/days/${day}/stations/1`, standing: true },
    { name: 'tests', path: '/tests' },
    { name: 'repeats', path: '/repeats' },
    { name: 'method', path: '/method' },
    { name: 'method', path: '/method?part=rules' },
    { name: 'files', path: '/files' },
  ]
}

async function makeClass(page: Page) {
  await page.goto('/classes/plan')
  await page.getByRole('button', { name: 'Everybody' }).click()
  await page.getByRole('button', { name: 'Make the class' }).click()
  await page.waitForURL(/classes\/[0-9a-f-]{36}/)
  return page.url().split('/').pop() ?? ''
}

/** Opens a view and waits until it is there. */
export async function show(page: Page, view: View) {
  await page.goto(view.path)
  await expect(page.getByRole('heading', { level: 1 }).first(), view.name).toHaveText(/\S/)
  await settled(page)
}

/** Waits until nothing more comes: what is asked for after the heading stands there, and fields whose turn is not yet. */
export async function settled(page: Page) {
  let before = -1
  const rests = async () => {
    const now = await page.evaluate(() => document.body.innerHTML.length)
    const same = now === before && (await page.locator('.not-yet').count()) === 0
    before = now
    return same
  }
  await expect.poll(rests, { intervals: [80] }).toBe(true)
}

/** Whether a page is wider than its screen, in words. */
export const tooWide = (page: Page) =>
  page.evaluate(() => {
    const { scrollWidth, clientWidth } = document.documentElement
    return scrollWidth > clientWidth + 1 ? [`wide: ${scrollWidth} px of ${clientWidth}`] : []
  })

/** Whether what stands around the work takes more than a third of a phone, in words. */
export const tooCramped = (page: Page) =>
  page.evaluate(() => {
    const rows = Array.from({ length: Math.floor(innerHeight / 4) }, (_, i) => i * 4)
    const work = rows.filter((y) => {
      const there = document.elementFromPoint(innerWidth / 2, y)
      return there?.closest('#content') && !there.closest('.rail, .foot')
    })
    const share = work.length / rows.length
    return share < 2 / 3 ? [`cramped: the work has ${Math.round(100 * share)}% of the screen`] : []
  })

/** What a page has that no view should have: each line says what, and where. */
export async function faults(page: Page, view: View, touch: boolean): Promise<string[]> {
  const found = await page.evaluate(
    ({ standing, aim, golfer }) => {
      const found: string[] = []
      const name = (e: Element) => {
        const own = e.getAttribute('aria-label') ?? e.textContent?.trim().slice(0, 30) ?? ''
        return `${e.tagName.toLowerCase()}.${e.classList[0] ?? ''} “${own}”`
      }
      const seen = (e: Element) => {
        const r = e.getBoundingClientRect()
        return r.width > 1 && r.height > 1 && e.checkVisibility({ checkVisibilityCSS: true, checkOpacity: true })
      }
      /** Nothing to be read is smaller than 13 px; standing, than 18. */
      function sizes() {
        const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
        for (let n = texts.nextNode(); n; n = texts.nextNode()) {
          const e = n.parentElement
          if (!e || !n.textContent?.trim() || e.closest('script, style, option, .visually-hidden') || !seen(e)) continue
          const svg = e.closest('svg')
          const scale = svg?.viewBox.baseVal?.width ? svg.getBoundingClientRect().width / svg.viewBox.baseVal.width : 1
          const size = parseFloat(getComputedStyle(e).fontSize) * scale
          const least = standing && e.closest('main') ? 18 : 13
          if (size < least - 0.05) found.push(`small: ${size.toFixed(1)} px ${name(e)}`)
        }
      }
      /** What is aimed at is large enough: the label counts with its box, a link within a sentence does not. */
      function targets() {
        const all = 'button, a[href], input:not([type=hidden]), select, textarea, [role=button], summary'
        for (const e of document.querySelectorAll(all)) {
          if (!seen(e) || e.matches('.skip')) continue
          if (e.tagName === 'A' && getComputedStyle(e).display === 'inline' && e.closest('p, td, li, dd')) continue
          const { width, height } = (e.closest('.v-field, .v-selection-control, label') ?? e).getBoundingClientRect()
          if (Math.min(width, height) < aim - 0.5)
            found.push(`aim: ${width.toFixed(0)}×${height.toFixed(0)} ${name(e)}`)
        }
      }
      /** No dates in ISO, no ids, no codes; and a sentence stands in one place. */
      function words() {
        const raw = /\b\d{4}-\d{2}-\d{2}\b|\b[0-9a-f]{8}-[0-9a-f]{4}\b|\b[A-Z]{3,}(-[A-Z0-9]+)+\b/g
        for (const m of document.body.innerText.matchAll(raw)) found.push(`raw: ${m[0]}`)
        for (const e of document.querySelectorAll('[aria-label], [title]'))
          for (const text of [e.getAttribute('aria-label'), e.getAttribute('title')])
            for (const m of text?.matchAll(raw) ?? []) found.push(`raw in a name: ${m[0]}`)
        const said = new Map<string, number>()
        for (const e of document.querySelectorAll<HTMLElement>('p, li, dd, figcaption')) {
          if (!seen(e) || e.closest('table') || e.querySelector('p, li')) continue
          for (const sentence of e.innerText.split(/(?<=[.!?])\s+|\n/))
            if (/[.!?]$/.test(sentence) && sentence.split(/\s+/).length >= 6)
              said.set(sentence, (said.get(sentence) ?? 0) + 1)
        }
        for (const [sentence, n] of said) if (n > 1) found.push(`said ${n} times: ${sentence}`)
      }
      const scrolls = (e: Element): boolean =>
        !!e.parentElement &&
        (/auto|scroll/.test(getComputedStyle(e.parentElement).overflowX) || scrolls(e.parentElement))
      /** One heading says where one is, the title of whom; plots have a name, tables their heads. */
      function marks() {
        const heads = [...document.querySelectorAll('h1')].filter((h) => h.checkVisibility())
        if (heads.length !== 1) found.push(`headings: ${heads.map((h) => h.textContent).join(' | ') || 'none'}`)
        if (golfer && !document.title.includes(golfer)) found.push(`title: ${document.title}`)
        for (const p of document.querySelectorAll('svg')) {
          if (!seen(p) || p.closest('[aria-hidden=true], button, a, .v-icon')) continue
          if (!p.getAttribute('aria-label') && !p.querySelector('title')) found.push(`plot without a name: ${name(p)}`)
        }
        for (const t of document.querySelectorAll('table')) {
          const place = t.parentElement?.getBoundingClientRect()
          const over = place ? t.getBoundingClientRect().right - place.right : 0
          if (seen(t) && over > 1 && !scrolls(t)) found.push(`over its place by ${over.toFixed(0)} px: ${name(t)}`)
          if (seen(t) && !t.querySelector('th')) found.push(`table without heads: ${name(t)}`)
        }
      }
      sizes()
      targets()
      words()
      marks()
      return found
    },
    {
      standing: view.standing ?? false,
      aim: touch && (view.standing || view.name === 'screen') ? 44 : 24,
      golfer: view.golfer,
    },
  )
  return [...(await tooWide(page)), ...found]
}
