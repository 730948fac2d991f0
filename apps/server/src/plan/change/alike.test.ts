import * as api from '@sprig/contracts';
import { setOf } from '@sprig/core/match';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { execute, select } from '../../db/connect.ts';
import {
  addActor,
  built,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { refusal as refused } from '../../testing/visitor.ts';
import { type Diff, reversed, settled, sizesOf, unfolded, unpackDiff } from './diff.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const MANY = 700;

/** Keywords of which every third asks for phrase, and the others for exact; what a dentist is asked for. */
async function dentistPlan() {
  const plan = await planOf(server);
  const lines = Array.from({ length: MANY }, (_, at) => (at % 3 ? `[crown ${at}]` : `"crown ${at}"`));
  await takeIn(server, plan, lines.join('\n'));
  await built(server, plan);
  return { plan, ids: [...(await poolOf(server, plan)).ids] };
}

const typesOf = (plan: number) =>
  select<{ id: number; asked: number; marks: number[]; hand: number | null; said: number | null }>(
    server.database,
    `select k.id, k.asked, k.marks, k.hand, m.asked as said from keywords k
     left join (mentions m join sources s on s.plan_id = m.plan_id and s.id = m.source_id and s.kind = 'hand')
       on m.plan_id = k.plan_id and m.keyword_id = k.id
     where k.plan_id = $1 order by k.id`,
    [plan],
  );
const set = (plan: number, scope: api.TypesScope, types: Parameters<typeof setOf>[0], call = server.call) =>
  call(api.changeTypes, {
    params: { plan },
    body: { scope, change: { kind: 'set', types: setOf(types) }, dry: false } as never,
  });
const refusal = async (asked: Promise<unknown>) => (await refused(asked))?.message;
const undo = (plan: number, force = false) =>
  server.call(api.undoChange, { params: { plan }, body: { force } });
const redo = (plan: number) => server.call(api.redoChange, { params: { plan }, body: {} });

async function lastDiff(plan: number): Promise<Diff> {
  const [change] = await select<{ diff: Buffer }>(
    server.database,
    'select diff from changes where plan_id = $1 order by revision desc limit 1',
    [plan],
  );
  return unpackDiff(change?.diff as Buffer);
}

test('what hundreds of keywords have in common is logged once, undone and done again exactly', async () => {
  const { plan } = await dentistPlan();
  const seen = [await typesOf(plan)];
  await set(plan, { all: true }, ['broad', 'modified']);
  const diff = await lastDiff(plan);
  expect(diff.keywords?.changed).toHaveLength(2);
  expect(diff.mentions?.inserted).toEqual([]);
  expect(sizesOf(diff.mentions as never)).toEqual({ inserted: MANY, removed: 0, changed: 0 });
  seen.push(await typesOf(plan));
  expect(seen[1]?.every(({ asked, said }) => asked === setOf(['broad', 'modified']) && said === asked)).toBe(
    true,
  );
  await set(plan, { all: true }, ['exact']);
  expect((await lastDiff(plan)).mentions?.changed).toHaveLength(1);
  seen.push(await typesOf(plan));

  await undo(plan);
  expect(await typesOf(plan)).toEqual(seen[1]);
  await undo(plan);
  expect(await typesOf(plan)).toEqual(seen[0]);
  await redo(plan);
  await redo(plan);
  expect(await typesOf(plan)).toEqual(seen[2]);
  await built(server, plan);
});

test('the pool that a window holds follows what was set at once, and its undo', async () => {
  const { plan, ids } = await dentistPlan();
  const revisionOf = async () => (await server.call(api.openPlan, { params: { plan } })).revision;
  const changedAt = async () => {
    const rows = await select<{ at: number }>(
      server.database,
      'select distinct changed_revision as at from keywords where plan_id = $1',
      [plan],
    );
    return rows.map(({ at }) => at);
  };
  await set(plan, { keywords: ids }, ['broad']);
  expect(await changedAt()).toEqual([await revisionOf()]);
  await undo(plan);
  expect(await changedAt()).toEqual([await revisionOf()]);
});

test('a step is opened: how many rows, and the first of them, before and after', async () => {
  const { plan } = await dentistPlan();
  const { revision } = await set(plan, { all: true }, ['broad']);
  const details = await server.call(api.readChange, { params: { plan, revision } });
  expect(details.parts).toEqual(
    expect.arrayContaining([
      { table: 'keywords', inserted: 0, removed: 0, changed: MANY },
      { table: 'mentions', inserted: MANY, removed: 0, changed: 0 },
    ]),
  );
  expect(details.samples).toHaveLength(50);
  expect(details.samples.find(({ table }) => table === 'keywords')).toMatchObject({
    row: expect.stringMatching(/^id \d+$/),
    how: 'changed',
    fields: expect.arrayContaining([{ field: 'asked', before: expect.any(String), after: '1' }]),
  });
});

test('where somebody else set some of them since, how many is told, and all are put back when that is wanted', async () => {
  const { plan, ids } = await dentistPlan();
  const tobin = server.as(await addActor(server, 'Tobin'));
  const before = await typesOf(plan);
  await set(plan, { all: true }, ['broad']);
  await set(plan, { keywords: ids.slice(0, 3) }, ['exact'], tobin);
  // Of each keyword its own row and what was said of it by hand.
  expect(await refusal(undo(plan))).toBe(
    '6 values of “Change the match types of 700 keywords” changed since. Step back all the same?',
  );
  await undo(plan, true);
  const after = await typesOf(plan);
  expect(after.map(({ asked, hand }) => [asked, hand])).toEqual(
    before.map(({ asked, hand }) => [asked, hand]),
  );
});

test('a keyword that is gone since gets back nothing of what was said of it', async () => {
  const { plan } = await dentistPlan();
  await set(plan, { all: true }, ['broad']);
  await undo(plan);
  const first = 'plan_id = $1 and %s = (select min(id) from keywords where plan_id = $1)';
  for (const [table, column] of [
    ['mentions', 'keyword_id'],
    ['keywords', 'id'],
  ] as const)
    await execute(server.database, `delete from ${table} where ${first.replace('%s', column)}`, [plan]);
  expect(await refusal(redo(plan))).toContain('One value of');
  await server.call(api.redoChange, { params: { plan }, body: { force: true } });
  expect((await typesOf(plan)).filter(({ said }) => said === setOf(['broad']))).toHaveLength(MANY - 1);
});

test('what somebody else has said meanwhile where a step would say it again is told, and gives way when that is wanted', async () => {
  const { plan, ids } = await dentistPlan();
  const tobin = server.as(await addActor(server, 'Tobin'));
  await set(plan, { keywords: ids.slice(-1) }, ['broad']);
  await set(plan, { keywords: ids.slice(0, 5) }, ['broad']);
  await undo(plan);
  await set(plan, { keywords: ids.slice(0, 2) }, ['modified'], tobin);
  expect(await refusal(redo(plan))).toContain('4 values of');
  await server.call(api.redoChange, { params: { plan }, body: { force: true } });
  const given = (await typesOf(plan)).filter(({ id }) => ids.slice(0, 5).includes(id));
  expect(given.map(({ asked, said }) => [asked, said])).toEqual(ids.slice(0, 5).map(() => [1, 1]));

  await set(plan, { all: true }, ['phrase', 'exact']);
  await undo(plan);
  await set(plan, { keywords: ids.slice(10, 12) }, ['modified'], tobin);
  expect(await refusal(redo(plan))).toContain('4 values of');
  await server.call(api.redoChange, { params: { plan }, body: { force: true } });
  expect((await typesOf(plan)).every(({ asked, said }) => asked === 12 && said === 12)).toBe(true);
});

test('what is given by hand stays one source: a step that made it is not done again beside another', async () => {
  const { plan, ids } = await dentistPlan();
  const tobin = server.as(await addActor(server, 'Tobin'));
  await set(plan, { keywords: ids.slice(0, 1) }, ['broad']);
  await undo(plan);
  await set(plan, { keywords: ids.slice(1, 2) }, ['broad'], tobin);
  const again = server.call(api.redoChange, { params: { plan }, body: { force: true } });
  expect(await refusal(again)).toBe(
    'The source “By hand”, which this step made, was made anew since by another. Do by hand what this step did.',
  );
  const hands = await select(server.database, `select id from sources where plan_id = $1 and kind = 'hand'`, [
    plan,
  ]);
  expect(hands).toHaveLength(1);
});

test('a keyword that one step has changed twice is undone and done again by that step', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'crown\t20\nbridge\t30');
  const before = await typesOf(plan);
  const { ids } = await poolOf(server, plan);
  const [id = 0] = ids;
  const [stored] = await select<{ text: string }>(
    server.database,
    'select text from keywords where plan_id = $1 and id = $2',
    [plan, id],
  );
  await server.call(api.fillKeywords, {
    params: { plan },
    body: {
      texts: [{ id, before: stored?.text ?? '', after: `[${stored?.text} fitted]` }],
      figures: [{ id, searches: 700 }],
    },
  });
  const after = await typesOf(plan);
  expect(after).not.toEqual(before);
  await undo(plan);
  expect(await typesOf(plan)).toEqual(before);
  await redo(plan);
  expect(await typesOf(plan)).toEqual(after);
});

