import { defineConfig } from '@playwright/test';
import { CHROMIUM_FLAGS } from './scripts/chromium.mjs';

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'test-results/playwright',
  // Slow machines are no failure: speed belongs in the bench.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  workers: 2,
  retries: 0,
  reporter: [['list'], ['json']],
  use: {
    testIdAttribute: 'data-test',
    baseURL: process.env.BASE_URL,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    launchOptions: { executablePath: process.env.CHROMIUM, args: CHROMIUM_FLAGS },
    screenshot: 'only-on-failure',
  },
});
