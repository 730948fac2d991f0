import { parentPort, workerData } from 'node:worker_threads';
import { handlers } from './handlers.ts';
import { startRunner } from './runner.ts';

/** The thread in which jobs run, so that none of them ever keeps a request waiting. */
const stop = await startRunner((workerData as { url: string }).url, handlers);
parentPort?.once('message', async () => {
  await stop();
  process.exit(0);
});
parentPort?.postMessage('ready');
