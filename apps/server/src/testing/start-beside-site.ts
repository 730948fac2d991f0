import { fileURLToPath } from 'node:url';
import { serve } from '../http/serve.ts';
import { startRunner } from '../platform/jobs/runner.ts';
import { surviveLostConnections } from '../platform/jobs/survive-lost-connections.ts';
import { JobThreads } from '../platform/jobs/threads.ts';

/** A server for tests that may ask one host of this machine, which no setting of the real one can allow. */
const [url = '', port = '', allowed = ''] = process.argv.slice(2);
surviveLostConnections();
const end = await serve({
  url,
  port: Number(port),
  demo: false,
  webFolder: fileURLToPath(new URL('../../../web/dist', import.meta.url)),
  say: () => {},
  secret: 'a secret of tests that is long enough',
  startJobs: () => startRunner(url, new JobThreads(url, { allowed: [allowed] })),
});
process.send?.('ready');
process.on('SIGTERM', () => void end().then(() => process.exit(0)));
