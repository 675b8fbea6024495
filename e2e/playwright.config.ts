import { defineConfig } from '@playwright/test'

const chromium = {
  browserName: 'chromium' as const,
  viewport: { width: 1280, height: 800 },
  launchOptions: {
    executablePath: '/usr/bin/chromium',
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

/** The demo, on a frozen day, and an empty Dunnock for the first run; each with data of its own. */
export const DEMO = 'http://127.0.0.1:7431'
export const EMPTY = 'http://127.0.0.1:7432'

export default defineConfig({
  testDir: '.',
  outputDir: 'test-results',
  fullyParallel: false,
  workers: 1,
  timeout: 180_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    ...chromium,
    baseURL: DEMO,
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    trace: { mode: 'retain-on-failure', screenshots: false },
  },
  projects: [
    { name: 'walks', testMatch: /.*\.walk\.ts/ },
    // Recording a trace takes pictures while it is being measured.
    {
      name: 'measure',
      testMatch: /(first-load|keystroke|long-trace|radar|timer)\.ts/,
      use: { trace: 'off', screenshot: 'off', video: 'off' },
    },
    { name: 'screenshots', testMatch: /screenshots\.ts/ },
  ],
  webServer: [
    {
      command: 'rm -rf /tmp/dunnock-e2e && exec ../bin/dunnock demo --data /tmp/dunnock-e2e/demo --addr 127.0.0.1:7431',
      url: `${DEMO}/api/v1/health`,
      env: { DUNNOCK_TODAY: '2026-11-24' },
      gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
      timeout: 90_000,
    },
    {
      command:
        'rm -rf /tmp/dunnock-e2e-empty && exec ../bin/dunnock serve --data /tmp/dunnock-e2e-empty --addr 127.0.0.1:7432 > /tmp/dunnock-e2e-empty.log',
      url: `${EMPTY}/api/v1/health`,
      env: { DUNNOCK_TODAY: '2026-11-24' },
      gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
      timeout: 90_000,
    },
  ],
})
