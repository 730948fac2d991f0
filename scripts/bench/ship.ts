import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { Readable } from 'node:stream';
import { planOutletBody } from '@sprig/contracts';
import { fennelwick, plainOutlet, rowKinds } from '@sprig/core/outlets';
import type { Client } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import type { Sequelize } from 'sequelize';
import { connect, execute, select } from '../../apps/server/src/db/connect.ts';
import type { PlanCaller } from '../../apps/server/src/platform/caller.ts';
import type { JobContext } from '../../apps/server/src/platform/jobs/context.ts';
import { unpack } from '../../apps/server/src/platform/packing.ts';
import { keepUpload } from '../../apps/server/src/stages/gather/uploads.ts';
import { makePlan } from '../../apps/server/src/stages/plans/index.ts';
import { ensureCheck } from '../../apps/server/src/stages/ship/check-job.ts';
import { shipStage } from '../../apps/server/src/stages/ship/index.ts';
import { atOneMoment } from '../../apps/server/src/stages/ship/moment.ts';
import { pageRows, viewRows } from '../../apps/server/src/stages/ship/row-look.ts';
import { type Entry, median } from './measure.ts';

const { check: checkJob, 'read-back': readBackJob, ship: shipJob, 'take-back': takeBackJob } = shipStage.jobs;

import { type Figure, seconds, timed } from './server.ts';

const brief = { name: 'Shipping', currency: 'GBP', language: 'en' as const, site: 'saltmarshpaddle.example' };

/**
 * A built plan with rows made by the database itself, since it is shipping that is measured: ad groups of so many
 * keywords, each in one match type, with three lines of an ad or none.
 */
export async function builtPlan(
  database: Sequelize,
  groups: number,
  rowsPerGroup: number,
  ads: boolean,
): Promise<PlanCaller> {
  const caller = { database, workspace: 1, actor: 1 };
  const plan = await makePlan(caller, brief);
  const run = (sql: string, bind: unknown[] = []) => execute(database, sql, [plan, ...bind]);
  await run(
    `insert into campaigns (plan_id, key, workspace_id, position, name, daily_budget, status, labels, hash)
     select $1, 'c' || n, 1, n, 'Campaign ' || n, 20000000, 'enabled', '{}', n from generate_series(1, greatest(1, $2::int / 4000)) n`,
    [groups],
  );
  await run(
    `insert into ad_groups (plan_id, key, workspace_id, campaign_key, kind, theme_id, position, keyword_id, keyword, name, keywords, rows,
       base, base_from, step, status, labels, takes_ads, made_of, hash)
     select $1, 't' || n, 1, 'c' || (1 + (n - 1) % greatest(1, $2::int / 4000)), 'theme', 0, n, n, 'sea kayak ' || n, 'Sea kayak ' || n, $3::int, $3::int,
       400000, 'default', 10000, 'enabled', '{}', $4::bool, n, n from generate_series(1, $2::int) n`,
    [groups, rowsPerGroup, ads],
  );
  await run(
    `insert into keyword_rows (plan_id, key, workspace_id, group_key, position, keyword_id, text, type, marks, base, steps, held_bid, bid, status, labels, hash)
     select $1, 't' || g || ':' || n, 1, 't' || g, n, n, 'inflatable sea kayak hire ' || g || ' ' || n, 3, '{}', 400000, '{12500}', null, 500000, 'enabled', '{}', n
     from generate_series(1, $2::int) g, generate_series(1, $3::int) n`,
    [groups, rowsPerGroup],
  );
  await run(
    `insert into outlet_groups (plan_id, key, workspace_id, outlet, position, campaign_key, campaign, part, name, bid, hash)
     select g.plan_id, g.key, 1, 'plain', g.position, g.campaign_key, c.name, 1, g.name, 400000, g.hash
     from ad_groups g join campaigns c on c.plan_id = g.plan_id and c.key = g.campaign_key where g.plan_id = $1`,
  );
  if (ads)
    await run(
      `update ad_patterns set body = jsonb_set(jsonb_set(jsonb_set(body, '{fields,headline1,lines}', '["@keyword", "Boats"]'), '{fields,headline2,lines}', '["On the water"]'),
         '{fields,description1,lines}', '["By the hour, the day or the week."]') where plan_id = $1`,
    );
  else await run('delete from ad_patterns where plan_id = $1');
  await run('update plans set built_revision = revision where id = $1');
  await run(`delete from jobs where plan_id = $1`);
  await execute(database, 'analyze keyword_rows, ad_groups, outlet_groups');
  return { ...caller, plan };
}

