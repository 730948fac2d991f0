import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { connect, execute, select } from '../../db/connect.ts';
import { counts } from '../../stages/all.ts';
import { planState } from '../../stages/plans/index.ts';
import { type FullPlan, fullPlan } from '../../testing/full-plan.ts';
import { built, startTestServer, type TestServer } from '../../testing/start-test-server.ts';
import { type CollectionName, collectionNames, collectionOf, scopeOf } from './collections.ts';

let server: TestServer;
let full: FullPlan;
beforeAll(async () => {
  server = await startTestServer();
  full = await fullPlan(server);
});
afterAll(() => server.stop());

type Table = { name: string; columns: string[] };

async function tablesWith(column: string): Promise<Table[]> {
  return select<Table>(
    server.database,
    `select table_name as name, array_agg(column_name::text order by ordinal_position) as columns
     from information_schema.columns where table_schema = 'public' group by 1
     having bool_or(column_name = $1) order by 1`,
    [column],
  );
}

/** What is made again from the inputs, what is kept of things that happened, and what goes through. */
const DERIVED = [
  'ad_groups',
  'ads',
  'campaigns',
  'fences',
  'findings',
  'keyword_rows',
  'outlet_groups',
] as const;
const HAPPENED = [
  'actors',
  'address_checks',
  'archived_keywords',
  'archived_mentions',
  'archived_rows',
  'audit_entries',
  'build_states',
  'client_links',
  'estimate_models',
  'hand_overs',
  'notes',
  'changes',
  'jobs',
  'links',
  'outsets',
  'plan_roles',
  'plan_worth',
  'plans',
  'read_backs',
  'refused_rows',
  'removed_keywords',
  'report_parts',
  'report_places',
  'report_readings',
  'row_look_parts',
  'row_looks',
  'sessions',
  'sheet_sets',
  'finding_lists',
  'ship_checks',
  'shipped_ads',
  'shipped_names',
  'sort_seen',
  'stand_in_accounts',
  'stand_in_days',
  'tokens',
  'uploads',
];

/** Rows of a table for a plan, in the order of their columns, but for what tells plans apart. */
async function rowsOf(table: string, plan: number, without: readonly string[] = []): Promise<unknown[]> {
  const rows = await select<{ row: Record<string, unknown> }>(
    server.database,
    `select to_jsonb(t) as row from ${table} t where plan_id = $1`,
    [plan],
  );
  const gone = new Set(['plan_id', 'workspace_id', 'changed_revision', 'job_id', ...without]);
  return rows
    .map(({ row }) =>
      JSON.stringify(
        Object.entries(row)
          .filter(([name]) => !gone.has(name))
          .sort(),
      ),
    )
    .sort();
}

const planInputs = collectionNames.filter((name) => scopeOf(name) === 'plan_id');
const inputsOf = async (plan: number): Promise<Record<string, unknown[]>> =>
  Object.fromEntries(
    await Promise.all(planInputs.map(async (name) => [name, await rowsOf(name, plan)] as const)),
  );

describe('the tables of a plan', () => {
  test('each is an input that changes log, is made from inputs, or tells what happened', async () => {
    const known = new Set<string>([...collectionNames, ...DERIVED, ...HAPPENED]);
    const all = [...(await tablesWith('plan_id')), ...(await tablesWith('workspace_id'))];
    expect(all.map(({ name }) => name).filter((name) => !known.has(name))).toEqual([]);
  });

  test('of an input every column is logged', async () => {
    const missing: string[] = [];
    for (const { name, columns } of [
      ...(await tablesWith('plan_id')),
      ...(await tablesWith('workspace_id')),
    ]) {
      if (!collectionNames.includes(name as CollectionName)) continue;
      const logged = new Set(collectionOf(name as CollectionName).columns.map((column) => column.name));
      for (const column of columns)
        if (!logged.has(column) && !['plan_id', 'workspace_id', 'changed_revision'].includes(column))
          missing.push(`${name}.${column}`);
    }
    expect(missing).toEqual([]);
  });

  test('the plan of these tests has something in each of them', async () => {
    const empty: string[] = [];
    for (const name of [...planInputs, ...DERIVED])
      if ((await rowsOf(name, full.plan)).length === 0) empty.push(name);
    expect(empty).toEqual([]);
  });
});

