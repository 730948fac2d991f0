import { planEvent } from '@sprig/contracts';
import type { Response } from 'express';
import pg from 'pg';
import { CHANNEL } from '../jobs/notify.ts';
import { log } from '../log.ts';

/** Passes what the database tells on to the windows that are open on a plan. */
export class EventHub {
  private readonly windows = new Map<number, Set<Response>>();
  private client: pg.Client | null = null;
  private closed = false;

  constructor(private readonly url: string) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on('notification', ({ payload }) => this.pass(payload ?? ''));
    client.on('error', (error) => {
      log.error({ error }, 'lost the event connection');
      this.client = null;
      if (!this.closed) setTimeout(() => this.open().catch(() => {}), 1_000).unref();
    });
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    this.client = client;
  }

  /** Keeps the response open as a stream of server-sent events until the window goes. */
  attach(plan: number, response: Response): void {
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
