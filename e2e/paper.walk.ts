import { signIn } from './helpers'
import { expect, type Page, test } from './walk'
import { everyView, show } from './views'

/** Views that are read on paper: on A4, A5 and letter nothing is cut, no button stands there, and it says whose it is. */
const READ = [
  'read',
  'season',
  'programme',
  'warmup',
  'card',
  'progress',
  'force-page',
  'day',
  'class',
  'squad',
  'load',
  'compare',
  'screen',
]
/** What fits between the margins, in CSS pixels: upright, and across. */
const PAPERS = { A4: [718, 1047], A5: [483, 718], letter: [740, 980] } as const
/** A letter may lean into the margin. */
const MARGIN = 6
/** Views with a table that needs the width. */
const ACROSS = ['programme', 'class', 'load']

/** What is cut off at the right of a page of this width, or should not be on paper. */
const spoils = (page: Page, width: number) =>
  page.evaluate(
    ([width, MARGIN]) => {
      const found: string[] = []
      const name = (e: Element) =>
        `${e.tagName.toLowerCase()}.${e.classList[0] ?? ''} “${e.textContent?.trim().slice(0, 30)}”`
      for (const e of document.querySelectorAll('main *')) {
        const r = e.getBoundingClientRect()
        if (r.width === 0 || !e.checkVisibility()) continue
        if (r.right > width + MARGIN && !e.closest('svg') && e.textContent?.trim())
          found.push(`cut: ${r.right.toFixed(0)} ${name(e)}`)
        if (e.matches('.v-btn, [role=tab], input[type=file]')) found.push(`button: ${name(e)}`)
      }
      return found.slice(0, 4)
    },
    [width, MARGIN] as const,
  )

test('what is read on paper is whole on every paper', async ({ page }) => {
  await signIn(page)
  const found: string[] = []
  for (const view of (await everyView(page)).filter((v) => READ.includes(v.name))) {
    await page.emulateMedia({ media: 'screen' })
    await page.setViewportSize({ width: 1280, height: 800 })
    await show(page, view)
    await page.emulateMedia({ media: 'print' })
    for (const [paper, [upright, across]] of Object.entries(PAPERS)) {
      const width = ACROSS.includes(view.name) ? across : upright
      await page.setViewportSize({ width, height: 1000 })
      found.push(...(await spoils(page, width)).map((f) => `${view.name}, ${paper}: ${f}`))
    }
    if (view.golfer) expect(await page.locator('body').innerText(), view.name).toContain(view.golfer)
  }
  expect(found).toEqual([])
})
