import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../scripts/lib/chromium.mjs';

export default defineConfig({
  testDir: '.',
  testMatch: ['tests/*.spec.ts', 'trust/*.spec.ts'],
  outputDir: '../test-results',
  globalSetup: './global-setup.ts',
  // Each file has a server, a shelf and a database of its own. On two cores two at a time are no faster: each draws by software.
  workers: 1,
  fullyParallel: false,
  // A busy machine can come between a press and its release; what only held the second time is told as flaky.
  retries: 1,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  use: {
    actionTimeout: 15_000,
    viewport: { width: 1280, height: 800 },
    reducedMotion: 'reduce',
    launchOptions: CHROMIUM,
    trace: 'retain-on-failure',
  },
});
