import { spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { type Postgres, startPostgres } from '../setup/postgres.mjs';
import { World } from './world.ts';

export type Full = { listsBefore: number; refusals: string[]; databaseEnded: boolean; failures: string[] };

const SIZE_MB = 420;
const BALLAST_MB = 80;

/**
 * Fills a disk of its own with lists until none goes in, makes room again, and looks whether all that was acknowledged is
 * there and the next list goes in. Answers null where this user may not mount a disk.
 */
export async function diskFull(seed: number): Promise<Full | null> {
  const folder = mkdtempSync(join(tmpdir(), 'sprig-full-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE_MB}m`, 'tmpfs', folder]);
  if (mounted.status !== 0) {
    rmSync(folder, { recursive: true });
    return null;
  }
  chmodSync(folder, 0o711);
  const told: Full = { listsBefore: 0, refusals: [], databaseEnded: false, failures: [] };
  let database: Postgres | null = null;
  let world: World | null = null;
  try {
    const ballast = join(folder, 'ballast');
    writeFileSync(ballast, new Uint8Array(BALLAST_MB * 1_000_000));
    database = await startPostgres(folder, { settings: ['shared_buffers=32MB'], free: () => SIZE_MB });
    world = await World.open(database.url, seed);
    const plan = await world.makePlan('Full');
    const kept: string[] = [];
    for (let n = 0; n < 60 && told.refusals.length < 3; n++) {
      const name = `List ${n}`;
      const list = Array.from({ length: 20_000 }, (_, at) => `${'filling '.repeat(4)}${n} no ${at}`).join(
        '\n',
      );
      const why = await takenIn(world, plan, name, list);
      if (why === null) kept.push(name);
      else told.refusals.push(why);
    }
    told.listsBefore = kept.length;
    if (told.refusals.length === 0) told.failures.push('the disk was never full');
    rmSync(ballast);
    told.databaseEnded = await hasEnded(database);
    // What the launcher does.
    if (told.databaseEnded)
      database = await startPostgres(folder, { port: database.port, free: () => SIZE_MB });
    const why = await takenIn(world, plan, 'After', 'crown\nbridge\n', 60_000);
    if (why !== null) told.failures.push(`with room again a list is refused: ${why}`);
    told.failures.push(...(await missing(database.url, plan, [...kept, 'After'])));
  } catch (error) {
    told.failures.push((error as Error).message);
  } finally {
    await world?.kill();
    database?.stop();
    spawnSync('umount', ['-l', folder]);
    rmSync(folder, { recursive: true, force: true });
  }
  return told;
}

/** Null where a list went in; else why it did not, in the words that a user reads. */
async function takenIn(
  world: World,
  plan: number,
  name: string,
  list: string,
  most = 30_000,
): Promise<string | null> {
  let why = 'no answer';
  for (const since = performance.now(); performance.now() - since < most; ) {
    const job = await world.takeIn(plan, name, list);
    for (let times = 0; job !== null && times < 600; times++) {
      const told = await world.ask('GET', `/plans/${plan}/jobs/${job}`);
      const { status, failure } = (told?.body ?? {}) as { status?: string; failure?: { message: string } };
      if (status === 'done') return null;
      if (status === 'failed') return failure?.message ?? 'failed';
      await new Promise((go) => setTimeout(go, 50));
    }
    if (world.lastRefusal !== '') why = world.lastRefusal;
    if (name !== 'After') return why;
    await new Promise((go) => setTimeout(go, 500));
  }
  return why;
}

async function hasEnded(database: Postgres): Promise<boolean> {
  const waited = new Promise<false>((go) => setTimeout(() => go(false), 3_000));
  return (await Promise.race([database.exited, waited])) !== false;
}

async function missing(url: string, plan: number, names: readonly string[]): Promise<string[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<{ name: string; keywords: number }>(
    `select s.name, (select count(*)::int from mentions m where m.plan_id = s.plan_id and m.source_id = s.id) as keywords
     from sources s where s.plan_id = $1`,
    [plan],
  );
  await client.end();
  const there = new Map(rows.map(({ name, keywords }) => [name, keywords]));
  const gone = names.filter((name) => there.get(name) !== (name === 'After' ? 2 : 20_000));
  const extra = rows.filter(({ name }) => !names.includes(name)).map(({ name }) => name);
  return [
    ...gone.map((name) => `${name} is not there whole`),
    ...extra.map((name) => `${name} was refused, and is there`),
  ];
}
