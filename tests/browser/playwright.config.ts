import { defineConfig } from '@playwright/test';

const port = process.env['BROWSER_TEST_PORT'] ?? '4690';

export default defineConfig({
  testDir: '.',
  globalSetup: './global-setup.ts',
  outputDir: '../../test-results',
  fullyParallel: false,
  workers: 1,
  timeout: 300_000,
  // A machine under load loses a click now and then; what fails twice is a fault.
  retries: 1,
  // A machine may have a few times as much to do as usual.
  expect: { timeout: 45_000 },
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    // Taking a trace costs as much as the test.
    trace: 'on-first-retry',
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
  },
});
