import { defineConfig } from '@playwright/test'

const port = Number(process.env.PORT ?? 3123)
export default defineConfig({
  testDir: 'tests/browser',
  fullyParallel: true,
  workers: 2,
  timeout: 120_000,
  // A busy machine paints late; what is waited for is what counts, not how soon it comes.
  expect: { timeout: 12_000 },
  retries: process.env.CI ? 1 : 0,
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    // It would fetch and keep the whole application for every test; the tests of it allow it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--autoplay-policy=no-user-gesture-required',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
    // A trace of every action takes twice the time of the tests: only what failed once is traced.
    trace: 'on-first-retry',
    testIdAttribute: 'data-test',
  },
  // Sound is measured in real time: by itself, after everything else, so that no other test takes the
  // processor.
  projects: [
    { name: 'views', testIgnore: /sound\.spec/ },
    { name: 'sound', testMatch: /sound\.spec/, dependencies: ['views'], fullyParallel: false },
  ],
  webServer: {
    command: 'node .output/server/index.mjs',
    env: { PORT: String(port), HOST: '127.0.0.1' },
    url: `http://127.0.0.1:${port}/`,
    reuseExistingServer: false,
    timeout: 60_000,
  },
})
