import { once } from 'node:events';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { createApp } from './app.ts';
import { connect, connectForRequests } from './database/connect.ts';
import { copyBefore, NoCopy } from './database/copy-before.ts';
import { migrate } from './database/migrate.ts';
import { EventHub } from './http/events.ts';
import { rebuildForTheDay, rebuildStale } from './jobs/rebuild-stale.ts';
import { log } from './log.ts';
import { onlyUser } from './only-user.ts';
import { seedDemo } from './seed-demo.ts';

type Serving = {
  /** Of the database. */
  url: string;
  port: number;
  /** Whether to make the demo plan if none is there. */
  demo: boolean;
  /** Lets jobs run once the database is up to date, and answers how to stop them. */
  startJobs: () => Promise<() => Promise<void>>;
};

/** A new day begins at some time of ours in each time zone. */
const DAY_LOOK_MS = 60_000;

/** What is kept already is copied before a new version changes it, where the launcher said how. */
async function copyFirst(url: string, after: string): Promise<void> {
  const { SPRIG_BACKUP_DIR: folder, SPRIG_POSTGRES_BIN: programs, SPRIG_NO_COPY: without } = process.env;
  if (without === '1') return;
  if (!folder || !programs)
    throw new NoCopy(
      'A new version has to change how your plans are kept. Set SPRIG_BACKUP_DIR and SPRIG_POSTGRES_BIN (the folder of pg_dump) for the copy that is made before, or make one yourself and start with SPRIG_NO_COPY=1. Nothing was changed.',
    );
  const file = await copyBefore(url, folder, programs, after);
  log.warn({ file }, 'all plans were copied before a new version changes how they are kept');
}

/** Serves on the port until the answered function is called. */
export async function serve({ url, port, demo, startJobs }: Serving): Promise<() => Promise<void>> {
  const migrating = connect(url);
  await migrate(migrating, url, { copy: (after) => copyFirst(url, after) }).finally(() => migrating.close());
  const database = connectForRequests(url);
  const user = await onlyUser(database);
  await rebuildStale(database);
  const lookForTheDay = () =>
    rebuildForTheDay(database, new Date()).catch((error) =>
      log.warn({ error }, 'could not build for a new day'),
    );
  await lookForTheDay();
  const days = setInterval(lookForTheDay, DAY_LOOK_MS);
  if (demo) await seedDemo({ database, ...user });
  const events = new EventHub(url);
  await events.open();
  const stopJobs = await startJobs();
  const webFolder = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const server = createServer(createApp({ database, events, callerFor: async () => user, webFolder }));
  server.listen(port, '127.0.0.1');
  await once(server, 'listening');
  return async () => {
    clearInterval(days);
    server.close();
    server.closeAllConnections();
    await events.close();
    await stopJobs();
    await database.close();
  };
}
