import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import type { Plugin } from 'vite'
import vuetify from 'vite-plugin-vuetify'
import { defineConfig } from 'vitest/config'

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

export default defineConfig({
  plugins: [vue(), vuetify({ autoImport: true }), worker()],
  resolve: { alias: { '@': here('./src') } },
  build: { target: 'es2022', sourcemap: false, chunkSizeWarningLimit: 700 },
  // The guide stands in docs, beside this folder.
  server: { proxy: { '/api': 'http://127.0.0.1:7420' }, fs: { allow: ['..'] } },
  // Files share one page: making one for each took longer than all tests together. Tests leave nothing behind.
  test: {
    environment: 'jsdom',
    isolate: false,
    include: ['src/**/*.spec.ts'],
    server: { deps: { inline: ['vuetify'] } },
  },
})
