import * as api from '@sprig/contracts';
import { defaultLayout } from '@sprig/core/build';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import {
  addActor,
  built,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { collectionNames, scopeOf } from './collections.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** Every input of a plan as it stands, but for the revision that a row was last written at. */
async function inputsOf(plan: number) {
  const all: Record<string, unknown[]> = {};
  for (const name of collectionNames)
    all[name] = (
      await select<{ row: Record<string, unknown> }>(
        server.database,
        `select to_jsonb(t) - 'changed_revision' as row from ${name} t where ${scopeOf(name) === 'plan_id' ? 'plan_id' : '0 * $1 + workspace_id'} = ${scopeOf(name) === 'plan_id' ? '$1' : '1'} order by 1`,
        [plan],
      )
    ).map(({ row }) => row);
  return all;
}

const undo = (plan: number, force = false) =>
  server.call(api.undoChange, { params: { plan }, body: { force } });
const redo = (plan: number) => server.call(api.redoChange, { params: { plan }, body: {} });
const edit = (plan: number, at: string, before: unknown, after: unknown) =>
  server.call(api.editLayout, { params: { plan }, body: { edits: [{ at, before, after }] } });

test('undo restores exactly, step by step, and redo does the same again', async () => {
  const plan = await planOf(server);
  const seen = [await inputsOf(plan)];
  const steps = [
    () => takeIn(server, plan, 'kayak\t10\n"canoe"\t20\n-free\t\n[open\t\n'),
    () => takeIn(server, plan, 'kayak\t30\nraft\t--\nrafts\nlilo\n'),
    async () =>
      server.call(api.setCut, {
        params: { plan },
        body: { ids: [...(await poolOf(server, plan)).ids], cut: true },
      }),
    async () => {
      const { ids } = await poolOf(server, plan);
      const [canoe, raft] = [ids[1], ids[2]];
      await server.call(api.foldKeywords, {
        params: { plan },
        body: { folds: [{ keeper: canoe ?? 0, others: [raft ?? 0] }] },
      });
    },
    () =>
      server.call(api.addNegatives, {
        params: { plan },
        body: { negatives: [{ text: 'raft', type: 'broad' }], reason: 'block' },
      }),
    () => server.call(api.keepWords, { params: { plan }, body: { words: ['kayak', 'canoe'], keep: true } }),
    async () => {
      const { lists } = await server.call(api.listShared, { params: { plan } });
      await server.call(api.addNegatives, {
        params: { plan },
        body: {
          negatives: [{ text: 'kayak', type: 'exact' }],

          reason: 'block',
          list: lists[0]!.id,
        },
      });
    },
    () => edit(plan, 'ladder.steps.exact', 12_500, 13_000),
    () => edit(plan, 'groupName.style', 'as-is', 'title'),
    async () =>
      server.call(api.removeSource, {
        params: { plan, source: (await server.call(api.listSources, { params: { plan } })).sources[0]!.id },
      }),
    () =>
      server.call(api.editBrief, {
        params: { plan },
        body: { edits: [{ at: 'name', before: 'Kayaks', after: 'Canoes' }] },
      }),
  ];
  for (const step of steps) {
    await step();
    seen.push(await inputsOf(plan));
  }
  for (let at = steps.length - 1; at >= 0; at--) {
    await undo(plan);
    expect(await inputsOf(plan), `after undoing step ${at}`).toEqual(seen[at]);
  }
  await expect(undo(plan)).rejects.toMatchObject({ status: 400 });
  for (let at = 1; at <= steps.length; at++) {
    await redo(plan);
    expect(await inputsOf(plan), `after redoing step ${at}`).toEqual(seen[at]);
  }
  await expect(redo(plan)).rejects.toMatchObject({ status: 400 });
});

test('a long list goes and comes back at once where the database knows its tables as empty', async () => {
  const plan = await planOf(server);
  for (const table of ['archived_keywords', 'archived_mentions', 'archived_rows', 'keywords', 'mentions'])
    await server.database.query(`alter table ${table} set (autovacuum_enabled = false)`);
  await server.database.query('analyze');
  await takeIn(server, plan, Array.from({ length: 12_000 }, (_, n) => `kayak ${n}`).join('\n'));
  const before = await inputsOf(plan);
  await undo(plan);
  expect((await inputsOf(plan)).keywords).toEqual([]);
  await redo(plan);
  expect(await inputsOf(plan)).toEqual(before);
});

test('a new change after an undo takes the way of redo', async () => {
  const plan = await planOf(server);
  await edit(plan, 'keywordsPerGroup', 20, 21);
  await undo(plan);
  await edit(plan, 'lanes.0.types', 12, 8);
  await expect(redo(plan)).rejects.toMatchObject({ status: 400 });
  const { redo: next, undo: last } = await server.call(api.openPlan, { params: { plan } });
  expect([next, last]).toEqual([null, 'Change the lanes']);
  // Once the new change is undone too, it is the one that is done again, and nothing is left after it.
  await undo(plan);
  expect(await redo(plan)).toMatchObject({ label: 'Change the lanes' });
  const after = await server.call(api.openPlan, { params: { plan } });
  expect([after.redo, after.undo]).toEqual([null, 'Change the lanes']);
  await expect(redo(plan)).rejects.toMatchObject({ status: 400 });
});

test('two people at one plan: nobody writes over what they have not seen', async () => {
  const plan = await planOf(server);
  const other = server.as(await addActor(server, 'Second'));
  await edit(plan, 'keywordsPerGroup', 20, 21);
  const late = other(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'keywordsPerGroup', before: 20, after: 8 }] },
  });
  await expect(late).rejects.toMatchObject({
    status: 409,
    failure: { current: 21 },
  });
  await other(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'keywordsPerGroup', before: 21, after: 8 }] },
  });
  await expect(undo(plan)).rejects.toMatchObject({ status: 409, failure: { at: 'force' } });
  await undo(plan, true);
  expect((await server.call(api.readLayout, { params: { plan } })).layout.keywordsPerGroup).toBe(20);
});

