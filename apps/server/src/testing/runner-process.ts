import { handlers } from '../jobs/handlers.ts';
import { inProcess } from '../jobs/in-process.ts';
import { startRunner } from '../jobs/runner.ts';
import { surviveLostConnections } from '../jobs/survive-lost-connections.ts';

surviveLostConnections();
/** A runner as a process of its own, for tests that kill it. */
const stop = await startRunner(process.argv[2] ?? '', inProcess(process.argv[2] ?? '', handlers));
process.on('SIGTERM', async () => {
  await stop();
  process.exit(0);
});
process.send?.('ready');
