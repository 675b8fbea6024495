import { spawn, type ChildProcess } from 'node:child_process'
import { chmodSync, mkdtempSync, openSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { test as base } from '@playwright/test'

export { expect, type Browser, type Page } from '@playwright/test'

/** A Dunnock that runs for the walks of one worker, with data and instruments of its own. */
export interface Dunnock {
  url: string
  /** What it said when it started. */
  log: string
}

/** The first of the loopback ports the walks use; each worker takes five of its own. */
const firstPort = 7431
const portsEach = 5

async function start(command: 'demo' | 'serve', worker: number, port: number) {
  const data = mkdtempSync(join(tmpdir(), `dunnock-${command}-`))
  chmodSync(data, 0o755) // the database runs as a user of its own
  const log = join(data, 'said')
  const at = (n: number) => `127.0.0.1:${firstPort + portsEach * worker + n}`
  const child = spawn('../bin/dunnock', [command, '--data', join(data, 'data'), '--addr', at(port)], {
    stdio: ['ignore', openSync(log, 'w'), 'inherit'],
    env: {
      ...process.env,
      DUNNOCK_TODAY: '2026-11-24',
      DUNNOCK_GRIP: at(2),
      DUNNOCK_PLATES: at(3),
      DUNNOCK_RADAR: at(4),
    },
  })
  const url = `http://${at(port)}`
  for (const until = Date.now() + 90_000; ;) {
    const well = await fetch(`${url}/api/v1/health`).then(
      (r) => r.ok,
      () => false,
    )
    if (well) break
    if (child.exitCode !== null || Date.now() > until) throw new Error(`no Dunnock at ${url}`)
    await new Promise((r) => setTimeout(r, 100))
  }
  return { url, log, stop: () => stop(child, data) }
}

async function stop(child: ChildProcess, data: string) {
  const gone = new Promise((r) => child.once('exit', r))
  child.kill('SIGTERM')
  const late = setTimeout(() => child.kill('SIGKILL'), 10_000)
  await gone
  clearTimeout(late)
  rmSync(data, { recursive: true, force: true })
}

/** Walks go through the demo on a frozen day, or through an empty Dunnock. Workers share neither. */
export const test = base.extend<object, { demo: Dunnock; empty: Dunnock }>({
  demo: [
    async ({}, use, worker) => {
      const server = await start('demo', worker.parallelIndex, 0)
      await use(server)
      await server.stop()
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  empty: [
    async ({}, use, worker) => {
      const server = await start('serve', worker.parallelIndex, 1)
      await use(server)
      await server.stop()
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: async ({ demo }, use) => use(demo.url),
})
