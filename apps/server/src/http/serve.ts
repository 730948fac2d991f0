import { once } from 'node:events';
import { createServer } from 'node:http';
import { connect, connectForRequests } from '../db/connect.ts';
import { copyBefore, NoCopy } from '../db/copy-before.ts';
import { migrate } from '../db/migrate.ts';
import { seedDemo } from '../demo/seed-demo.ts';
import { seedDemoPeople } from '../demo/seed-people.ts';
import { HereTogether, makePeople, ownerLink } from '../people/index.ts';
import { rebuildForTheDay, rebuildStale } from '../plan/rebuild/rebuild-stale.ts';
import { config, WrongSetting } from '../platform/config.ts';
import { log } from '../platform/log.ts';
import { createApp } from './app.ts';
import { EventHub } from './events.ts';
import { HereSockets } from './here-socket.ts';

type Serving = {
  /** Of the database. */
  url: string;
  port: number;
  /** Whether to make the demo plan if none is there. */
  demo: boolean;
  /** Where the web application was built to. */
  webFolder: string;
  /** Lets jobs run once the database is up to date, and answers how to stop them. */
  startJobs: () => Promise<() => Promise<void>>;
  /** Tells whoever started it. */
  say: (words: string) => void;
  /** By which cookies are signed; that of the settings unless given. */
  secret?: string;
};

/** The secret of the settings, without which nobody who is signed in would be known again. */
function ownSecret(): string {
  const { SPRIG_SECRET: secret } = config();
  if (!secret)
    throw new WrongSetting(
      'SPRIG_SECRET is not set. Set it to 32 random characters or more, which stay the same over starts; `npm run demo` and `npm start` make and keep one by themselves.',
    );
  return secret;
}

/** A new day begins at some time of ours in each time zone. */
const DAY_LOOK_MS = 60_000;

/** What is kept already is copied before a new version changes it, where the launcher said how. */
async function copyFirst(url: string, after: string): Promise<void> {
  const { SPRIG_BACKUP_DIR: folder, SPRIG_POSTGRES_BIN: programs, SPRIG_NO_COPY: without } = config();
  if (without) return;
  if (!folder || !programs)
    throw new NoCopy(
      'A new version has to change how your plans are kept. Set SPRIG_BACKUP_DIR and SPRIG_POSTGRES_BIN (the folder of pg_dump) for the copy that is made before, or make one yourself and start with SPRIG_NO_COPY=1. Nothing was changed.',
    );
  const file = await copyBefore(url, folder, programs, after);
  log.warn({ file }, 'all plans were copied before a new version changes how they are kept');
}

/** Serves on the port until the answered function is called. */
export async function serve({
  url,
  port,
  demo,
  webFolder,
  startJobs,
  say,
  secret = ownSecret(),
}: Serving): Promise<() => Promise<void>> {
  const migrating = connect(url);
  await migrate(migrating, url, { copy: (after) => copyFirst(url, after) }).finally(() => migrating.close());
  // The door's and the server's own; what is asked goes by those that are walled.
  const database = connect(url, { connections: 6, acquireMs: 4_000 });
  const walled = connectForRequests(url);
  const people = makePeople(database, secret, { hasDemo: demo });
  await rebuildStale(database);
  const lookForTheDay = () =>
    rebuildForTheDay(database, new Date()).catch((error) =>
      log.warn({ error }, 'could not build for a new day'),
    );
  await lookForTheDay();
  const tidy = () =>
    people.tidy().catch((error) => log.warn({ error }, 'could not take away sessions and links that ended'));
  const days = setInterval(() => {
    void lookForTheDay();
    void tidy();
  }, DAY_LOOK_MS);
  if (demo) {
    const planner = await seedDemoPeople(database);
    if (planner) await seedDemo({ database, ...planner });
  } else {
    const link = await ownerLink(people.door);
    if (link) say(`Nobody has an account yet. Open this link to make the owner:\n\n  ${link}\n`);
  }
  const events = new EventHub(url);
  await events.open();
  const stopJobs = await startJobs();
  const server = createServer(createApp({ database, walled, events, people, webFolder }));
  const together = new HereTogether(database);
  const sockets = new HereSockets(events, (here) => together.add(here));
  sockets.attach(server);
  server.listen(port, '127.0.0.1');
  await once(server, 'listening');
  return async () => {
    clearInterval(days);
    server.close();
    server.closeAllConnections();
    sockets.close();
    await events.close();
    await stopJobs();
    await walled.close();
    await database.close();
  };
}
