import { defineConfig } from 'vitest/config';

/** Slow machines are no failure. */
const PATIENCE = { testTimeout: 60_000, hookTimeout: 60_000 };

export default defineConfig({
  test: {
    // One worker for each core: half of the time is waiting for servers, databases and disks.
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          include: ['packages/**/*.test.ts'],
          exclude: ['packages/web/**', '**/node_modules/**'],
          ...PATIENCE,
        },
      },
      'packages/web/vitest.config.ts',
      {
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          globalSetup: ['tests/server/database.ts'],
          ...PATIENCE,
        },
      },
    ],
  },
});