describe('a duplicate', () => {
  test('has all that was decided, and what is made of it is the same', async () => {
    const { id: copy } = await server.call(api.duplicatePlan, { params: { plan: full.plan } });
    await built(server, copy);
    await built(server, full.plan);
    const names = (rows: unknown[]) => rows.map((row) => String(row).replaceAll(/Teas \(copy\)/g, 'Teas'));
    // Results, and what was done about them, are those of the plan that was shipped.
    const ofShipped: readonly string[] = ['report_imports', 'verdict_acts', 'term_judgements', 'worth_marks'];
    const inputs = planInputs.filter((name) => !ofShipped.includes(name));
    for (const name of ofShipped) expect([name, await rowsOf(name, copy)]).toEqual([name, []]);
    for (const name of inputs)
      expect([name, names(await rowsOf(name, copy)).sort()]).toEqual([name, await rowsOf(name, full.plan)]);
    for (const name of DERIVED) {
      // A row's hash is of what it was made of, the plan's number and the day's revision among it.
      const without = ['hash', 'made_of'];
      // What other outlets get of it is found when it is looked through for them.
      const ofBuild = (row: unknown) => name !== 'outlet_groups' || String(row).includes('"plain"');
      expect([
        name,
        names(await rowsOf(name, copy, without))
          .filter(ofBuild)
          .sort(),
      ]).toEqual([name, (await rowsOf(name, full.plan, without)).filter(ofBuild)]);
    }
  });

  test('goes its own way: what is changed in it leaves the first one as it is', async () => {
    const { id: copy } = await server.call(api.duplicatePlan, { params: { plan: full.plan } });
    const before = await inputsOf(full.plan);
    const params = { plan: copy };
    const { extras } = await server.call(api.listExtras, { params });
    await server.call(api.removeExtra, { params: { plan: copy, extra: extras[0]?.id ?? 0 } });
    const { holds } = await server.call(api.listHolds, { params });
    await server.call(api.letGo, {
      params,
      body: { places: holds.map(({ rowKey, field }) => ({ rowKey, field })) },
    });
    await server.call(api.removeSource, { params: { plan: copy, source: String(full.source) as never } });
    expect(await inputsOf(full.plan)).toEqual(before);
    expect((await inputsOf(copy)).extras).toEqual([]);
  });
});

/** What the plan counts, by a server that remembers and by one that was never asked before. */
async function countedTwice(plan: number) {
  const remembered = await server.call(api.openPlan, { params: { plan } });
  const database = connect(server.databaseUrl, { connections: 1 });
  try {
    const afresh = await planState({ ...server.caller, database, plan }, counts);
    return [remembered.counts, afresh.counts] as const;
  } finally {
    await database.close();
  }
}

describe('undo and redo', () => {
  test('everything back, and everything again, is what it was', async () => {
    const { plan } = await fullPlan(server, 'Others');
    const before = await inputsOf(plan);
    const steps: string[] = [];
    const step = async (endpoint: typeof api.undoChange | typeof api.redoChange) => {
      try {
        const { label } = await server.call(endpoint, { params: { plan }, body: { force: true } });
        steps.push(label);
      } catch {
        return false;
      }
      const [remembered, afresh] = await countedTwice(plan);
      for (const name of ['keywords', 'cut', 'folded', 'blocked'] as const)
        expect([steps.at(-1), name, remembered[name]]).toEqual([steps.at(-1), name, afresh[name]]);
      return true;
    };
    const isCounted = async () => {
      await built(server, plan);
      const [remembered, afresh] = await countedTwice(plan);
      expect(remembered).toEqual(afresh);
      return remembered;
    };
    const full = await isCounted();
    while (await step(api.undoChange));
    expect(steps.length).toBeGreaterThan(25);
    const bare = await inputsOf(plan);
    expect(await isCounted()).toMatchObject({ keywords: 0, rows: 0, groups: 0, ads: 0 });
    for (const name of ['keywords', 'themes', 'extras', 'holds', 'recipes', 'plan_outlets'] as const)
      expect([name, bare[name]]).toEqual([name, []]);
    const back = steps.splice(0);
    while (await step(api.redoChange));
    expect(steps).toEqual(back.reverse());
    const after = await inputsOf(plan);
    for (const name of planInputs) expect([name, after[name]]).toEqual([name, before[name]]);
    const { keywords, rows, groups, ads } = full;
    expect(await isCounted()).toMatchObject({ keywords, rows, groups, ads });
    expect(Math.min(keywords, rows, groups, ads)).toBeGreaterThan(0);
  });
});