export const contextFor = (caller: PlanCaller, input: object): JobContext =>
  ({
    caller,
    id: randomUUID(),
    input,
    progress: async () => {},
    phase: async () => {},
  }) as unknown as JobContext;

export const ship = (caller: PlanCaller, format: string, what: string, sheets = ['keywords']) =>
  shipJob(contextFor(caller, { outlet: 'plain', format, what, sheets }));

/** As it is where nothing was shipped yet, and the plan was looked through. */
export async function asFirst(caller: PlanCaller): Promise<void> {
  await execute(caller.database, 'delete from sheet_sets where plan_id = $1', [caller.plan]);
  await lookThrough(caller, plainOutlet);
}

export const lookThrough = (caller: PlanCaller, outlet: typeof plainOutlet) =>
  atOneMoment(caller, (moment) =>
    ensureCheck(caller, { id: 0, outlet, body: planOutletBody.parse({}) }, moment, async () => {}),
  );

/** The median of three first shipments. */
async function firstShipped(caller: PlanCaller, format: string): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < 3; run++) {
    await asFirst(caller);
    times.push(await timed(() => ship(caller, format, 'all')));
  }
  return times.sort((a, b) => a - b)[1] ?? 0;
}

async function copyOut(database: Sequelize, plan: number): Promise<number> {
  return database.transaction(async (transaction) => {
    const { connection } = transaction as unknown as { connection: Client };
    const stream = connection.query(
      copyTo(
        `COPY (select g.campaign, g.name, k.text, k.type, k.bid, k.status from keyword_rows k
           join outlet_groups g on g.plan_id = k.plan_id and g.key = k.group_key where k.plan_id = ${Number(plan)}
           order by g.position, k.position) TO STDOUT`,
      ),
    );
    let bytes = 0;
    stream.on('data', (chunk: Buffer) => {
      bytes += chunk.length;
    });
    await once(stream, 'end');
    return bytes;
  });
}

/** Changes every hundredth row, and takes every thousandth away. */
export async function editHere({ database, plan }: PlanCaller): Promise<void> {
  await execute(
    database,
    `update keyword_rows set bid = bid + 10000 where plan_id = $1 and keyword_id = 1 and right(group_key, 1) in ('1', '2')`,
    [plan],
  );
  await execute(
    database,
    `delete from keyword_rows where plan_id = $1 and keyword_id = 2 and right(group_key, 2) in ('11', '22')`,
    [plan],
  );
}

type SheetText = { name: string; text: string };

/** Reads sheets back into a plan: what differs waits to be taken in. */
export async function readBack(caller: PlanCaller, sheets: readonly SheetText[]): Promise<string> {
  const kept = [];
  for (const { name, text } of sheets)
    kept.push({ name, upload: (await keepUpload(caller, Readable.from([Buffer.from(text)]), 0)).upload });
  return (await readBackJob(contextFor(caller, { files: kept, by: 'best', columns: {} }))).readBack;
}

/** Reads sheets into a plan of their own, and takes all of it in. */
export async function readIn(database: Sequelize, sheets: readonly SheetText[]) {
  const caller = { database, workspace: 1, actor: 1 };
  const plan = { ...caller, plan: await makePlan(caller, { ...brief, name: 'Read in' }) };
  let id = '';
  const compared = await timed(async () => {
    id = await readBack(plan, sheets);
  });
  const amounts = { mode: 'take', scale: 10_000 } as const;
  const options = { kinds: [...rowKinds], settings: true, bids: amounts, budgets: amounts };
  const taken = await timed(() => takeBackJob(contextFor(plan, { readBack: id, options })));
  return { caller: plan, compared, taken };
}

