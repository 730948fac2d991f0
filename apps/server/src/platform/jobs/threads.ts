import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import type { Sequelize } from 'sequelize';
import { connect } from '../../db/connect.ts';
import { config } from '../config.ts';
import { SprigFailure } from '../failure.ts';
import { log } from '../log.ts';
import { cancel, cancelUntil, type Executor, newName, type Outcome, type TakenJob } from './execution.ts';

/** So many jobs run at once, each in a thread of its own. */
const SLOTS = 4;
/** So many threads are kept rather than taken from a plan whose last build they know. */
const KEPT = 2;
/** A stopped job ends by itself within this time, or its thread is ended. */
const STOP_MS = 700;
/** How long jobs may go on once the server is to end. */
const GRACE_MS = 5_000;
type Options = {
  /** What a thread starts with. */
  boot?: URL;
  /** What a job may take, in megabytes. */
  memoryMb?: number;
  graceMs?: number;
  /** Hosts that may be asked though they lie in a private network: a test's own. */
  allowed?: readonly string[];
};

type Seat = {
  worker: Worker;
  /** Of its connections. */
  name: string;
  /** The plan whose job it ran last: it knows what it built. */
  plan: number | null;
  job: string | null;
  settle: (outcome: Outcome) => void;
  isStopping: boolean;
  usedAt: number;
};

/**
 * Threads that run jobs, one job each, so that none keeps a request or another plan's job waiting while it computes, and
 * any can be ended. The first loads its code from the beginning, beside what else starts.
 */
export class JobThreads implements Executor {
  readonly slots = SLOTS;
  private readonly seats: Seat[] = [];
  private database: Sequelize | null = null;
  private isEnding = false;

  /** @param url of the database */
  constructor(
    private readonly url: string,
    private readonly options: Options = {},
  ) {
    this.seats.push(this.load());
  }

  async run(job: TakenJob): Promise<Outcome> {
    const seat = this.seatFor(job.plan_id);
    seat.job = job.id;
    seat.plan = job.plan_id;
    try {
      return await new Promise<Outcome>((settle) => {
        seat.settle = settle;
        seat.worker.postMessage(job);
      });
    } finally {
      seat.job = null;
      seat.isStopping = false;
      seat.usedAt = performance.now();
    }
  }

  stop(job: string): void {
    const seat = this.seats.find(({ job: running }) => running === job);
    if (!seat || seat.isStopping) return;
    seat.isStopping = true;
    const hasEnded = () => seat.job !== job;
    void cancelUntil(this.canceller, seat.name, hasEnded, STOP_MS).then(() => {
      if (!hasEnded()) void this.giveUp(seat);
    });
  }

  async end(): Promise<void> {
    this.isEnding = true;
    const until = performance.now() + (this.options.graceMs ?? GRACE_MS);
    while (this.seats.some(({ job }) => job !== null) && performance.now() < until)
      await new Promise((go) => setTimeout(go, 50));
    await Promise.all(this.seats.map((seat) => (seat.job === null ? letGo(seat) : this.giveUp(seat))));
    await this.database?.close();
  }

  /** For what is done to connections of threads, not by them. */
  private get canceller(): Sequelize {
    this.database ??= connect(this.url, { connections: 2 });
    return this.database;
  }

  private seatFor(plan: number): Seat {
    const idle = this.seats.filter(({ job }) => job === null).sort((a, b) => a.usedAt - b.usedAt);
    const known = idle.find((seat) => seat.plan === plan) ?? idle.find((seat) => seat.plan === null);
    if (known) return known;
    if (idle[0] && this.seats.length >= KEPT) return idle[0];
    const seat = this.load();
    this.seats.push(seat);
    return seat;
  }

  private load(): Seat {
    const name = newName();
    const { boot = new URL('./thread-boot.mjs', import.meta.url), memoryMb = config().JOB_MEMORY_MB } =
      this.options;
    const worker = new Worker(boot, {
      workerData: { url: this.url, name, allowed: this.options.allowed ?? [] },
      resourceLimits: { maxOldGenerationSizeMb: memoryMb },
    });
    const seat: Seat = {
      worker,
      name,
      plan: null,
      job: null,
      settle: () => {},
      isStopping: false,
      usedAt: 0,
    };
    let why: Error | null = null;
    worker.on('message', (outcome: Outcome) => seat.settle(outcome));
    worker.on('error', (error) => {
      why = error as Error;
      if (!this.isEnding) log.error({ error, job: seat.job }, 'a thread of jobs failed');
    });
    worker.on('exit', () => {
      this.seats.splice(this.seats.indexOf(seat), 1);
      seat.settle(outcomeOfExit(seat, why, memoryMb));
    });
    return seat;
  }

  /** Ends a thread in the middle of its job: nothing of it is kept. */
  private async giveUp(seat: Seat): Promise<void> {
    await seat.worker.terminate();
    await cancel(this.canceller, seat.name, 'connection').catch((error) =>
      log.warn({ error }, 'could not end the connections of a stopped job'),
    );
  }
}

const letGo = async ({ worker }: Seat): Promise<void> => {
  const ended = once(worker, 'exit');
  worker.postMessage('end');
  await ended;
};

function outcomeOfExit({ isStopping }: Seat, why: Error | null, memoryMb: number): Outcome {
  if (isStopping) return { how: 'stopped' };
  if ((why as { code?: string } | null)?.code !== 'ERR_WORKER_OUT_OF_MEMORY') return { how: 'lost' };
  const words = `This takes more memory than a job may have (${memoryMb.toLocaleString('en')} MB). Nothing was changed: do it in parts, or start the server with a larger JOB_MEMORY_MB.`;
  return { how: 'failed', failure: new SprigFailure('too-large', words).toAnswer() };
}
