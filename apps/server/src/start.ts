import { surviveLostConnections } from './jobs/survive-lost-connections.ts';
import { JobThreads } from './jobs/threads.ts';

/** Starts the server: `DATABASE_URL` and `PORT` from the environment; SEED_DEMO=1 makes the demo plan if none is there. */
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set. `npm run demo` starts a database and sets it.');
const port = Number(process.env.PORT ?? 4600);

surviveLostConnections();
// A thread of jobs loads its code while this one loads its own.
const jobs = new JobThreads(url);
const { serve } = await import('./serve.ts');
const { startRunner } = await import('./jobs/runner.ts');
const { NewerDatabase } = await import('./database/migrate.ts');
const { NoCopy } = await import('./database/copy-before.ts');
const end = await serve({
  url,
  port,
  demo: process.env.SEED_DEMO === '1',
  startJobs: () => startRunner(url, jobs),
}).catch((error: unknown) => {
  // It says by itself what to do; where it was thrown helps nobody.
  if (!(error instanceof NewerDatabase || error instanceof NoCopy)) throw error;
  console.error(error.message);
  process.exit(1);
});
console.log(`Green Sprig is ready at http://127.0.0.1:${port}`);
process.send?.('ready');

let stopping = false;
async function stop() {
  if (stopping) return;
  stopping = true;
  await end();
  process.exit(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
// A parent that is killed can not stop us: its channel closes instead.
process.on('disconnect', stop);
