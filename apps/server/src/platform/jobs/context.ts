import { select } from '../../db/connect.ts';
import { assertMayStill } from '../../people/standing/index.ts';
import type { PlanCaller } from '../caller.ts';
import { notify } from './notify.ts';

/** Thrown inside a job whose user stopped it. */
export class Stopped extends Error {}

/** Thrown inside a job that another runner has taken over, since this one was taken for dead. */
export class TakenOver extends Error {}

const PROGRESS_EVERY_MS = 150;

/** What a job's handler is given: who asked, and how to say how far it is. */
export class JobContext {
  private lastTold = 0;

  constructor(
    readonly caller: PlanCaller,
    readonly id: string,
    readonly input: unknown,
    /** The how-manieth run of the job it is. */
    private readonly run = 1,
  ) {}

  /**
   * Says how far the job is. Throws `Stopped` where its user has stopped it, and a failure where they may not do this any more:
   * call it only where that is safe.
   */
  async progress(phase: string, done: number, total: number): Promise<void> {
    const now = performance.now();
    if (now - this.lastTold < PROGRESS_EVERY_MS) return;
    this.lastTold = now;
    await this.tell(phase, done, total);
  }

  private async tell(phase: string, done: number, total: number) {
    const { database, plan } = this.caller;
    const [job] = await select<{ status: string }>(
      database,
      `update jobs set phase = $2, done = $3, total = $4 where id = $1 and status = 'running' and runs = $5 returning status`,
      [this.id, phase, done, total, this.run],
    );
    if (!job) throw await this.lostBy();
    await assertMayStill(this.caller);
    await notify(database, null, { type: 'job', plan, job: this.id });
  }

  /** Why it is not this run's any more. */
  private async lostBy(): Promise<Error> {
    const [job] = await select<{ status: string }>(
      this.caller.database,
      'select status from jobs where id = $1',
      [this.id],
    );
    return job?.status === 'stopped' ? new Stopped() : new TakenOver();
  }

  /** Tells a new phase at once: for the borders between a job's parts. */
  async phase(phase: string, done = 0, total = 0): Promise<void> {
    this.lastTold = performance.now();
    await this.tell(phase, done, total);
  }
}
