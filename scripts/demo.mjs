import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { keepRunning } from './setup/keep-running.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { startPostgres } from './setup/postgres.mjs';
import { root } from './setup/root.mjs';
import { assertPortFree, startServer } from './setup/server.mjs';
import { main, SetupFailure } from './setup/stop-with.mjs';
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
        SEED_DEMO: process.env.SEED_DEMO ?? '1',
        LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      }),
    );
    await Promise.race([stopped, server.gaveUp, ...(database ? [database.gaveUp] : [])]);
  } finally {
    await stop();
  }
});

/** One Green Sprig per data folder: a second start says so instead of taking the database away. */
function claimFolder(folder) {
  const note = join(folder, 'demo.pid');
  if (existsSync(note)) {
    const pid = Number(readFileSync(note, 'utf8'));
    if (isDemo(pid))
      throw new SetupFailure(
        `Green Sprig already runs from ${folder} (process ${pid}). Stop it, or set SPRIG_DATA_DIR and PORT for a second one.`,
      );
  }
  try {
    mkdirSync(folder, { recursive: true });
    writeFileSync(note, String(process.pid));
  } catch (error) {
    throw new SetupFailure(
      `The data folder ${folder} can not be written (${error.code}). Set SPRIG_DATA_DIR to another.`,
    );
  }
  return { release: () => rmSync(note, { force: true }) };
}

function isDemo(pid) {
  try {
    return pid !== process.pid && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('demo.mjs');
  } catch {
    return false;
  }
}
