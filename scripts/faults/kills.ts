import pg from 'pg';
import { World } from './world.ts';

export type Killed = {
  kills: number;
  edits: number;
  imports: number;
  shipments: number;
  tally: World['tally'];
  /** What was lost, is there half or twice, or never ended. */
  failures: string[];
};

/** How the end comes: the server is killed, or every connection of its database is cut. */
export type End = 'server' | 'database';

/** What the plan has to hold: all that was acknowledged, and what was on its way then or not. */
class Truth {
  name = 'Plan';
  /** An edit that was sent and not answered. */
  unsure: string | null = null;
  readonly lists = new Map<string, { keywords: number; job: string | null }>();
  readonly shipments: string[] = [];

  edited(after: string): void {
    this.name = after;
    this.unsure = null;
  }
}

/**
 * Works on a plan as a user does, ends the server or its connections in the middle at seeded moments, and compares what
 * is there after each with what was acknowledged before.
 */
export async function killed(databaseUrl: string, ends: readonly End[], seed: number): Promise<Killed> {
  const world = await World.open(databaseUrl, seed);
  const database = new pg.Pool({ connectionString: databaseUrl, max: 2, application_name: 'faults' });
  database.on('error', () => {});
  const told: Killed = { kills: 0, edits: 0, imports: 0, shipments: 0, tally: world.tally, failures: [] };
  try {
    const plan = await world.makePlan('Plan');
    const truth = new Truth();
    await world.takeIn(plan, 'First', 'crown cost\nbridge cost\n');
    await world.idle(plan);
    truth.lists.set('First', { keywords: 2, job: null });
    for (const [n, end] of ends.entries()) {
      const stop = { now: false };
      const work = working(world, plan, truth, told, n, stop);
      await new Promise((go) => setTimeout(go, world.below(1_200)));
      if (end === 'server') await world.kill();
      else await cutAll(database);
      stop.now = true;
      await work;
      if (end === 'server') await world.start();
      told.kills++;
      await world.idle(plan);
      told.failures.push(
        ...(await differences(world, database, plan, truth)).map((what) => `kill ${n}: ${what}`),
      );
    }
  } catch (error) {
    told.failures.push((error as Error).message);
  } finally {
    await world.stop();
    await database.end();
  }
  told.failures.push(...world.errors);
  return told;
}

const cutAll = (database: pg.Pool) =>
  database.query(
    `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and application_name <> 'faults'`,
  );

/** Edits, lists and shipments one after another, until it is told to stop. */
async function working(
  world: World,
  plan: number,
  truth: Truth,
  told: Killed,
  n: number,
  stop: { now: boolean },
): Promise<void> {
  for (let at = 0; !stop.now; at++) {
    const what = world.below(10);
    if (what < 7) {
      const after = `Plan ${n}.${at}`;
      truth.unsure = after;
      const answer = await world.rename(plan, truth.name, after);
      if (answer?.status === 200) {
        truth.edited(after);
        told.edits++;
      } else if (answer?.status === 409) truth.edited(String(answer.body.current));
      // It may have been done, or not: the next look tells.
      else return;
    } else if (what < 9) {
      // Now and then one that takes a while; a plan that grows fast would only be waited for.
      const keywords = 1 + world.below(world.below(6) === 0 ? 2_000 : 100);
      const name = `List ${n}.${at}`;
      const lines = Array.from({ length: keywords }, (_, line) => `tooth ${n} of ${at} no ${line}`);
      truth.lists.set(name, { keywords, job: null });
      const job = await world.takeIn(plan, name, lines.join('\n'));
      if (job === null) return;
      truth.lists.set(name, { keywords, job });
      told.imports++;
    } else {
      const body = { outlet: 'plain', format: 'csv', what: 'all', sheets: ['keywords'] };
      const started = await world.ask('POST', `/plans/${plan}/sheet-sets`, body);
      if (started === null) return;
      if (started.status !== 200) continue;
      truth.shipments.push(started.body.job as string);
      told.shipments++;
    }
  }
}

type Failure = { code: string } | null;
type Source = { name: string; job: string; keywords: number };

async function differences(world: World, database: pg.Pool, plan: number, truth: Truth): Promise<string[]> {
  const found: string[] = [];
  const state = await world.ask('GET', `/plans/${plan}`);
  if (state?.status !== 200) return ['the plan does not open'];
  const { brief, counts } = state.body as { brief: { name: string }; counts: { keywords: number } };
  if (brief.name !== truth.name && brief.name !== truth.unsure)
    found.push(`it is called ${brief.name}, and ${truth.name} was acknowledged`);
  truth.edited(brief.name);
  const { rows: sources } = await database.query<Source>(
    `select s.name, s.job_id as job, (select count(*)::int from mentions m where m.plan_id = s.plan_id and m.source_id = s.id) as keywords
     from sources s where s.plan_id = $1`,
    [plan],
  );
  let expected = 0;
  for (const [name, { keywords, job }] of truth.lists) {
    const there = sources.filter((source) => source.name === name);
    if (there.length > 1) found.push(`${name} is there ${there.length} times`);
    if (there.length === 0) {
      if (job !== null) found.push(`${name} was acknowledged, and is not there`);
      truth.lists.delete(name);
      continue;
    }
    if (there[0]?.keywords !== keywords)
      found.push(`${name} is there with ${there[0]?.keywords} of ${keywords} keywords`);
    expected += keywords;
  }
  if (counts.keywords !== expected)
    found.push(`the pool has ${counts.keywords} keywords, its lists ${expected}`);
  const { rows: jobs } = await database.query<{ id: string; status: string; kind: string; failure: Failure }>(
    'select id, status, kind, failure from jobs where plan_id = $1',
    [plan],
  );
  // A shipment may be refused for what the plan lacks; nothing else may fail, and none is stopped.
  for (const { kind, status, failure } of jobs)
    if (status !== 'done' && !(kind === 'ship' && failure?.code === 'blocked'))
      found.push(`a job (${kind}) ${status}: ${JSON.stringify(failure)}`);
  const { rows: sets } = await database.query<{ sets: number }>(
    'select count(*)::int as sets from sheet_sets where plan_id = $1',
    [plan],
  );
  const shipped = jobs.filter(({ kind, status }) => kind === 'ship' && status === 'done').length;
  if (shipped !== sets[0]?.sets)
    found.push(`${shipped} shipments were made, and there are ${sets[0]?.sets} receipts`);
  const known = new Set(jobs.map(({ id }) => id));
  for (const job of truth.shipments)
    if (!known.has(job)) found.push('a shipment was acknowledged, and nobody knows of it');
  return found;
}
