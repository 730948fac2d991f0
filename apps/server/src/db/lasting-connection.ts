import pg from 'pg';
import { log } from '../platform/log.ts';

type Options = {
  /** Whose it is, for the log. */
  name: string;
  /** How long it waits before it tries again. */
  againMs: number;
  /** What it does with each connection before that is in use. */
  begin: (client: pg.Client) => Promise<unknown>;
  /** Once a connection is in use. */
  opened?: () => Promise<void>;
};

/** A connection to the database that is opened again where it is lost, as often as it takes, until it is ended. */
export class LastingConnection {
  private client: pg.Client | null = null;
  private closed = false;

  /** @param url of the database */
  constructor(
    private readonly url: string,
    private readonly options: Options,
  ) {}

  /** The connection as it stands; null while there is none. */
  get current(): pg.Client | null {
    return this.client;
  }

  /** Fails where the first connection can't be opened: that is its caller's to tell. */
  async open(): Promise<void> {
    const { name, begin, opened } = this.options;
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    // Told by an error, by its end, or by both; what is lost once is opened again once.
    let isLost = false;
    const lost = (error?: Error) => {
      if (isLost || this.closed) return;
      isLost = true;
      log.warn({ error }, `${name} lost the database`);
      this.client = null;
      client.end().catch(() => {});
      this.openLater();
    };
    client.on('error', lost);
    client.on('end', () => lost());
    try {
      await client.connect();
      await begin(client);
    } catch (error) {
      // Whoever has opened it tries again.
      isLost = true;
      client.end().catch(() => {});
      throw error;
    }
    if (this.closed) return client.end();
    this.client = client;
    await opened?.();
  }

  private openLater(): void {
    if (this.closed) return;
    setTimeout(() => this.open().catch(() => this.openLater()), this.options.againMs).unref();
  }

  async end(): Promise<void> {
    this.closed = true;
    await this.client?.end();
  }
}
