import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePackages } from './setup/packages.mjs';
import { startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { NODE_ARGS } from './setup/server.mjs';
import { main } from './setup/stop-with.mjs';

/** Runs a TypeScript script with a database of its own that is thrown away: `node scripts/run.mjs FILE`. */
await main(async () => {
  ensurePackages();
  const folder = mkdtempSync(join(tmpdir(), 'sprig-run-'));
  chmodSync(folder, 0o711);
  const database = await startPostgres(folder);
  try {
    const env = { ...process.env, DATABASE_URL: database.url, LOG_LEVEL: 'error' };
    // As the server runs, so that what is measured here is what it does there.
    const run = spawnSync(process.execPath, ['--expose-gc', ...NODE_ARGS, ...process.argv.slice(2)], {
      cwd: root,
      env,
      stdio: 'inherit',
    });
    process.exitCode = run.status ?? 1;
  } finally {
    database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
