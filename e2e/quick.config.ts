import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../scripts/lib/chromium.mjs';

export default defineConfig({
  testDir: '.',
  testMatch: ['tests/*.spec.ts', 'trust/*.spec.ts'],
  outputDir: '../test-results',
  globalSetup: './global-setup.ts',
  // Each file has a server, a shelf and a database of its own. Two lots run beside one another where there is room (scripts/test.mjs).
  workers: 1,
  fullyParallel: false,
  // A busy machine can come between a press and its release; what only held the second time is told as flaky.
  retries: 1,
  // Far beyond what anything takes: a machine that is busy with something else is no fault of what is tried.
  timeout: 300_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions: CHROMIUM,
    // Recording takes a quarter of all time: what failed once is recorded when it is tried again.
    trace: 'on-first-retry',
  },
});