test('a conflict is told with the name of whoever was first, also where they have done something else since', async () => {
  const plan = await planOf(server);
  const params = { plan };
  await takeIn(server, plan, 'red kettle\nblue kettle');
  const tobin = server.as(await addActor(server, 'Tobin'));
  const ada = server.as(await addActor(server, 'Ada'));
  const { ids } = await poolOf(server, plan);
  const keyword = ids[0] as number;
  const text = (by: TestServer['call'], after: string) =>
    by(api.editKeyword, {
      params: { plan, keyword },
      body: { field: 'text', before: 'red kettle', after },
    });
  await text(tobin, 'ruby kettle');
  await ada(api.editLayout, {
    params,
    body: { edits: [{ at: 'keywordsPerGroup', before: 20, after: 21 }] },
  });
  const told = (refused: Promise<unknown>) =>
    refused.catch((error: { failure: api.Failure }) => error.failure.message);
  expect(await told(text(ada, 'scarlet kettle'))).toBe('Tobin has changed this meanwhile.');
  expect(await told(text(tobin, 'scarlet kettle'))).toBe(
    'You have changed this meanwhile, in another window.',
  );
  await built(server, plan);
  const hold = (by: TestServer['call'], value: string) =>
    by(api.holdValue, { params, body: { rowKey: `k${keyword}`, field: 'name', before: null, value } });
  await hold(tobin, 'Kettles in red');
  expect(await told(hold(ada, 'Red kettles'))).toBe('Tobin has changed this meanwhile.');
});

test('many writers at once: every change counts once', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, Array.from({ length: 20 }, (_, n) => `kayak ${n}`).join('\n'));
  const { ids, revision } = await poolOf(server, plan);
  await Promise.all(
    [...ids].map((id) => server.call(api.setCut, { params: { plan }, body: { ids: [id], cut: true } })),
  );
  const state = await built(server, plan);
  expect(state.revision).toBe(revision + 20);
  expect(state.counts).toMatchObject({ cut: 20, keywords: 0, groups: 0 });
});

test('a change that changes nothing leaves no trace', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\n');
  const { ids, revision } = await poolOf(server, plan);
  await server.call(api.setCut, { params: { plan }, body: { ids: [ids[0]!], cut: false } });
  expect((await server.call(api.openPlan, { params: { plan } })).revision).toBe(revision);
});

test.each([
  ['a ladder upside down', 'ladder.floor', 50_000, 9_000_000],
  ['a negative budget', 'dailyBudget', 20_000_000, -1],
  ['half a micro', 'dailyBudget', 20_000_000, 0.5],
  ['no match type', 'lanes.0.types', 12, 0],
  ['a name of 501 characters', 'campaignName', 'Kayaks', 'x'.repeat(501)],
  ['an empty ad group', 'keywordsPerGroup', 20, 0],
  ['a budget that is no number', 'dailyBudget', 20_000_000, Number.NaN],
  ['a day that is none', 'startHigh.until', null, '2027-02-31x'],
  ['fences of another kind', 'fences', 'off', 'stone'],
  ['an unknown token', 'groupName.pattern', '@keyword', '@nothing'],
  ['a field that is not there', 'ladder.__proto__', undefined, {}],
  ['too steep a step', 'ladder.steps.exact', 12_500, 100_001],
])('%s is refused and nothing changes', async (_, at, before, after) => {
  const plan = await planOf(server);
  await expect(edit(plan, at, before, after)).rejects.toMatchObject({ status: 400 });
  expect((await server.call(api.readLayout, { params: { plan } })).layout).toEqual(
    defaultLayout('Kayaks', 'GBP'),
  );
});

test('a site that is no address is refused', async () => {
  const made = server.call(api.makePlan, {
    body: { name: 'X', currency: 'GBP', language: 'en', site: 'no site at all' },
  });
  await expect(made).rejects.toMatchObject({ status: 400, failure: { at: 'site' } });
});

test('a duplicate has the same inputs and a history of its own', async () => {
  const plan = await planOf(server);
  await takeIn(server, plan, 'kayak\t10\n"canoe"\t20\n-free\t\n[open\t\n');
  const { id: copy } = await server.call(api.duplicatePlan, { params: { plan } });
  const without = (all: Record<string, unknown[]>) =>
    JSON.parse(
      JSON.stringify(all).replaceAll(/"plan_id":\d+|"name":"Kayaks[^"]*"|"job_id":("[^"]*"|null)/g, '"x":0'),
    );
  expect(without(await inputsOf(copy))).toEqual(without(await inputsOf(plan)));
  expect((await server.call(api.planHistory, { params: { plan: copy } })).changes).toHaveLength(1);
  expect((await built(server, copy)).counts).toMatchObject({ keywords: 2, groups: 2 });
  await takeIn(server, copy, 'raft\n');
  expect((await poolOf(server, plan)).norms).toEqual(['kayak', 'canoe']);
});
