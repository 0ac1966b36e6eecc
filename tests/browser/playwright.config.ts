import { defineConfig } from '@playwright/test';

const port = process.env['BROWSER_TEST_PORT'] ?? '4690';

export default defineConfig({
  testDir: '.',
  globalSetup: './global-setup.ts',
  outputDir: '../../test-results',
  fullyParallel: false,
  workers: 1,
  timeout: 180_000,
  // A machine under load loses a click now and then; what fails twice is a fault.
  retries: 1,
  expect: { timeout: 20_000 },
  reporter: 'list',
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    actionTimeout: 30_000,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
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
