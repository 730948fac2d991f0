import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { defineConfig } from 'vitest/config';
import { inlineAccess } from './scripts/vitest/inline-access.mjs';

const rendered = 'apps/web/src/**/*.test.tsx';
/** Rendered tests that put something in a module's place: what is loaded can't be shared with others. */
const mocking = readdirSync('apps/web/src', { recursive: true, encoding: 'utf8' })
  .map((file) => join('apps/web/src', file))
  .filter((file) => file.endsWith('.test.tsx') && readFileSync(file, 'utf8').includes('vi.mock('));
/** A slow machine makes a test slow, not red: only one that stands still ends so. */
const LONG = 240_000;
const ofDocuments = {
  pool: 'threads' as const,
  environment: 'jsdom',
  setupFiles: ['apps/web/src/testing/document.ts'],
  testTimeout: LONG,
};

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
          testTimeout: LONG,
        },
      },
      {
        plugins: [inlineAccess],
        test: { ...ofDocuments, name: 'web', include: [rendered], exclude: mocking, isolate: false },
      },
      {
        plugins: [inlineAccess],
        test: { ...ofDocuments, name: 'web-mocking', include: mocking },
      },
      {
        plugins: [inlineAccess],
        test: {
          name: 'server',
          include: ['apps/server/**/*.test.ts'],
          globalSetup: ['apps/server/src/testing/template.ts', 'scripts/vitest/server-bundles.mjs'],
          testTimeout: LONG,
          hookTimeout: LONG,
          isolate: false,
          maxWorkers: 2,
          sequence: { groupOrder: 1 },
        },
      },
    ],
  },
});
