import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureChromium } from './setup/chromium.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { startServer } from './setup/server.mjs';
import { main } from './setup/stop-with.mjs';
import { ensureWeb } from './setup/web.mjs';

/** Makes every picture of docs/screenshots afresh, from a fresh demo plan. */
await main(async () => {
  ensurePackages();
  ensureChromium();
  await ensureWeb();
  const folder = mkdtempSync(join(tmpdir(), 'sprig-pictures-'));
  chmodSync(folder, 0o711);
  const database = await startPostgres(folder, { settings: ['fsync=off'] });
  const port = '4891';
  const server = await startServer({
    DATABASE_URL: database.url,
    PORT: port,
    SEED_DEMO: '1',
    LOG_LEVEL: 'error',
  });
  try {
    const run = spawnSync(
      process.execPath,
      ['--import', 'tsx', 'scripts/pictures.ts', `http://127.0.0.1:${port}`],
      { cwd: root, stdio: 'inherit' },
    );
    process.exitCode = run.status ?? 1;
  } finally {
    await server.stop();
    database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
