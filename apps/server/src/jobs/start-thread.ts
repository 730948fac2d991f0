import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { log } from '../log.ts';

/** A thread that runs jobs. It loads its code from the first on, beside what else starts, and runs nothing until it is to. */
export class JobThread {
  private worker: Worker;
  private stopping = false;

  /** @param url of the database */
  constructor(private readonly url: string) {
    this.worker = this.load();
  }

  /** Lets it run jobs, and answers how to stop it. If it dies, another takes its place. */
  async begin(): Promise<() => Promise<void>> {
    await this.run();
    return async () => {
      this.stopping = true;
      const ended = once(this.worker, 'exit');
      this.worker.postMessage('stop');
      await ended;
    };
  }

  private load(): Worker {
    return new Worker(new URL('./thread-boot.mjs', import.meta.url), { workerData: { url: this.url } });
  }

  private async run(): Promise<void> {
    const { worker } = this;
    const ready = once(worker, 'message');
    worker.postMessage('begin');
    await ready;
    worker.on('error', (error) => log.error({ error }, 'the job thread failed'));
    worker.once('exit', async () => {
      if (this.stopping) return;
      this.worker = this.load();
      await this.run();
    });
  }
}
