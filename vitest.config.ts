import { defineConfig } from 'vitest/config';
import { inlineAccess } from './scripts/vitest/inline-access.mjs';

export default defineConfig({
  test: {
    projects: [
      {
        plugins: [inlineAccess],
        test: {
          name: 'unit',
          include: ['packages/**/*.test.ts', 'apps/web/src/**/*.test.ts', 'scripts/**/*.test.ts'],
          // Nothing here keeps state between files, so threads share what is loaded: a fifth of the time.
          pool: 'threads',
          isolate: false,
        },
      },
      {
        plugins: [inlineAccess],
        test: {
          name: 'web',
          // Each in a document of its own.
          include: ['apps/web/src/**/*.test.tsx'],
          // A busy machine takes its time over the first document.
          testTimeout: 30_000,
          pool: 'threads',
        },
      },
      {
        plugins: [inlineAccess],
        test: {
          name: 'server',
          include: ['apps/server/**/*.test.ts'],
          globalSetup: ['apps/server/src/testing/template.ts', 'scripts/vitest/server-bundles.mjs'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          isolate: false,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
