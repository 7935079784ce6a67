import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'tests',
  testMatch: '**/*.spec.ts',
  outputDir: 'test-results',
  globalSetup: './tests/setup.ts',
  fullyParallel: false,
  workers: 2,
  // Generous: a busy machine is slow, not wrong.
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    // Traces take a quarter of the time: `npx playwright test --trace on` where one is wanted. What stood on the page is kept with every failure.
    trace: 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // Nothing is asserted of what moves, and it is drawn by the processor.
        '--force-prefers-reduced-motion',
      ],
    },
  },
})
