import { inProcess } from '../platform/jobs/in-process.ts';
import { startRunner } from '../platform/jobs/runner.ts';
import { surviveLostConnections } from '../platform/jobs/survive-lost-connections.ts';
import { handlers } from '../stages/all.ts';

surviveLostConnections();
/** A runner as a process of its own, for tests that kill it. */
const stop = await startRunner(process.argv[2] ?? '', inProcess(process.argv[2] ?? '', handlers));
process.on('SIGTERM', async () => {
  await stop();
  process.exit(0);
});
process.send?.('ready');
