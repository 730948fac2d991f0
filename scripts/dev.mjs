import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join, resolve } from 'node:path';
import { ensurePackages } from './setup/packages.mjs';
import { programsHere, startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { secretOf } from './setup/secret.mjs';
import { assertPortFree, startServer } from './setup/server.mjs';
import { main } from './setup/stop-with.mjs';

/** The same as the demo, for changing it: the web app reloads as it is edited, the server starts again. */
await main(async () => {
  ensurePackages();
  const port = Number(process.env.PORT ?? 4600);
  const apiPort = port + 1;
  await assertPortFree(port);
  await assertPortFree(apiPort);
  const folder = resolve(process.env.SPRIG_DATA_DIR ?? join(root, '.data'));
  const database = process.env.DATABASE_URL ? undefined : await startPostgres(folder);
  const server = await startServer(
    {
      DATABASE_URL: process.env.DATABASE_URL ?? database.url,
      PORT: String(apiPort),
      SEED_DEMO: '1',
      SPRIG_SECRET: process.env.SPRIG_SECRET ?? secretOf(folder),
      SPRIG_BACKUP_DIR: join(folder, 'backups'),
      SPRIG_POSTGRES_BIN: programsHere() ?? '',
    },
    { watch: true },
  );
  const vite = spawn('npx', ['vite', '--port', String(port), '--strictPort', '--host', '127.0.0.1'], {
    cwd: join(root, 'apps/web'),
    env: { ...process.env, SPRIG_API: `http://127.0.0.1:${apiPort}` },
    stdio: 'inherit',
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => vite.kill());
  await once(vite, 'exit');
  await server.stop();
  database?.stop();
});
