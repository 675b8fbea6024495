import type { IndexHtmlTransformResult } from 'vite'
import { expect, it } from 'vitest'

import { router } from './src/app/router'

import { pages, pagesAhead, pattern } from './pages.ts'

/** An address of a page, with something in place of what is asked for. */
const example = (path: string) =>
  path.replace('(\\\\d+)', '').replace(/:(\w+)\??/g, (_, name) => (name === 'station' ? '0' : '7e902999-8f04-4eab'))

it('finds the address of every view there is', () => {
  const served = router.getRoutes().filter((r) => r.components?.default)
  expect(
    pages()
      .map((p) => p.path.replace('\\\\', '\\'))
      .sort(),
  ).toEqual(served.map((r) => r.path).sort())
})

it('knows every address by its page', () => {
  for (const p of pages()) {
    const at = example(p.path)
    const found = pages().find((q) => new RegExp(pattern(q.path)).test(at))
    expect(found?.path.replace('\\\\', '\\'), at).toBe(router.resolve(at).matched[0]?.path)
  }
})

it('takes what may be left out as left out', () => {
  const force = new RegExp(pattern('/golfers/:id/force/:recordingId?'))
  expect(['/golfers/1/force', '/golfers/1/force/2', '/golfers/1/force/'].every((p) => force.test(p))).toBe(true)
  expect(['/golfers/1/forces', '/golfers/1/force/2/3', '/golfers'].some((p) => force.test(p))).toBe(false)
})

it('has the style of every page asked for in its order, by the page', () => {
  const chunk = (name: string, moduleIds: string[]) => ({
    type: 'chunk',
    fileName: `assets/${name}.js`,
    moduleIds,
    imports: [],
    viteMetadata: { importedCss: new Set([`assets/${name}.css`]) },
  })
  const views = pages().map((p) => p.view)
  const bundle = { a: chunk('frame', ['/src/app/frame.ts']), b: chunk('views', views) }
  const { transformIndexHtml } = pagesAhead() as unknown as {
    transformIndexHtml: { handler(page: string, o: object): IndexHtmlTransformResult }
  }
  const made = transformIndexHtml.handler(
    '<link rel="stylesheet" crossorigin href="/assets/base.css">\n<script>var pages = __PAGES__</script>',
    { bundle },
  ) as { html: string; tags: { attrs: object }[] }
  const [files, table, styles] = JSON.parse(/var pages = (.*)<\/script>/.exec(made.html)?.[1] ?? '') as [
    string[],
    [string, number[]][],
    string[],
  ]
  expect(made.html).not.toContain('stylesheet')
  expect(styles).toEqual(['assets/base.css', 'assets/frame.css'])
  expect(table[0]?.[1].map((at) => files[at])).toEqual(['assets/views.js', 'assets/views.css'])
  expect(made.tags.map((t) => t.attrs)).toEqual([{ rel: 'modulepreload', crossorigin: true, href: '/assets/frame.js' }])
})
