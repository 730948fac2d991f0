import { once } from 'node:events';
import { type MessagePort, parentPort, workerData } from 'node:worker_threads';
import { handlers } from './handlers.ts';
import { startRunner } from './runner.ts';
import { surviveLostConnections } from './survive-lost-connections.ts';

surviveLostConnections();
const parent = parentPort as MessagePort;
/** The thread in which jobs run, so that none of them ever keeps a request waiting. First it is told to begin, then to stop. */
await once(parent, 'message');
const stop = await startRunner((workerData as { url: string }).url, handlers);
parent.once('message', async () => {
  await stop();
  process.exit(0);
});
parent.postMessage('ready');
