import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      { test: { name: 'core', include: ['packages/**/*.test.ts', 'apps/web/src/**/*.test.ts'] } },
      {
        test: {
          name: 'server',
          include: ['apps/server/**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
