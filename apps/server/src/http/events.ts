import { type PlanEvent, planEvent } from '@sprig/contracts';
import type { Response } from 'express';
import pg from 'pg';
import { CHANNEL } from '../jobs/notify.ts';
import { log } from '../log.ts';

/** Passes what the database tells on to the windows that are open on a plan. */
export class EventHub {
  private readonly windows = new Map<number, Set<Response>>();
  private client: pg.Client | null = null;
  private closed = false;

  /** @param url of the database */
  constructor(private readonly url: string) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on('notification', ({ payload }) => this.pass(payload ?? ''));
    // Told by an error, by its end, or by both; what is lost once is opened again once.
    let isLost = false;
    const lost = (error?: Error) => {
      if (isLost || this.closed) return;
      isLost = true;
      log.error({ error }, 'lost the event connection');
      this.client = null;
      client.end().catch(() => {});
      this.openLater();
    };
    client.on('error', lost);
    client.on('end', () => lost());
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
    } catch (error) {
      // Whoever has opened it tries again.
      isLost = true;
      client.end().catch(() => {});
      throw error;
    }
    if (this.closed) return void client.end();
    this.client = client;
    // What happened while nobody listened is told by where each plan stands now.
    for (const [plan, list] of this.windows)
      for (const response of list) await this.tellWhere(plan, response);
  }

  /** Tries again until it is open: the database may be away for a while. */
  private openLater(): void {
    if (this.closed) return;
    setTimeout(() => this.open().catch(() => this.openLater()), 1_000).unref();
  }

  /**
   * Keeps the response open as a stream of server-sent events until the window goes. It is told where the plan
   * stands once it hears of changes, so that none falls between what a window has read and the first it hears of.
   */
  async attach(plan: number, response: Response): Promise<void> {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-accel-buffering': 'no',
    });
    response.write('retry: 1000\n\n');
    const list = this.windows.get(plan) ?? new Set();
    this.windows.set(plan, list.add(response));
    const beat = setInterval(() => response.write(':\n\n'), 20_000);
    response.on('close', () => {
      clearInterval(beat);
      list.delete(response);
      if (list.size === 0) this.windows.delete(plan);
    });
    await this.tellWhere(plan, response).catch((error: unknown) =>
      log.error({ error }, 'a window was not told where its plan stands'),
    );
  }

  private async tellWhere(plan: number, response: Response): Promise<void> {
    // Without a connection it is told when there is one again.
    const found = await this.client?.query<{ revision: number; builtRevision: number }>(
      'select revision, built_revision as "builtRevision" from plans where id = $1',
      [plan],
    );
    const where = found?.rows[0];
    if (!where) return;
    const event: PlanEvent = { type: 'opened', plan, ...where };
    response.write(`data: ${JSON.stringify(event)}\n\n`);
  }

  async close(): Promise<void> {
    this.closed = true;
    for (const list of this.windows.values()) for (const response of list) response.end();
    await this.client?.end();
  }

  private pass(payload: string) {
    const event = planEvent.safeParse(JSON.parse(payload));
    if (!event.success) return;
    for (const response of this.windows.get(event.data.plan) ?? []) response.write(`data: ${payload}\n\n`);
  }
}
