import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { shipping } from '../../testing/shipping.ts';
import {
  built,
  finished,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, check, ship, change, textOf, receiptsOf, handIn, account } = shipping(
  () => server,
);

describe('difference and receipts', () => {
  test('what changed since the last receipt, by row and field; shipped, handed in, and then nothing is left', async () => {
    const plan = await shippable();
    await choose(plan, 'fennelwick', true, ['consent']);
    const first = await ship(plan, 'fennelwick');
    await handIn(plan, first.sheetSet);
    expect((await check(plan)).outlets[1]?.check?.difference).toMatchObject({
      receipt: first.sheetSet,
      added: 0,
      changed: 0,
      removed: 0,
      same: 17,
    });
    await change(plan);
    const view = await check(plan);
    const difference = view.outlets[1]?.check?.difference;
    // A group with two keyword rows and an ad: added, and removed.
    expect(difference).toMatchObject({ added: 4, changed: 1, removed: 4, untold: 0 });
    expect(difference?.rows.find(({ change }) => change === 'changed')).toMatchObject({
      kind: 'keyword',
      text: 'sea kayak (exact)',
      fields: [{ value: 'bid', before: '0.50', after: '0.91' }],
    });
    // What the outlet has was kept as numbers by the first look; worked out anew it says the same.
    const forget = (table: string) =>
      server.database.query(
        `delete from ${table} where ${table === 'known_sets' ? 'set_id in (select id from sheet_sets where plan_id = $1)' : 'plan_id = $1'}`,
        { bind: [plan] },
      );
    const kept = 'select 1 from known_rows r join sheet_sets s on s.id = r.set_id where s.plan_id = $1';
    expect(await select(server.database, kept, [plan])).toHaveLength(1);
    await forget('known_sets');
    await forget('ship_checks');
    expect((await check(plan)).outlets[1]?.check?.difference).toEqual(difference);
    expect(await select(server.database, kept, [plan])).toHaveLength(1);
    const second = await ship(plan, 'fennelwick', { what: 'difference' });
    expect(second.files.map(({ rows }) => rows)).toEqual([9]);
    const text = await textOf(plan, second.sheetSet, 'fennelwick.csv');
    expect(
      text
        .split('\r\n')
        .filter((line) => line.includes('canoe'))
        .every((line) => line.includes('Resting')),
    ).toBe(true);
    expect(await handIn(plan, second.sheetSet)).toMatchObject({ taken: 9, refused: 0 });
    expect((await check(plan)).outlets[1]?.check?.difference).toMatchObject({
      added: 0,
      changed: 0,
      removed: 0,
    });
    const inside = (await account(plan, 'fennelwick', 'Kayaks')).inside;
    expect(
      inside.find(({ cells }) => cells.includes('sea kayak') && cells.includes('Exact'))?.cells,
    ).toContain('0.91');
    expect(inside.filter(({ group, cells }) => group === 'canoe' && !cells.includes('Resting'))).toEqual([]);
  });

  test('of kinds of rows whose sheets were left out the outlet has what it had', async () => {
    const plan = await shippable();
    const told = async () => {
      const { outlets } = await check(plan);
      return outlets.find(({ outlet }) => outlet.key === 'plain')?.check?.difference;
    };
    const rowsIn = ({ files }: api.ShipResult) =>
      Object.fromEntries(
        files.flatMap(({ kind, rows }) => (rows > 0 && kind !== 'combined' ? [[kind, rows]] : [])),
      );
    await ship(plan, 'plain', { sheets: ['keywords'] });
    expect(await told()).toMatchObject({
      added: 9,
      changed: 0,
      removed: 0,
      same: 8,
      told: { campaign: 1, group: 4, keyword: 0, ad: 4 },
    });
    const rest = await ship(plan, 'plain', { what: 'difference' });
    expect(rowsIn(rest)).toEqual({ campaigns: 1, groups: 4, ads: 4 });
    expect(await told()).toMatchObject({ added: 0, changed: 0, removed: 0, same: 17 });
    // A keyword goes with its ad group, and another comes; only the keywords are told.
    await takeIn(server, plan, 'raft\t50\n');
    const [canoe] = await select<{ id: number }>(
      server.database,
      `select id from keywords where plan_id = $1 and text = 'canoe'`,
      [plan],
    );
    await server.call(api.setCut, { params: { plan }, body: { ids: [canoe?.id ?? 0], cut: true } });
    const differs = { added: 4, removed: 4, told: { campaign: 0, group: 2, keyword: 4, ad: 2 } };
    expect(await told()).toMatchObject(differs);
    const keywords = await ship(plan, 'plain', { what: 'difference', sheets: ['keywords'] });
    expect(rowsIn(keywords)).toEqual({ keywords: 4 });
    expect((await receiptsOf(plan))[0]?.counts).toMatchObject({ added: 2, removed: 2 });
    expect(await told()).toMatchObject({ added: 2, removed: 2, told: { group: 2, keyword: 0, ad: 2 } });
    // All keywords once more: what the outlet has of the others stays.
    await ship(plan, 'plain', { sheets: ['keywords'] });
    expect(await told()).toMatchObject({ added: 2, removed: 2, told: { group: 2, keyword: 0, ad: 2 } });
    expect(rowsIn(await ship(plan, 'plain', { what: 'difference' }))).toEqual({ groups: 2, ads: 2 });
    expect(await told()).toMatchObject({ added: 0, changed: 0, removed: 0 });
  });

  test('refused rows stay untold, are shown with their reasons, and ship again', async () => {
    const plan = await shippable();
    const { facts } = await server.call(api.readFacts, { params: { plan } });
    await server.call(api.editFacts, {
      params: { plan },
      body: { edits: [{ at: 'locations', before: facts.locations, after: [] }] },
    });
    await built(server, plan);
    await choose(plan, 'fennelwick', true, ['consent']);
    const set = await ship(plan, 'fennelwick');
    const summary = await handIn(plan, set.sheetSet);
    // Without its campaign nothing is taken.
    expect(summary).toEqual({ taken: 0, refused: 17, strange: 0 });
    const { total, rows } = await server.call(api.listRefusals, { params: { plan, set: set.sheetSet } });
    expect(total).toBe(17);
    expect(rows.find(({ kind }) => kind === 'campaign')?.reason).toContain('no place');
    expect((await receiptsOf(plan))[0]).toMatchObject({ state: 'answered', answer: summary });
    // The refused ads are marked so in Write.
    const { keys } = await server.call(api.orderAds, {
      params: { plan },
      query: { review: 'refused' } as never,
    });
    expect(keys.length).toBe(4);
    expect((await check(plan)).outlets[1]?.check?.difference).toMatchObject({
      added: 17,
      changed: 0,
      removed: 0,
    });
    await server.call(api.editFacts, {
      params: { plan },
      body: { edits: [{ at: 'locations', before: [], after: facts.locations }] },
    });
    await check(plan);
    const again = await ship(plan, 'fennelwick', { what: 'difference' });
    expect(await handIn(plan, again.sheetSet)).toMatchObject({ taken: 17, refused: 0 });
  });

  test('an engine’s answer is kept with its account, or neither is', async () => {
    const plan = await shippable();
    await choose(plan, 'fennelwick', true, ['consent']);
    const { sheetSet } = await ship(plan, 'fennelwick');
    await server.database.query(`create function no_account() returns trigger language plpgsql as $$ begin
        raise exception 'no account today'; end $$;
      create trigger no_account before insert on stand_in_accounts for each row execute function no_account()`);
    const { job } = await server.call(api.handIn, { params: { plan, set: sheetSet } });
    expect(await finished(server, plan, job)).toMatchObject({
      status: 'failed',
      failure: { code: 'internal' },
    });
    expect((await receiptsOf(plan))[0]).toMatchObject({ state: 'written', answer: null });
    await server.database.query('drop function no_account cascade');
    const again = await server.call(api.handIn, { params: { plan, set: sheetSet } });
    expect(await finished(server, plan, again.job)).toMatchObject({ status: 'done', failure: null });
    expect((await receiptsOf(plan))[0]).toMatchObject({ state: 'accepted' });
  });

  test('an answer sheet of one’s own is read back to its rows; another sheet is refused with words', async () => {
    const plan = await shippable();
    const { sheetSet } = await ship(plan, 'plain', { sheets: ['keywords'] });
    const upload = async (text: string) => {
      const answer = await fetch(`${server.url}/api/plans/${plan}/uploads`, {
        method: 'POST',
        body: text,
        headers: { 'content-type': 'application/octet-stream' },
      });
      return ((await answer.json()) as { upload: string }).upload;
    };
    const read = async (text: string) =>
      server.call(api.readAnswer, {
        params: { plan, set: sheetSet },
        body: { upload: await upload(text), name: 'answer.csv' },
      });
    const difference = async () => (await check(plan)).outlets[0]?.check?.difference;
    expect((await difference())?.told.keyword).toBe(0);
    await expect(read('Day,Clicks\n1,2\n')).rejects.toThrow(/no sheet of Plain sheets/);
    const { summary } = await read(
      'Campaign,Ad group,Keyword,Match type,Max CPC,Status,Refused\nKayaks,canoe,canoe,Exact,0.50,Enabled,Bid too low\nKayaks,canoe,raft,Exact,0.50,Enabled,Unknown\nKayaks,canoe,canoe,Broad,0.30,Enabled,\n',
    );
    expect(summary).toMatchObject({ refused: 1, strange: 1 });
    const { rows } = await server.call(api.listRefusals, { params: { plan, set: sheetSet } });
    expect(rows).toMatchObject([
      { file: 'answer.csv', line: 2, kind: 'keyword', text: 'canoe (exact)', reason: 'Bid too low' },
    ]);
    // What was kept of it before is not gone by any more: the refused row is to be told again.
    const after = await difference();
    expect(after).toMatchObject({ changed: 0, removed: 0, told: { keyword: 1 } });
    expect(after?.rows.filter(({ kind }) => kind === 'keyword')).toMatchObject([
      { change: 'added', text: 'canoe (exact)' },
    ]);
  });

  test('a withdrawn set counts for nothing; an older one can’t be judged', async () => {
    const plan = await shippable();
    const first = await ship(plan, 'plain');
    const second = await ship(plan, 'plain');
    const mark = (set: string, state: 'accepted' | 'withdrawn') =>
      server.call(api.markReceipt, { params: { plan, set }, body: { state } });
    await expect(mark(first.sheetSet, 'accepted')).rejects.toMatchObject({ status: 409 });
    await mark(second.sheetSet, 'withdrawn');
    const { receipt } = await mark(first.sheetSet, 'accepted');
    expect(receipt).toMatchObject({ state: 'accepted', n: 1 });
    expect((await receiptsOf(plan)).map(({ n, state }) => [n, state])).toEqual([
      [2, 'withdrawn'],
      [1, 'accepted'],
    ]);
    const { receipt: noted } = await server.call(api.markReceipt, {
      params: { plan, set: first.sheetSet },
      body: { note: 'Sent to the client' },
    });
    expect([noted.note, noted.state]).toEqual(['Sent to the client', 'accepted']);
  });

  test('sheets of another plan are not there', async () => {
    const plan = await shippable();
    const other = await shippable();
    const { sheetSet } = await ship(plan, 'plain');
    const answer = await fetch(`${server.url}/api/plans/${other}/sheet-sets/${sheetSet}/files/keywords.csv`);
    expect(answer.status).toBe(404);
    await expect(
      server.call(api.listRefusals, { params: { plan: other, set: sheetSet } }),
    ).rejects.toMatchObject({ status: 404 });
  });

  test('budgets beyond the outlet’s three a day wait for tomorrow', async () => {
    const plan = await shippable();
    await choose(plan, 'harrowlight', true, ['phone']);
    const set = await ship(plan, 'harrowlight');
    await handIn(plan, set.sheetSet);
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    for (const [before, after] of [
      [20, 21],
      [21, 22],
      [22, 23],
      [23, 24],
    ] as const) {
      await server.call(api.editLayout, {
        params: { plan },
        body: { edits: [{ at: 'dailyBudget', before: before * 1_000_000, after: after * 1_000_000 }] },
      });
      await built(server, plan);
      await ship(plan, 'harrowlight', { what: 'difference' });
    }
    expect(layout.dailyBudget).toBe(20_000_000);
    const view = await check(plan);
    expect(view.findings.find(({ rule }) => rule === 'budgets-wait')?.count).toBe(1);
  });
});

