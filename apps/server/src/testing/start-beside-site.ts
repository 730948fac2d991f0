import { startRunner } from '../jobs/runner.ts';
import { surviveLostConnections } from '../jobs/survive-lost-connections.ts';
import { JobThreads } from '../jobs/threads.ts';
import { serve } from '../serve.ts';

/** A server for tests that may ask one host of this machine, which no setting of the real one can allow. */
const [url = '', port = '', allowed = ''] = process.argv.slice(2);
surviveLostConnections();
const end = await serve({
  url,
  port: Number(port),
  demo: false,
  startJobs: () => startRunner(url, new JobThreads(url, { allowed: [allowed] })),
});
process.send?.('ready');
process.on('SIGTERM', () => void end().then(() => process.exit(0)));
