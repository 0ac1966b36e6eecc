import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  outputDir: '../../test-results',
  fullyParallel: false,
  // One keeps little more than one core busy: the browser waits for the server, and the server for the browser.
  workers: 2,
  timeout: 300_000,
  // A machine under load loses a click now and then; what fails twice is a fault.
  retries: 1,
  // A machine may have a few times as much to do as usual.
  expect: { timeout: 45_000 },
  reporter: 'list',
  use: {
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