/** Every row of a plan looked at, and found again. */
async function rowsFound(caller: PlanCaller): Promise<Figure[]> {
  const { 'row-look': rowLookJob } = shipStage.jobs;
  const looked = await timed(() => rowLookJob(contextFor(caller, { outlet: plainOutlet.key })));
  const { look } = await viewRows(caller, plainOutlet.key);
  const total = Object.values(look?.kinds.keyword.counts ?? {}).reduce((sum, rows) => sum + rows, 0);
  if (total !== 1_000_000) throw new Error(`${total} rows were looked at`);
  const page = (from: number, more = {}) =>
    pageRows(caller, plainOutlet.key, {
      stamp: look?.stamp ?? 0,
      kind: 'keyword',
      change: 'all',
      words: '',
      from,
      count: 100,
      ...more,
    });
  const times: number[] = [];
  for (let n = 0; n < 60; n++) times.push(await timed(() => page((n * 104_729 * 7) % 999_900)));
  const searched = await timed(() => page(0, { words: 'hire 77' }));
  const again: number[] = [];
  for (let n = 0; n < 20; n++) again.push(await timed(() => page(n * 40, { words: 'hire 77' })));
  const at = (list: number[], share: number) =>
    `${(list.sort((a, b) => a - b)[Math.floor(list.length * share)] as number).toFixed(1)} ms`;
  return [
    { name: 'every row of 1,000,000 looked at and kept, to be found', value: seconds(looked), target: '–' },
    {
      name: 'there, a page of 100 rows anywhere: median and 95th percentile',
      value: `${at(times, 0.5)}, ${at(times, 0.95)}`,
      target: '300 ms',
    },
    { name: 'there, rows found by words in any cell, the first time', value: seconds(searched), target: '–' },
    {
      name: 'and a page of those that were found, 95th percentile',
      value: at(again, 0.95),
      target: '300 ms',
    },
  ];
}

export async function shipEntries(): Promise<{ entries: Entry[]; figures: Figure[] }> {
  const database = connect(process.env.DATABASE_URL ?? '');
  const million = await builtPlan(database, 10_000, 100, false);
  const entries: Entry[] = [];
  entries.push({
    name: 'write 1,000,000 keyword rows from the database as csv, and keep the sheet',
    ms: await firstShipped(million, 'csv'),
    floor: 'COPY the same rows TO STDOUT',
    floorMs: await median(3, () => copyOut(database, million.plan)),
    most: 1.8,
  });
  const figures = await rowsFound(million);
  await database.close();
  return { entries, figures };
}

export async function shipFigures(): Promise<Figure[]> {
  const database = connect(process.env.DATABASE_URL ?? '');
  const figures: Figure[] = [];
  const add = (name: string, ms: number, target: string) =>
    figures.push({ name, value: seconds(ms), target });
  const some = await builtPlan(database, 1_000, 100, false);
  add('100,000 keyword rows as a workbook (xlsx)', await firstShipped(some, 'xlsx'), '12 s');
  const plan = await builtPlan(database, 15_000, 20, true);
  const lookedAnew = async (look: () => Promise<unknown>) => {
    await execute(database, 'delete from ship_checks where plan_id = $1', [plan.plan]);
    return look();
  };
  await execute(
    database,
    'insert into plan_outlets (plan_id, id, workspace_id, outlet, body, position) values ($1, 1, 1, $2, $3, 1)',
    [plan.plan, fennelwick.key, JSON.stringify(planOutletBody.parse({}))],
  );
  add(
    'all findings of 300,000 rows in 15,000 ad groups with their ads: of the plan and of an outlet of its own',
    await median(3, () => lookedAnew(() => checkJob(contextFor(plan, {})))),
    '5 s',
  );
  await execute(database, 'delete from plan_outlets where plan_id = $1', [plan.plan]);
  const { sheetSet, files } = await ship(plan, 'csv', 'all', ['campaigns', 'groups', 'keywords', 'ads']);
  add(
    'the difference of 300,000 rows from the last receipt, the first time after a shipment',
    await timed(() => lookedAnew(() => lookThrough(plan, plainOutlet))),
    '3 s',
  );
  await editHere(plan);
  add(
    'the same once 3,000 rows say something else and 300 are gone',
    await median(3, () => lookedAnew(() => lookThrough(plan, plainOutlet))),
    '3 s',
  );
  const texts: string[] = [];
  for (const { name } of files) {
    const parts = await select<{ data: Buffer }>(
      database,
      'select data from sheet_parts where set_id = $1 and file = $2 order by n',
      [sheetSet, name],
    );
    texts.push(Buffer.concat(await Promise.all(parts.map(({ data }) => unpack(data)))).toString('utf8'));
  }
  const sheets = files.map(({ name }, at) => ({ name, text: texts[at] ?? '' }));
  add(
    'sheets with 300,000 keyword rows read back, and compared with the plan that they are of',
    await timed(() => readBack(plan, sheets)),
    '20 s',
  );
  const { caller, compared, taken } = await readIn(database, sheets);
  add('the same compared with a plan that has nothing in it', compared, '20 s');
  add('and taken in there: keywords, ad groups, ads, bids', taken, '20 s');
  const [rows] = await select<{ keywords: number }>(
    database,
    'select count(*)::int as keywords from keywords where plan_id = $1',
    [caller.plan],
  );
  if (rows?.keywords !== 300_000) throw new Error(`${rows?.keywords} keywords were taken in`);
  await database.close();
  return figures;
}
