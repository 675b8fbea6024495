import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Plugin, Rolldown } from 'vite'

/** The files in which addresses and their views stand, and what the addresses of each begin with. */
const ROUTERS = [
  { file: './src/app/router.ts', below: '' },
  { file: './src/app/steps.ts', below: '/golfers/:id/' },
]

/** An address and the file of its view, as they stand in a router. */
export interface Page {
  path: string
  view: string
}

const asked = (p: Page) => p.path.split(':').length

/**
 * Every address that has a view of its own; the first that fits is meant. Throws when one is written in a way that is
 * not understood.
 */
export function pages(): Page[] {
  const all = ROUTERS.flatMap(({ file, below }) => {
    const text = readFileSync(fileURLToPath(new URL(file, import.meta.url)), 'utf8')
    const found = [...text.matchAll(/path: '([^']+)'(?:(?!path: )[\s\S])*?import\('@(\/views\/[^']+)'\)/g)].map(
      (m) => ({
        path: below + m[1],
        view: m[2] ?? '',
      }),
    )
    const views = text.match(/import\('@\/views\//g)?.length ?? 0
    if (found.length !== views)
      throw new Error(`${file}: the address of ${views - found.length} views is not understood`)
    return found
  })
  return all.sort((a, b) => asked(a) - asked(b))
}

/** An address as a regular expression, one as `/golfers/:id/force/:recordingId?`. */
export function pattern(path: string): string {
  return `^${path.replace(/\/:\w+\?/g, '(/[^/]+)?').replace(/:\w+(\(\\\\d\+\))?/g, '[^/]+')}/?$`
}

/** The scripts and styles a view is made of, but for what every page begins with. */
function filesOf(view: string, bundle: Rolldown.OutputBundle): string[] {
  const chunks = Object.values(bundle).filter((f) => f.type === 'chunk')
  const root = chunks.find((c) => c.moduleIds.some((id) => id.endsWith(view)))
  if (!root) throw new Error(`${view} has no file of its own`)
  const needed = new Set<Rolldown.OutputChunk>()
  const add = (chunk: Rolldown.OutputChunk) => {
    if (chunk.isEntry || needed.has(chunk)) return
    needed.add(chunk)
    for (const name of chunk.imports) for (const c of chunks) if (c.fileName === name) add(c)
  }
  add(root)
  const styles = (c: Rolldown.OutputChunk) => [
    ...((c as { viteMetadata?: { importedCss: Set<string> } }).viteMetadata?.importedCss ?? []),
  ]
  return [...needed].flatMap((c) => [c.fileName, ...styles(c)])
}

/** What every page stands in is asked for after the program itself, and needed with it. */
const FRAME = '/src/app/frame.ts'

/**
 * Writes into index.html, in place of `__PAGES__`, which files the view of every address is made of: they are fetched and
 * read while the program itself is on its way, not after it. Style is asked for by the page itself: so it holds
 * back the program (main.ts), and not the words that say that it is on its way, which on a thin line are there long before.
 */
export function pagesAhead(): Plugin {
  return {
    name: 'dunnock-pages-ahead',
    transformIndexHtml: {
      order: 'post',
      handler: (page, { bundle }) => {
        if (!bundle) return page.replace('__PAGES__', '[[], [], []]')
        const frame = filesOf(FRAME, bundle)
        const script = (file: string) => file.endsWith('.js')
        const tags = frame.filter(script).map((file) => ({
          tag: 'link',
          attrs: { rel: 'modulepreload', crossorigin: true, href: `/${file}` },
          injectTo: 'body' as const,
        }))
        const files: string[] = []
        const at = (file: string) => (files.includes(file) ? files.indexOf(file) : files.push(file) - 1)
        const table = pages().map((p) => [
          pattern(p.path),
          filesOf(p.view, bundle)
            .filter((f) => !frame.includes(f))
            .map(at),
        ])
        const styles: string[] = []
        const bare = page.replace(/ *<link rel="stylesheet"[^>]*href="\/([^"]+)">\n?/g, (_, file: string) => {
          styles.push(file)
          return ''
        })
        if (!styles.length) throw new Error('there is no style to ask for beside the first words')
        styles.push(...frame.filter((file) => !script(file)))
        return { html: bare.replace('__PAGES__', () => JSON.stringify([files, table, styles])), tags }
      },
    },
  }
}