test('open windows are told of a receipt, and of what becomes of it', async () => {
  const plan = await shippable();
  await check(plan);
  const stop = new AbortController();
  const stream = await fetch(`${server.url}/api/plans/${plan}/events`, { signal: stop.signal });
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  const told = async (times: number) => {
    while (text.split(`{"type":"shipped","plan":${plan}}`).length <= times)
      text += (await reader.read()).value ?? '';
  };
  const { sheetSet: set } = await ship(plan, 'plain');
  await told(1);
  await server.call(api.markReceipt, { params: { plan, set }, body: { state: 'accepted' } });
  await told(2);
  stop.abort();
  expect(text).toContain('"type":"job"');
});

test('what changes while the plan is looked through or shipped neither waits nor makes it fail', async () => {
  const plan = await shippable();
  const { atOneMoment } = await import('./moment.ts');
  const { ensureCheck } = await import('./check-job.ts');
  const { chosenOutlets } = await import('../../plan/outlets.ts');
  const caller = { ...server.caller, plan };
  const { facts } = await server.call(api.readFacts, { params: { plan } });
  const check = await atOneMoment(caller, async (moment) => {
    const [chosen] = await chosenOutlets(caller, moment.reading);
    const made = await ensureCheck(caller, chosen as NonNullable<typeof chosen>, moment, async () => {});
    // Another window edits the brief before this is through.
    await server.call(api.editFacts, {
      params: { plan },
      body: { edits: [{ at: 'client', before: facts.client, after: 'Saltmarsh' }] },
    });
    return made;
  });
  expect(check.check?.rows.keyword).toBe(8);
  expect((await server.call(api.readFacts, { params: { plan } })).facts.client).toBe('Saltmarsh');
});
