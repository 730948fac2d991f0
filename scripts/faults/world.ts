import { seeded } from '@sprig/core/text';
import { freePort } from '../setup/free-port.mjs';
import { startServer } from '../setup/server.mjs';
import { signInOwner } from '../setup/sign-in.mjs';

export type Answer = { status: number; body: Record<string, unknown>; ms: number };

/** Nobody waits longer than this: what takes longer hangs. */
export const LONGEST_MS = 5_000;

export type Tally = {
  calls: number;
  ok: number;
  refused: number;
  errors: number;
  lost: number;
  slowestMs: number;
};
export const newTally = (): Tally => ({ calls: 0, ok: 0, refused: 0, errors: 0, lost: 0, slowestMs: 0 });

/** A server that can be killed and started again at the same address, and what was asked of it. */
export class World {
  readonly tally = newTally();
  /** Answers of 500, each with what was asked. */
  readonly errors: string[] = [];
  readonly random: () => number;
  /** What the last refusal said. */
  lastRefusal = '';
  private cookie = '';
  private server: Awaited<ReturnType<typeof startServer>> | null = null;

  private constructor(
    private readonly databaseUrl: string,
    readonly port: number,
    seed: number,
  ) {
    this.random = seeded(seed);
  }

  static async open(databaseUrl: string, seed: number): Promise<World> {
    const world = new World(databaseUrl, await freePort(), seed);
    await world.start();
    return world;
  }

  below = (most: number): number => Math.floor(this.random() * most);

  async start(): Promise<void> {
    this.server = await startServer(
      {
        DATABASE_URL: this.databaseUrl,
        PORT: String(this.port),
        LOG_LEVEL: 'fatal',
        SPRIG_NO_COPY: '1',
        RATE_LIMIT_PER_MINUTE: '1000000',
        SPRIG_SECRET: 'a secret that outlives a power cut',
      },
      { quiet: true },
    );
    this.cookie ||= await signInOwner(`http://127.0.0.1:${this.port}`, this.databaseUrl);
  }

  /** As a power cut does. */
  async kill(): Promise<void> {
    if (!this.server) return;
    process.kill(this.server.pid, 'SIGKILL');
    await this.server.exited;
  }

  async stop(): Promise<void> {
    await this.server?.stop();
  }

  /** Null where no answer came. */
  async ask(method: string, path: string, body?: unknown): Promise<Answer | null> {
    const isText = typeof body === 'string';
    const start = performance.now();
    const { tally } = this;
    tally.calls++;
    try {
      const answer = await fetch(`http://127.0.0.1:${this.port}/api${path}`, {
        method,
        headers: { cookie: this.cookie, 'content-type': isText ? 'text/plain' : 'application/json' },
        ...(body === undefined ? {} : { body: isText ? body : JSON.stringify(body) }),
      });
      const told = (await answer.json()) as Record<string, unknown>;
      const ms = performance.now() - start;
      tally.slowestMs = Math.max(tally.slowestMs, ms);
      if (answer.status >= 300) this.lastRefusal = String(told.message);
      if (answer.status < 300) tally.ok++;
      else if (answer.status === 500) {
        tally.errors++;
        this.errors.push(`${method} ${path}: ${JSON.stringify(told)}`);
      } else tally.refused++;
      return { status: answer.status, body: told, ms };
    } catch {
      tally.lost++;
      return null;
    }
  }

  async makePlan(name: string): Promise<number> {
    const brief = { name, currency: 'GBP', language: 'en', site: 'brightmolar.example' };
    const made = await this.ask('POST', '/plans', brief);
    if (made?.status !== 200) throw new Error(`no plan was made: ${JSON.stringify(made?.body)}`);
    return made.body.id as number;
  }

  /** Sends a list; answers its job where that was acknowledged. */
  async takeIn(plan: number, name: string, list: string): Promise<string | null> {
    const sent = await this.ask('POST', `/plans/${plan}/uploads`, list);
    if (sent?.status !== 200) return null;
    const body = { upload: sent.body.upload, kind: 'file', name, options: {} };
    const started = await this.ask('POST', `/plans/${plan}/imports`, body);
    return started?.status === 200 ? (started.body.job as string) : null;
  }

  rename(plan: number, before: string, after: string): Promise<Answer | null> {
    return this.ask('PATCH', `/plans/${plan}/brief`, { edits: [{ at: 'name', before, after }] });
  }

  /** Until no job of the plan waits or runs. */
  async idle(plan: number, most = 120_000): Promise<void> {
    for (const since = performance.now(); performance.now() - since < most; ) {
      const open = await this.ask('GET', `/plans/${plan}/jobs`);
      if (open?.status === 200 && (open.body.jobs as unknown[]).length === 0) return;
      await new Promise((go) => setTimeout(go, 60));
    }
    throw new Error(`the jobs of plan ${plan} did not end`);
  }
}
