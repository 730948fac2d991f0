import { randomInt } from 'node:crypto';
import pg from 'pg';
import { locks } from '../database/locks.ts';
import { log } from '../log.ts';

const AGAIN_MS = 250;

/**
 * A lock of the database that a runner holds as long as it lives, under a number of its own. Where the connection is lost
 * it is opened again, as often as it takes: the number stays.
 */
export class SignOfLife {
  readonly number = randomInt(1, 2 ** 31 - 1);
  private client: pg.Client | null = null;
  private closed = false;

  /** @param url of the database */
  constructor(private readonly url: string) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    let isLost = false;
    const lost = () => {
      if (isLost) return;
      isLost = true;
      this.client = null;
      client.end().catch(() => {});
      this.openLater();
    };
    client.on('error', (error) => {
      log.warn({ error }, 'a runner lost the database');
      lost();
    });
    client.on('end', lost);
    try {
      await client.connect();
      await client.query('select pg_advisory_lock($1, $2)', [locks.runner, this.number]);
    } catch (error) {
      // Who opened it is told, and tries again by itself.
      isLost = true;
      client.end().catch(() => {});
      throw error;
    }
    if (this.closed) await client.end();
    else this.client = client;
  }

  private openLater(): void {
    if (this.closed) return;
    setTimeout(() => this.open().catch(() => this.openLater()), AGAIN_MS).unref();
  }

  async end(): Promise<void> {
    this.closed = true;
    await this.client?.end();
  }
}
