import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { log } from '../log.ts';

/** Starts the job thread and answers how to stop it. If it dies, another takes its place. */
export async function startJobThread(url: string): Promise<() => Promise<void>> {
  let stopping = false;
  let worker = await spawn(url);
  const watch = () => {
    worker.on('error', (error) => log.error({ error }, 'the job thread failed'));
    worker.once('exit', async () => {
      if (stopping) return;
      worker = await spawn(url);
      watch();
    });
  };
  watch();
  return async () => {
    stopping = true;
    const ended = once(worker, 'exit');
    worker.postMessage('stop');
    await ended;
  };
}

/** Rows of a large plan are made by the page: with room for a few pages they go before they are ever moved. */
const YOUNG_MB = 144;

async function spawn(url: string): Promise<Worker> {
  const worker = new Worker(new URL('./thread-boot.mjs', import.meta.url), {
    workerData: { url },
    resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MB },
  });
  await once(worker, 'message');
  return worker;
}
