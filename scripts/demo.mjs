import { join, resolve } from 'node:path';
import { claimFolder } from './setup/claim.mjs';
import { keepRunning } from './setup/keep-running.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { programsHere, startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { secretOf } from './setup/secret.mjs';
import { assertPortFree, startServer } from './setup/server.mjs';
import { main } from './setup/stop-with.mjs';
import { ensureWeb } from './setup/web.mjs';

/** Sets up what is missing, starts everything, and stops all of it on Ctrl-C. */
await main(async () => {
  const port = Number(process.env.PORT ?? 4600);
  const folder = resolve(process.env.SPRIG_DATA_DIR ?? join(root, '.data'));
  ensurePackages();
  await assertPortFree(port);
  const claim = process.env.DATABASE_URL ? { release() {} } : claimFolder(folder);
  let database;
  let server;
  const stop = async () => {
    await server?.stop();
    await database?.stop();
    claim.release();
  };
  const stopped = new Promise((done) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(signal, done);
  });
  try {
    let url = process.env.DATABASE_URL;
    // Started again, it listens where it did: the server finds it there.
    let listensAt;
    if (!url)
      database = await keepRunning('The database', async () => {
        const started = await startPostgres(folder, { port: listensAt });
        listensAt = started.port;
        url = started.url;
        return started;
      });
    await ensureWeb();
    server = await keepRunning('The server', () =>
      startServer({
        DATABASE_URL: url,
        PORT: String(port),
        SEED_DEMO: process.env.SEED_DEMO ?? (process.argv.includes('--without-demo') ? '0' : '1'),
        SPRIG_SECRET: process.env.SPRIG_SECRET ?? secretOf(folder),
        // Where and by what all is copied before a new version changes how it is kept.
        SPRIG_BACKUP_DIR: join(folder, 'backups'),
        SPRIG_POSTGRES_BIN: programsHere() ?? '',
        LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      }),
    );
    await Promise.race([stopped, server.gaveUp, ...(database ? [database.gaveUp] : [])]);
  } finally {
    await stop();
  }
});
