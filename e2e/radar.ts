import { spawn } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { createServer, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { expect, test } from './walk'

/** From the line a radar sends to its number on the screen, Dunnock in between; docs/performance.md. */
test('from the radar to the screen', async ({ browser }) => {
  test.setTimeout(120_000)
  const lines: Socket[] = []
  const radar = createServer((s) => {
    s.write('{"protocol":"dunnock-stream/1","kind":"radar","name":"Measure","unit":"m/s","rateHz":0}\n')
    lines.push(s)
  })
  await new Promise<void>((done) => radar.listen(7473, '127.0.0.1', done))
  const base = 'http://127.0.0.1:7474'
  const server = spawn(
    '../bin/dunnock',
    ['demo', '--data', mkdtempSync(join(tmpdir(), 'dunnock-radar-')), '--addr', '127.0.0.1:7474'],
    {
      env: { ...process.env, DUNNOCK_RADAR: '127.0.0.1:7473', DUNNOCK_GRIP: '', DUNNOCK_PLATES: '' },
      stdio: 'ignore',
    },
  )
  try {
    const page = await browser.newPage({ baseURL: base })
    await expect
      .poll(
        () =>
          fetch(`${base}/api/v1/health`).then(
            (r) => r.ok,
            () => false,
          ),
        { timeout: 60_000 },
      )
      .toBe(true)
    await page.goto('/sign-in')
    await page.getByLabel('Email address').fill('coach@skerravoe.example')
    await page.getByLabel('Password').fill('links-and-lifts')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await page.getByRole('heading', { name: 'Squad' }).waitFor()
    const all = (await (await page.request.get('/api/v1/athletes')).json()) as {
      athletes: { id: string; name: string }[]
    }
    await page.goto(`/golfers/${all.athletes.find((a) => a.name === 'Torquil Brae')?.id}/speed`)
    await page.getByRole('button', { name: 'Listen to the radar' }).click()
    await expect(page.getByTestId('swing-state')).toContainText('Listening')
    const took: number[] = []
    for (let i = 0; i < 30; i++) {
      const seen = page.getByTestId('last-swing').evaluate(
        (el) =>
          new Promise<number>((done) => {
            const before = el.textContent
            const watch = new MutationObserver(() => {
              if (el.textContent === before) return
              watch.disconnect()
              done(Date.now())
            })
            watch.observe(el, { childList: true, characterData: true, subtree: true })
          }),
      )
      await page.waitForTimeout(2300)
      const sent = Date.now()
      lines.at(-1)?.write(`{"seq":${i + 1},"t":${i * 2.3},"v":${(40 + (i % 7) * 0.37).toFixed(2)}}\n`)
      took.push((await seen) - sent)
    }
    took.sort((a, b) => a - b)
    const at = (p: number) => took[Math.floor(p * (took.length - 1))]
    console.log(`radar to screen: median ${at(0.5)} ms, p95 ${at(0.95)} ms, worst ${at(1)} ms`)
    expect(took).toHaveLength(30)
  } finally {
    server.kill('SIGTERM')
    radar.close()
    for (const s of lines) s.destroy()
  }
})
