import * as api from '@sprig/contracts';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Mutations } from '../../../../../../scripts/faults/mutate.ts';
import { select } from '../../../db/connect.ts';
import { collectionNames, scopeOf } from '../../../plan/change/collections.ts';
import type { Caller } from '../../../platform/caller.ts';
import { SprigFailure } from '../../../platform/failure.ts';
import { type FullPlan, fullPlan } from '../../../testing/full-plan.ts';
import { shipping } from '../../../testing/shipping.ts';
import { built, startTestServer, type TestServer } from '../../../testing/start-test-server.ts';
import { openPlanFile } from './read-file.ts';
import { fileTables, pathOf, planTables, VERSION } from './tables.ts';
import { writePlanFile } from './write-file.ts';

let server: TestServer;
let full: FullPlan;
let other: Caller;
let saved: Uint8Array;
beforeAll(async () => {
  server = await startTestServer();
  full = await fullPlan(server);
  const params = { plan: full.plan };
  await server.call(api.makeWordList, {
    params,
    body: { name: 'Teas of all', text: 'oolong\nmate', takes: [], from: { recipe: full.recipe, list: 1 } },
  });
  await server.database.query(
    `insert into refused_rows (set_id, n, workspace_id, row_key, file, line, reason)
     values ('${full.set}', 0, 1, 'a key', 'keywords.csv', 2, 'Bid too low, they "said"')`,
  );
  await built(server, full.plan);
  const [made] = await select<{ workspace: number; actor: number }>(
    server.database,
    `with w as (insert into workspaces (name) values ('Other') returning id)
     insert into actors (workspace_id, name, role) select id, 'Somebody', 'owner' from w returning workspace_id as workspace, id as actor`,
  );
  other = { database: server.database, workspace: made?.workspace ?? 0, actor: made?.actor ?? 0 };
  saved = await written(server.caller, full.plan);
});
afterAll(() => server.stop());
const { check } = shipping(() => server);

async function written(caller: Caller, plan: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  await writePlanFile({ ...caller, plan }, async (chunk) => void chunks.push(chunk.slice()));
  return Buffer.concat(chunks);
}
const textsIn = (file: Uint8Array) =>
  Object.fromEntries(
    Object.entries(unzipSync(file)).map(([name, bytes]) => [name, new TextDecoder().decode(bytes)]),
  );
const plansOf = async ({ workspace }: Caller) =>
  (await select(server.database, 'select 1 from plans where workspace_id = $1', [workspace])).length;

describe('a plan as a file', () => {
  test('holds every input, and every table of receipts', () => {
    const inputs = collectionNames.filter((name) => scopeOf(name) === 'plan_id');
    expect(planTables.map(({ name }) => name).sort()).toEqual([...inputs].sort());
    const texts = textsIn(saved);
    for (const table of fileTables) {
      expect([table.name, texts[pathOf(table)]?.split('\r\n')[0]]).toEqual([
        table.name,
        table.columns.map(({ name }) => `"${name}"`).join(','),
      ]);
      expect([table.name, JSON.parse(texts['plan.json'] ?? '').rows[table.name]]).not.toEqual([
        table.name,
        0,
      ]);
    }
  });

  test.each([
    ['the same workspace', () => server.caller],
    ['another workspace', () => other],
  ])('opened in %s and saved again it is the same, to the byte', async (_, callerOf) => {
    const caller = callerOf();
    const plan = await openPlanFile(caller, saved);
    const again = await written(caller, plan);
    expect(textsIn(again)).toEqual(textsIn(saved));
    expect(Buffer.compare(again, saved)).toBe(0);
  });

  test('what is made of it is the same, and what the outlet has is known', async () => {
    const plan = await openPlanFile(server.caller, saved);
    await built(server, plan);
    await built(server, full.plan);
    const rows = async (table: string, of: number) => {
      const list = await select<{ row: Record<string, unknown> }>(
        server.database,
        `select to_jsonb(t) - 'plan_id' as row from ${table} t where plan_id = $1`,
        [of],
      );
      return list.map(({ row }) => JSON.stringify(row)).sort();
    };
    for (const table of ['campaigns', 'ad_groups', 'keyword_rows', 'ads', 'fences', 'findings'])
      expect([table, await rows(table, plan)]).toEqual([table, await rows(table, full.plan)]);
    const difference = async (of: number) =>
      (await check(of)).outlets.map(({ outlet, check: look }) => [
        outlet.key,
        { ...look?.difference, receipt: null },
      ]);
    expect(await difference(plan)).toEqual(await difference(full.plan));
    const { receipts } = await server.call(api.listReceipts, { params: { plan } });
    const { receipts: before } = await server.call(api.listReceipts, { params: { plan: full.plan } });
    const plain = (list: typeof receipts) => list.map(({ id: _, at: __, zipped: ___, ...one }) => one);
    expect(plain(receipts)).toEqual(plain(before));
  });

  test('is fetched and sent over HTTP', async () => {
    const answer = await fetch(`${server.url}/api/plans/${full.plan}/file`);
    expect(answer.headers.get('content-disposition')).toContain('Teas.plan.zip');
    const bytes = await answer.blob();
    const sent = await fetch(`${server.url}/api/plan-files`, {
      method: 'POST',
      body: bytes,
      headers: { 'content-type': 'application/octet-stream' },
    });
    const { id } = (await sent.json()) as { id: number };
    expect((await server.call(api.openPlan, { params: { plan: id } })).brief.name).toBe('Teas');
    expect((await fetch(`${server.url}/api/plans/999999/file`)).status).toBe(404);
  });
});