const row = (id: number, before: object, after: object) => ({ key: { id }, before, after }) as never;
const alike = (values: number[], before: object, after: object, key = {}) =>
  ({ by: 'id', values, key, before, after }) as never;
const changedOf = (...changed: never[]): Diff => ({ keywords: { inserted: [], removed: [], changed } });

test('rows that are alike stay together, unless one of them was changed beside them', () => {
  const together = changedOf(
    alike([1, 2], { asked: 4 }, { asked: 8 }),
    alike([3], { asked: 1 }, { asked: 8 }),
  );
  expect(settled(together)).toEqual(together);
  const twice = changedOf(
    alike([1, 2], { asked: 4 }, { asked: 8 }),
    row(2, { asked: 8, cut: false }, { asked: 1, cut: true }),
  );
  expect(settled(twice)).toEqual(
    changedOf(row(1, { asked: 4 }, { asked: 8 }), row(2, { asked: 4, cut: false }, { asked: 1, cut: true })),
  );
  const told = changedOf(alike([1, 2], { asked: 4 }, { asked: 8 }), alike([2], { asked: 8 }, { asked: 1 }));
  expect(settled(told).keywords?.changed).toHaveLength(2);
});

test('the same keyword of two sources is two rows', () => {
  const of = (source: number) =>
    ({
      by: 'keyword_id',
      values: [1, 2],
      key: { source_id: source },
      before: { asked: 4 },
      after: { asked: 8 },
    }) as never;
  const diff: Diff = { mentions: { inserted: [], removed: [], changed: [of(1), of(2)] } };
  expect(settled(diff)).toEqual(diff);
});

test('turned round twice a diff is what it was; one by one it has as many rows as it says', () => {
  const diff: Diff = {
    mentions: {
      inserted: [{ source_id: 1, keyword_id: 9 }],
      removed: [],
      changed: [alike([1, 2, 3], { asked: 4 }, { asked: 8 }), row(7, { asked: 1 }, { asked: 2 })],
      insertedAlike: [{ by: 'keyword_id', values: [4, 5], row: { source_id: 2 } }],
    },
  };
  expect(reversed(reversed(diff))).toEqual(diff);
  expect(sizesOf(reversed(diff).mentions as never)).toEqual({ inserted: 0, removed: 3, changed: 4 });
  const rows = unfolded(reversed(diff).mentions as never);
  expect(rows.removed).toEqual([
    { source_id: 1, keyword_id: 9 },
    { source_id: 2, keyword_id: 4 },
    { source_id: 2, keyword_id: 5 },
  ]);
  expect(rows.changed).toEqual([
    row(7, { asked: 2 }, { asked: 1 }),
    ...[1, 2, 3].map((id) => row(id, { asked: 8 }, { asked: 4 })),
  ]);
  expect(unfolded(diff.mentions as never, 1).changed).toHaveLength(2);
});
