import { fileURLToPath } from 'node:url';
import { type Config, config, WrongSetting } from './platform/config.ts';

/** Starts the server with the settings of the environment. */
const { DATABASE_URL: url, PORT: port, SEED_DEMO: demo } = settings();
if (!url) throw new Error('DATABASE_URL is not set. `npm run demo` starts a database and sets it.');

function settings(): Config {
  try {
    return config();
  } catch (error) {
    if (error instanceof WrongSetting) fail(error);
    throw error;
  }
}

/** What says by itself what to do is told without where it was thrown, which helps nobody. */
function fail({ message }: Error): never {
  console.error(message);
  process.exit(1);
}

const { surviveLostConnections } = await import('./platform/jobs/survive-lost-connections.ts');
const { JobThreads } = await import('./platform/jobs/threads.ts');
surviveLostConnections();
// A thread of jobs loads its code while this one loads its own.
const jobs = new JobThreads(url);
const { serve } = await import('./http/serve.ts');
const { startRunner } = await import('./platform/jobs/runner.ts');
const { NewerDatabase } = await import('./db/migrate.ts');
const { NoCopy } = await import('./db/copy-before.ts');
const { NoWall } = await import('./db/wall.ts');
const end = await serve({
  url,
  port,
  demo,
  webFolder: fileURLToPath(new URL('../../web/dist', import.meta.url)),
  startJobs: () => startRunner(url, jobs),
  say: (words) => console.log(words),
}).catch((error: unknown) => {
  if (
    error instanceof NewerDatabase ||
    error instanceof NoCopy ||
    error instanceof NoWall ||
    error instanceof WrongSetting
  )
    fail(error);
  throw error;
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