describe('somebody else’s rows', () => {
  test('are seen by no question: every answer is the same with another workspace full of the like', async () => {
    const { plan, group, campaign, source, recipe, set, outlet, job } = full;
    await built(server, plan);
    const values: Record<string, string> = {
      plan: String(plan),
      group,
      campaign,
      source: String(source),
      recipe: String(recipe),
      set,
      outlet,
      list: '1',
      job,
      report: 'terms',
    };
    const { readBack } = await server.call(api.viewReadBack, { params: { plan } });
    values.readBack = readBack?.id ?? '';
    const queries: Record<string, string> = {
      '/api/plans/:plan/placed-negatives': `?place=${encodeURIComponent(campaign)}`,
      '/api/plans/:plan/landing': '?address=https://saltmarshpaddle.example/',
      '/api/plans/:plan/rival-ads': '?search=teapot',
      '/api/plans/:plan/kept-columns/values': '?heading=Note',
      '/api/plans/:plan/learn/result-column': '?figure=clicks',
      '/api/plans/:plan/search': '?text=teapot',
      '/api/plans/:plan/ship/findings': '?rule=group-without-negatives',
    };
    const asked = server.routes.filter(
      ({ method, path }) =>
        method === 'GET' && path.startsWith('/api') && !path.endsWith('/events') && !OF_PERSONS.test(path),
    );
    const ask = async () => {
      const answers: Record<string, string> = {};
      for (const { path } of asked) {
        if (path.endsWith(':file')) continue;
        // The account that has run.
        const own = path.includes('/account/') ? { ...values, outlet: 'fennelwick' } : values;
        const filled = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(own[name] ?? '1'));
        const answer = await fetch(`${server.url}${filled}${queries[path] ?? ''}`);
        answers[path] = `${answer.status} ${await answer.text()}`;
      }
      return answers;
    };
    const before = await ask();
    const bad = Object.entries(before).filter(([, text]) => !text.startsWith('200'));
    expect(bad.map(([path, text]) => `${path}: ${text.slice(0, 120)}`)).toEqual([]);
    await likeElsewhere(plan);
    const after = await ask();
    const changed = asked.map(({ path }) => path).filter((path) => before[path] !== after[path]);
    expect(changed).toEqual([]);
  });
});

/** What is asked of whoever comes in, not of a workspace; and the audit trail, which tells of the very asking. */
const OF_PERSONS = /^\/api\/(?:door|me\/sessions|people\/audit)/;

/** Puts all rows of a plan and its workspace into another workspace once more, as another plan there. */
async function likeElsewhere(plan: number): Promise<void> {
  const { database } = server;
  const [other] = await select<{ id: number }>(
    database,
    `insert into workspaces (name) values ('Other') returning id`,
  );
  const workspace = other?.id ?? 0;
  await database.transaction(async (transaction) => {
    // Rows refer to each other within the plan: they go in as they are.
    await execute(database, `set local session_replication_role = 'replica'`, [], { transaction });
    for (const { name, columns } of await tablesWith('workspace_id')) {
      const is = (column: string) => columns.includes(column);
      const changes: string[] = [`'workspace_id', ${workspace}`];
      if (is('plan_id')) changes.push(`'plan_id', ${plan + 10_000}`);
      if (['plans', 'actors', 'outsets', 'links', 'tokens', 'audit_entries'].includes(name))
        changes.push(`'id', t.id + 10000`);
      if (is('key') && ['links', 'tokens', 'sessions'].includes(name))
        changes.push(`'key', gen_random_uuid()`);
      if (name === 'plan_roles') changes.push(`'actor_id', t.actor_id + 10000`);
      if (['jobs', 'sheet_sets', 'read_backs', 'uploads'].includes(name))
        changes.push(`'id', gen_random_uuid()`);
      if (name === 'refused_rows') changes.push(`'set_id', gen_random_uuid()`);
      if (name === 'sources') changes.push(`'job_id', gen_random_uuid()`);
      await execute(
        database,
        `insert into ${name} overriding system value select (jsonb_populate_record(null::${name}, to_jsonb(t) || jsonb_build_object(${changes.join(', ')}))).*
         from ${name} t where workspace_id = $1 ${is('plan_id') ? `and plan_id = ${plan}` : ''}`,
        [server.caller.workspace],
        { transaction },
      ).catch((error: { parent?: { detail?: string } }) => {
        throw new Error(`${name}: ${error.parent?.detail ?? error}`);
      });
    }
  });
}
