import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/globalSetup.ts',
  fullyParallel: false,
  workers: 2,
  // A machine that does other work has been ten times as slow for minutes.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  forbidOnly: true,
  // A machine of two cores that also runs two databases stalls now and then; what fails twice is broken.
  retries: 1,
  reporter: [['list'], ['json', { outputFile: '.cache/results/playwright.json' }]],
  outputDir: '.cache/playwright',
  use: {
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    timezoneId: 'Europe/Amsterdam',
    locale: 'en-GB',
    // Recording each test takes a sixth of the time; what fails is recorded when it is tried again.
    trace: 'on-first-retry',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
