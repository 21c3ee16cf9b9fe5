import { defineConfig } from '@playwright/test'

const port = Number(process.env.KEG_TEST_PORT ?? 4699)
const baseURL = `http://127.0.0.1:${port}`

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/e2e',
  workers: 2,
  fullyParallel: true,
  // What takes long for its own sake runs before a release: ./keg test long.
  ...(process.env.KEG_TEST_LONG ? { grep: /@long/ } : { grepInvert: /@long/ }),
  // Two cores, chaos on them, and a machine that may stand still for half a minute: these end what hangs, nothing that is slow.
  timeout: 180_000,
  expect: { timeout: 45_000 },
  forbidOnly: process.env.CI !== undefined,
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  use: {
    baseURL,
    // Less than a test has: what could not be pressed is then seen with the page that was there.
    actionTimeout: 60_000,
    trace: process.env.KEG_TRACE ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: process.env.KEG_CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox'],
    },
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    contextOptions: { reducedMotion: 'reduce' },
    // Pages come from the server, so that routes that a test puts in between are asked; offline.spec lets the worker in.
    serviceWorkers: 'block',
  },
  webServer: {
    command: 'node --import tsx server/listen.ts',
    url: `${baseURL}/healthz`,
    env: {
      NODE_ENV: 'production',
      KEG_PORT: String(port),
      KEG_RATE_SIGN_IN: '10/300',
      // One address for all of them.
      KEG_RATE_SIGN_IN_ADDRESS: '5000/300',
      KEG_RATE_APPEND: '5000/60',
      KEG_LOG: 'warn',
    },
    stdout: 'pipe',
    // However busy the machine is.
    timeout: 300_000,
  },
})
