import { once } from 'node:events';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { createApp } from './app.ts';
import { connect } from './database/connect.ts';
import { migrate } from './database/migrate.ts';
import { EventHub } from './http/events.ts';
import { rebuildStale } from './jobs/rebuild-stale.ts';
import { startJobThread } from './jobs/start-thread.ts';
import { onlyUser } from './only-user.ts';
import { seedDemo } from './seed-demo.ts';

/** Starts the server: `DATABASE_URL` and `PORT` from the environment; SEED_DEMO=1 makes the demo plan if none is there. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set. `npm run demo` starts a database and sets it.');
const port = Number(process.env.PORT ?? 4600);

const database = connect(url);
await migrate(database, url);
const user = await onlyUser(database);
await rebuildStale(database);
if (process.env.SEED_DEMO === '1') await seedDemo({ database, ...user });
const events = new EventHub(url);
await events.open();
const stopJobs = await startJobThread(url);
const webFolder = fileURLToPath(new URL('../../web/dist', import.meta.url));
const server = createServer(createApp({ database, events, callerFor: async () => user, webFolder }));
server.listen(port, '127.0.0.1');
await once(server, 'listening');
console.log(`Green Sprig is ready at http://127.0.0.1:${port}`);
process.send?.('ready');

let stopping = false;
async function stop() {
  if (stopping) return;
  stopping = true;
  server.close();
  server.closeAllConnections();
  await events.close();
  await stopJobs();
  await database.close();
  process.exit(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
// A parent that is killed can not stop us: its channel closes instead.
process.on('disconnect', stop);
