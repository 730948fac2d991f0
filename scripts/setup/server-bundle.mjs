import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, SHARED_SOURCES } from './built.mjs';
import { root } from './root.mjs';

/**
 * Bundles the server's own sources into apps/server/dist, so that they are not transpiled anew at each start. The
 * thread of jobs is an entry of its own, under the name by which the server starts it. Packages stay outside.
 */
export const ensureServer = () =>
  ensureBuilt({
    folder: 'apps/server/dist',
    sources: ['apps/server/src', 'scripts/setup/server-bundle.mjs', ...SHARED_SOURCES],
    build: () =>
      bundleServer('apps/server/dist', {
        start: 'start.ts',
        'thread-boot': 'platform/jobs/thread-of-jobs.ts',
      }),
  });

/**
 * Bundles sources of the server for Node into `folder`, which is emptied before.
 * @param entries by the name of the file to make, without its ending: a file in apps/server/src
 */
export async function bundleServer(folder, entries) {
  const { build } = await import('esbuild');
  const outdir = join(root, folder);
  rmSync(outdir, { recursive: true, force: true });
  await build({
    entryPoints: Object.fromEntries(
      Object.entries(entries).map(([name, file]) => [name, join(root, 'apps/server/src', file)]),
    ),
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [ownSourcesOnly],
  });
}

/** Bundles what is ours, and lists of words as JSON; every other package is left to be loaded by Node. */
const ownSourcesOnly = {
  name: 'own-sources-only',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
      kind === 'entry-point' || path.startsWith('@sprig/') || path.endsWith('.json')
        ? undefined
        : { path, external: true },
    );
  },
};
