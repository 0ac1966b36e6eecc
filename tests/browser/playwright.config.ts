import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';
import { chromiumOptions } from '../support/chromium.js';

export default defineConfig({
  testDir: '.',
  outputDir: '../../test-results',
  // Each test makes what it needs, and every worker has a server of its own.
  fullyParallel: true,
  // Each keeps about one core busy, browser and server together.
  workers: Math.max(2, availableParallelism()),
  // What is waited for is there in a moment, or never: limits are for machines that have twenty times as much to do.
  timeout: 1_200_000,
  // A machine under load loses a click now and then; what fails twice is a fault.
  retries: 1,
  expect: { timeout: 180_000 },
  reporter: 'list',
  use: {
    actionTimeout: 180_000,
    viewport: { width: 1280, height: 800 },
    // Taking a trace costs as much as the test.
    trace: 'on-first-retry',
    launchOptions: chromiumOptions,
  },
});
