import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // One worker for each core: half of the time is waiting for servers, databases and disks.
    maxWorkers: 2,
    projects: [
      { test: { name: 'unit', include: ['packages/**/*.test.ts'], environment: 'node' } },
      {
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          environment: 'node',
          globalSetup: ['tests/server/database.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
    ],
  },
});
