import { defineConfig } from '@playwright/test';

/** Journeys against the really built and served application, in Debian's Chromium. */
export default defineConfig({
  testDir: '.',
  testMatch: '*.e2e.ts',
  workers: 1,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 7_000 },
  reporter: 'list',
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-background-networking'],
    },
  },
});
