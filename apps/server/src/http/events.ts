import { randomBytes } from 'node:crypto';
import { type PlanEvent, planEvent } from '@sprig/contracts';
import type { Response } from 'express';
import { z } from 'zod';
import { LastingConnection } from '../db/lasting-connection.ts';
import { PEOPLE_CHANNEL } from '../people/standing/index.ts';
import { SprigFailure } from '../platform/failure.ts';
import { CHANNEL } from '../platform/jobs/notify.ts';
import { log } from '../platform/log.ts';
import { ToldTogether } from './told-together.ts';

/** The database may be away for a while. */
const AGAIN_MS = 1_000;

/** One user has no more windows open than this. */
const MOST_WINDOWS = 100;
/** No stream goes on for longer: a session that has ended is to be noticed. */
const LONGEST_MS = 15 * 60_000;

/** Somebody who hears what happens at a plan. */
export type Listener = { plan: number; actor: number };

/** Passes what the database tells on to the windows that are open on a plan. */
export class EventHub {
  private readonly windows = new Map<number, Set<Response>>();
  private readonly connection: LastingConnection;
  private readonly together = new ToldTogether((plan, payloads) => {
    const told = payloads.map((payload) => `data: ${payload}\n\n`).join('');
    for (const response of this.windows.get(plan) ?? []) response.write(told);
  });
  private asked: Promise<unknown> = Promise.resolve();
  /** Who hears by a stream, by what it was told to be known by. */
  private readonly listening = new Map<string, Listener>();
  /** By who listens. */
  private readonly streams = new Map<number, Set<Response>>();

  /** @param url of the database */
  constructor(url: string) {
    this.connection = new LastingConnection(url, {
      name: 'the hub of events',
      againMs: AGAIN_MS,
      begin: (client) => {
        client.on('notification', ({ channel, payload = '' }) =>
          channel === PEOPLE_CHANNEL ? this.reopen(payload) : this.pass(payload),
        );
        return client.query(`listen ${CHANNEL}; listen ${PEOPLE_CHANNEL}`);
      },
      opened: () => this.tellAll(),
    });
  }

  open(): Promise<void> {
    return this.connection.open();
  }

  /** What happened while nobody listened is told by where each plan stands now. */
  private async tellAll(): Promise<void> {
    for (const [plan, list] of this.windows)
      for (const response of list) await this.tellOrLog(plan, response);
  }

  /**
   * Keeps the response open as a stream of server-sent events until the window goes. It is told where the plan
   * stands once it hears of changes, so that none falls between what a window has read and the first it hears of.
   */
  async attach(plan: number, actor: number, response: Response): Promise<void> {
    const own = this.streams.get(actor) ?? new Set();
    if (own.size >= MOST_WINDOWS)
      throw new SprigFailure(
        'too-many',
        `${MOST_WINDOWS} windows are open already. Close some: those that are open go on hearing of changes.`,
      );
    this.streams.set(actor, own.add(response));
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    const stream = randomBytes(18).toString('base64url');
    this.listening.set(stream, { plan, actor });
    const event: PlanEvent = { type: 'listening', plan, stream };
    response.write(`retry: 1000\n\ndata: ${JSON.stringify(event)}\n\n`);
    const list = this.windows.get(plan) ?? new Set();
    this.windows.set(plan, list.add(response));
    const beat = setInterval(() => response.write(':\n\n'), 20_000);
    // A window comes again by itself, and is asked who it is.
    const end = setTimeout(() => response.end(), LONGEST_MS);
    response.on('close', () => {
      clearInterval(beat);
      clearTimeout(end);
      own.delete(response);
      if (own.size === 0) this.streams.delete(actor);
      this.listening.delete(stream);
      list.delete(response);
      if (list.size === 0) this.windows.delete(plan);
    });
    await this.tellOrLog(plan, response);
  }

  /** Who hears by a stream now: whoever may not any more has no stream. */
  listener(stream: string): Listener | null {
    return this.listening.get(stream) ?? null;
  }

  private async tellOrLog(plan: number, response: Response): Promise<void> {
    await this.tellWhere(plan, response).catch((error: unknown) =>
      log.error({ error }, 'a window was not told where its plan stands'),
    );
  }

  private async tellWhere(plan: number, response: Response): Promise<void> {
    // Without a connection it is told when there is one again.
    const ask = async () =>
      this.connection.current?.query<{ revision: number; builtRevision: number }>(
        'select revision, built_revision as "builtRevision" from plans where id = $1',
        [plan],
      );
    // A connection is asked one thing after another.
    const asked = this.asked.then(ask, ask);
    this.asked = asked;
    const where = (await asked)?.rows[0];
    if (!where) return;
    const event: PlanEvent = { type: 'opened', plan, ...where };
    response.write(`data: ${JSON.stringify(event)}\n\n`);
  }

  /** Whether changes are heard of, and by how many windows. */
  get state(): { listens: boolean; windows: number } {
    const windows = [...this.windows.values()].reduce((sum, list) => sum + list.size, 0);
    return { listens: this.connection.current !== null, windows };
  }

  async close(): Promise<void> {
    this.together.stop();
    for (const list of this.windows.values()) for (const response of list) response.end();
    await this.connection.end();
  }

  /** Ends the streams of those who may do something else now: where they still may listen, their windows come again. */
  private reopen(payload: string) {
    const actors = z.array(z.number()).safeParse(JSON.parse(payload));
    for (const actor of actors.data ?? [])
      for (const response of this.streams.get(actor) ?? []) response.end();
  }

  private pass(payload: string) {
    const event = planEvent.safeParse(JSON.parse(payload));
    if (!event.success) return;
    this.together.add(event.data.plan, payload);
  }
}
