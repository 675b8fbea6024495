import { defineConfig } from '@playwright/test'

const chromium = {
  browserName: 'chromium' as const,
  viewport: { width: 1280, height: 800 },
  launchOptions: {
    // Without the window of the browser, which costs as much as the page.
    executablePath: '/usr/bin/chromium-headless-shell',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  },
}

export default defineConfig({
  testDir: '.',
  outputDir: 'test-results',
  fullyParallel: false,
  // Each worker walks through a Dunnock of its own (walk.ts); what is measured runs alone.
  workers: 2,
  // A walk that fails is walked once more, through a Dunnock begun anew; the list then calls it flaky, and it is looked at.
  retries: 1,
  timeout: 180_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    ...chromium,
    // The worker keeps every file of the application with each first visit, and every walk is one.
    serviceWorkers: 'block',
    // Nothing slides: a walk waits for what moves.
    contextOptions: { reducedMotion: 'reduce' },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    // A trace costs a quarter of the time of a walk: it is recorded when asked for.
    trace: process.env.DUNNOCK_TRACE ? { mode: 'retain-on-failure', screenshots: false } : 'off',
  },
  projects: [
    { name: 'walks', testMatch: /.*\.walk\.ts/ },
    // Recording a trace takes pictures while it is being measured.
    {
      name: 'measure',
      testMatch: /(first-load|keystroke|long-trace|radar|timer|drag|tick|board|usable|many)\.ts/,
      use: { trace: 'off', screenshot: 'off', video: 'off' },
    },
    { name: 'screenshots', testMatch: /(screenshots|contact)\.ts/ },
  ],
})
