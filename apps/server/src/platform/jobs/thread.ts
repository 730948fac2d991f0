import { type MessagePort, parentPort, workerData } from 'node:worker_threads';
import { connectAs, type JobHandlers, outcomeOf, type TakenJob } from './execution.ts';
import { surviveLostConnections } from './survive-lost-connections.ts';

/** What `JobThreads` starts: a thread in which jobs run, one after another, so that none ever keeps a request waiting. */
export function serveJobs(handlers: JobHandlers): void {
  surviveLostConnections();
  const parent = parentPort as MessagePort;
  const { url, name } = workerData as { url: string; name: string };
  const database = connectAs(url, name);
  parent.on('message', async (message: TakenJob | 'end') => {
    if (message === 'end') {
      await database.close();
      process.exit(0);
    }
    parent.postMessage(await outcomeOf(database, handlers, message));
  });
}
