import { defineConfig } from '@playwright/test';

/** Journeys against the really built and served application, in Debian's Chromium. */
export default defineConfig({
  testDir: '.',
  testMatch: '*.e2e.ts',
  workers: 1,
  fullyParallel: false,
  // A journey is long, and a machine that checks is slow at times: what hangs is found by the waits within.
  timeout: 600_000,
  expect: { timeout: 15_000 },
  reporter: 'list',
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // What a journey stops or changes on its way goes past no worker; its own journey lets it in.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-background-networking'],
    },
  },
});