describe('what is no plan file', () => {
  const changed = (change: (texts: Record<string, string>) => void) => {
    const texts = textsIn(saved);
    change(texts);
    return zipSync(Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, strToU8(text)])));
  };
  const head = (texts: Record<string, string>, change: Record<string, unknown>) => {
    texts['plan.json'] = JSON.stringify({ ...JSON.parse(texts['plan.json'] ?? ''), ...change });
  };
  const swap = (path: string, from: string | RegExp, to: string) =>
    changed((texts) => {
      const text = texts[path] ?? '';
      expect(text).toMatch(from);
      texts[path] = text.replace(from, to);
    });

  test.each<[string, () => Uint8Array, RegExp]>([
    ['text', () => strToU8('kayak'), /no plan\.json/],
    ['an archive of something else', () => zipSync({ 'a.txt': strToU8('x') }), /no plan\.json/],
    ['one that is cut short', () => saved.slice(0, saved.length >> 1), /can’t be opened/],
    [
      'one of a newer version',
      () => changed((texts) => head(texts, { version: VERSION + 1 })),
      /newer version/,
    ],
    ['one of something else', () => changed((texts) => head(texts, { format: 'x' })), /something else/],
    ['a wrong next number', () => changed((texts) => head(texts, { nextId: 0 })), /plan\.json, nextId/],
    [
      'a table that is missing',
      () => changed((texts) => delete texts['tables/keywords.csv']),
      /keywords\.csv has 0 rows, and plan\.json says/,
    ],
    [
      'an unknown column',
      () => swap('tables/facts.csv', '"body"', '"bodies"'),
      /facts\.csv: it has a column “bodies”/,
    ],
    [
      'a number that is none',
      () => swap('tables/mentions.csv', /\r\n\d+/, '\r\nx1'),
      /mentions\.csv, row 1, source_id/,
    ],
    [
      'a layout that is none',
      () => swap('tables/layouts.csv', /"{/, '"{""x"":1,'),
      /layouts\.csv, row 1, body/,
    ],
    [
      'a keyword that is not what it says',
      () => swap('tables/keywords.csv', '"teapot","teapot"', '"teapot","kettle"'),
      /keywords\.csv, row \d+, .*not the same/,
    ],
    [
      'a row that speaks of one that is not there',
      () => swap('tables/mentions.csv', /\r\n\d+,\d+/, '\r\n1,999999'),
      /does not fit together/,
    ],
    [
      'a receipt that does not unpack',
      () => swap('receipts/outlet_states.csv', /1,0,"[^"]{8}/, '1,0,"AAAAAAAA'),
      /packed rows of a receipt/,
    ],
  ])('%s is refused with its place, and no plan is made', async (_, file, words) => {
    const before = await plansOf(server.caller);
    const refused = openPlanFile(server.caller, file());
    await expect(refused).rejects.toThrow(words);
    await expect(refused).rejects.toMatchObject({ code: 'invalid' });
    expect(await plansOf(server.caller)).toBe(before);
  });

  test('mutated in 120 ways it is opened or refused in words, never by accident', {
    timeout: 120_000,
  }, async () => {
    const mutations = new Mutations(23);
    const texts = textsIn(saved);
    const names = Object.keys(texts);
    let refused = 0;
    for (let n = 0; n < 120; n++) {
      const name = mutations.pick(names);
      const inner = Object.fromEntries(names.map((one) => [one, strToU8(texts[one] ?? '')]));
      inner[name] = new Uint8Array(mutations.bytes([inner[name] as Uint8Array]));
      await openPlanFile(other, zipSync(inner)).catch((error: unknown) => {
        if (!(error instanceof SprigFailure)) throw new Error(`${n}, ${name}: ${(error as Error).message}`);
        refused++;
      });
    }
    expect(refused).toBeGreaterThan(20);
  });
});

test('what is shared under the same name and says something else is made under another', async () => {
  const texts = textsIn(saved);
  for (const path of ['shared/shared_negatives.csv', 'shared/word_lists.csv', 'shared/outlets.csv'])
    expect(texts[path]).toBeDefined();
  const first = await openPlanFile(other, saved);
  const lists = await select<{ id: number; name: string }>(
    server.database,
    'select l.id, l.name from shared_lists l join attached_lists a on a.workspace_id = l.workspace_id and a.list_id = l.id where a.plan_id = $1',
    [first],
  );
  await server.database.query(
    `update shared_lists set about = 'changed since' where workspace_id = ${other.workspace} and id = ${lists[0]?.id}`,
  );
  await server.database.query(
    `update outlets set body = jsonb_set(body, '{name}', '"Changed since"') where workspace_id = ${other.workspace}`,
  );
  const second = await openPlanFile(other, saved);
  const names = await select<{ name: string }>(
    server.database,
    'select l.name from shared_lists l join attached_lists a on a.workspace_id = l.workspace_id and a.list_id = l.id where a.plan_id = $1',
    [second],
  );
  const again = names.map(({ name }) => name).filter((name) => name.startsWith(`${lists[0]?.name} (`));
  expect(again).toHaveLength(1);
  const outlets = await select<{ outlet: string }>(
    server.database,
    'select p.outlet from plan_outlets p join outlets o on o.workspace_id = p.workspace_id and o.key = p.outlet where p.plan_id = $1',
    [second],
  );
  expect(outlets.some(({ outlet }) => outlet.endsWith('-2'))).toBe(true);
});
