import { createHash } from 'node:crypto'
import { readFileSync, writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import type { Plugin } from 'vite'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

import { pagesAhead } from './pages.ts'
import { themeSheet } from './theme.ts'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** Writes the service worker with the names of everything that was built, and a version made of them. */
function worker(): Plugin {
  return {
    name: 'dunnock-worker',
    apply: 'build',
    generateBundle(_, bundle) {
      const files = [...Object.keys(bundle).filter((f) => f !== 'index.html'), 'dunnock.svg', 'manifest.webmanifest']
        .map((f) => `/${f}`)
        .sort()
      const text = readFileSync(here('./src/offline/worker.js'), 'utf8')
      const page = readFileSync(here('./index.html'), 'utf8')
      const version = createHash('sha256').update(text).update(page).update(files.join()).digest('hex').slice(0, 12)
      this.emitFile({
        type: 'asset',
        fileName: 'worker.js',
        source: text
          .replace('const files = __FILES__', `const files = ${JSON.stringify(files)}`)
          .replace("'__VERSION__'", `'${version}'`),
      })
    },
  }
}

/**
 * Tells the browser that what every page begins with is run at once: it is then read while it arrives, beside what the
 * page does. Where this is not known it is a comment.
 */
function readAhead(): Plugin {
  return {
    name: 'dunnock-read-ahead',
    apply: 'build',
    // The last to touch a file: the sign has to stand in its first line.
    writeBundle(at, bundle) {
      for (const file of Object.values(bundle)) {
        if (file.type !== 'chunk' || !(file.isEntry || file.name === 'frame')) continue
        const path = `${at.dir ?? 'dist'}/${file.fileName}`
        writeFileSync(path, `//# allFunctionsCalledOnLoad\n${readFileSync(path, 'utf8')}`)
      }
    },
  }
}

/** Asks for the letters at once: text is laid out one time, not again when they come. */
function letters(): Plugin {
  return {
    name: 'dunnock-letters',
    apply: 'build',
    transformIndexHtml: {
      order: 'post',
      handler: (_, { bundle }) => {
        const font = Object.keys(bundle ?? {}).find((f) => /-latin-wght-normal-.*\.woff2$/.test(f))
        if (!font) throw new Error('there is no font to ask for')
        const attrs = { rel: 'preload', as: 'font', type: 'font/woff2', crossorigin: true, href: `/${font}` }
        return [{ tag: 'link', attrs, injectTo: 'head' }]
      },
    },
  }
}

/** The fields a form begins with. */
const FIELDS = /vuetify[\\/]lib[\\/]components[\\/]V(TextField|Textarea|Checkbox|Input|Field|Selection)/

/** What opens over a page, and the fields that do: lists to type in, dialogs. */
const OVERLAYS = /vuetify[\\/]lib[\\/]components[\\/]V(Select\b|Combobox|Autocomplete|Menu|Overlay|Dialog|List|Virtual)/

/** What every page stands in, and all it is made of. */
const FRAME = /src[\\/]app[\\/]frame\.ts$/

/** What views share that has no fields of forms: with them it would bring all of those along. */
const SHARED = /src[\\/](parts|plots|keys|help|offline)[\\/](?!FewSearch|KitPlaces|Help)/

export default defineConfig({
  plugins: [
    vue({ features: { optionsAPI: false } }),
    vuetify({ autoImport: true }),
    themeSheet(),
    readAhead(),
    letters(),
    pagesAhead(),
    worker(),
  ],
  resolve: { alias: { '@': here('./src') } },
  build: {
    target: 'es2022',
    sourcemap: false,
    chunkSizeWarningLimit: 700,
    rolldownOptions: {
      output: {
        chunkFileNames: ({ name }) => `assets/${name.split('~')[0]}-[hash].js`,
        assetFileNames: ({ names }) => `assets/${names[0]?.split('~')[0]?.replace(/\.\w+$/, '')}-[hash][extname]`,
        // Every file asked for costs the page time: what runs the program is one, what every page stands in is one, the
        // fields of forms are one, what opens over a page is one, and so is what views share.
        codeSplitting: {
          groups: [
            { name: 'base', tags: ['$initial'], priority: 5 },
            { name: 'frame', test: FRAME, priority: 4 },
            { name: 'fields', test: FIELDS, priority: 3 },
            { name: 'overlays', test: OVERLAYS, priority: 2 },
            { name: 'shared', test: SHARED, minShareCount: 2, priority: 1 },
          ],
        },
      },
    },
  },
  // The guide stands in docs, beside this folder.
  server: { proxy: { '/api': 'http://127.0.0.1:7420' }, fs: { allow: ['..'] } },
  // Files share one page: making one for each took longer than all tests together. Tests leave nothing behind.
  test: {
    environment: 'jsdom',
    isolate: false,
    include: ['src/**/*.spec.ts', '*.spec.ts'],
    server: { deps: { inline: ['vuetify'] } },
  },
})
