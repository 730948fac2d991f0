import * as api from '@sprig/contracts';
import { fennelwick, harrowlight, plainOutlet, quillmere, toldValues } from '@sprig/core/ship';
import { patternOf } from '@sprig/core/write';
import { parse } from 'csv-parse/sync';
import exceljs from 'exceljs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../database/connect.ts';
import {
  built,
  finished,
  planOf,
  startTestServer,
  succeeded,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { keepAnswer } from './answers.ts';
import { knownSet } from './known-set.ts';
import { atOneMoment } from './moment.ts';
import { lastSet } from './receipts.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const LIST = 'sea kayak\t900\nkayak hire\t400\ncanoe\t300\npaddle board\t200\n';
const lines = {
  headline1: ['@keyword', 'Boats'],
  headline2: ['Saltmarsh Paddle Co.'],
  headline3: ['On the water today'],
  description1: ['By the hour, the day or the week.'],
};

/** A plan that nothing stands against, at any outlet but for what the outlets themselves ask. */
async function shippable(list = LIST): Promise<number> {
  const plan = await planOf(server);
  await takeIn(server, plan, list);
  const { patterns } = await server.call(api.readPatterns, { params: { plan } });
  const pattern = patternOf(lines, 'title');
  await server.call(api.editPattern, {
    params: { plan, pattern: 1 },
    body: { edits: [{ at: 'fields', before: patterns[0]?.body.fields, after: pattern.fields }] },
  });
  const { facts } = await server.call(api.readFacts, { params: { plan } });
  await server.call(api.editFacts, {
    params: { plan },
    body: {
      edits: [
        { at: 'locations', before: facts.locations, after: [{ name: 'Eastmere', level: 'region' }] },
        { at: 'languages', before: facts.languages, after: ['English'] },
      ],
    },
  });
  await built(server, plan);
  return plan;
}

const choose = (plan: number, outlet: string, chosen = true, ticks?: string[]) =>
  server.call(api.chooseOutlet, {
    params: { plan, outlet },
    body: {
      chosen,
      ...(ticks ? { body: { ticks, steps: { search: 10_000, partners: 5_000, display: 5_000 } } } : {}),
    },
  });

async function check(plan: number): Promise<api.ShipView> {
  await built(server, plan);
  const { job } = await server.call(api.startCheck, { params: { plan } });
  await finished(server, plan, job);
  return server.call(api.viewShip, { params: { plan } });
}

async function ship(
  plan: number,
  outlet: string,
  body: Partial<{ format: 'csv' | 'tsv' | 'xlsx'; what: 'all' | 'difference'; sheets: string[] }> = {},
) {
  const profile =
    [plainOutlet, fennelwick, harrowlight, quillmere].find(({ key }) => key === outlet) ?? plainOutlet;
  const { job } = await server.call(api.startShip, {
    params: { plan },
    body: {
      outlet,
      format: body.format ?? profile.file.formats[0] ?? 'csv',
      what: body.what ?? 'all',
      sheets: (body.sheets ?? profile.sheets.map(({ kind }) => kind)) as never,
    },
  });
  const done = await succeeded(server, plan, job);
  return api.shipResult.parse(done.result);
}

const bytesOf = async (plan: number, set: string, file: string) =>
  new Uint8Array(
    await (await fetch(`${server.url}/api/plans/${plan}/sheet-sets/${set}/files/${file}`)).arrayBuffer(),
  );
const textOf = async (plan: number, set: string, file: string, encoding = 'utf-8') =>
  new TextDecoder(encoding).decode(await bytesOf(plan, set, file));
const receiptsOf = async (plan: number) =>
  (await server.call(api.listReceipts, { params: { plan } })).receipts;
async function handIn(plan: number, set: string) {
  const { job } = await server.call(api.handIn, { params: { plan, set } });
  return (await finished(server, plan, job)).result as { taken: number; refused: number; strange: number };
}
const account = (plan: number, outlet: string, campaign?: string) =>
  server.call(api.viewAccount, {
    params: { plan, outlet },
    query: campaign === undefined ? {} : { campaign },
  });

describe('sheets', () => {
  test('three outlets take what is written for each, and keep an account of it', async () => {
    const plan = await shippable();
    for (const outlet of [fennelwick, harrowlight, quillmere]) {
      await choose(
        plan,
        outlet.key,
        true,
        outlet.needs.map(({ key }) => key),
      );
      const view = await check(plan);
      expect(
        view.findings.filter(({ severity, outlet: of }) => severity === 'blocker' && of === outlet.key),
      ).toEqual([]);
      const { sheetSet, files } = await ship(plan, outlet.key);
      expect(await handIn(plan, sheetSet)).toMatchObject({ refused: 0, strange: 0 });
      const held = await account(plan, outlet.key);
      const inSheets = files.reduce((sum, { rows }) => sum + rows, 0);
      expect(Object.values(held.rows).reduce((sum, rows) => sum + rows, 0)).toBe(inSheets);
      expect(held.campaigns).toMatchObject([{ name: 'Kayaks', groups: 4, ads: 4 }]);
    }
    const [quill, harrow, fennel] = await receiptsOf(plan);
    expect([fennel?.outlet, harrow?.outlet, quill?.outlet]).toEqual([
      'fennelwick',
      'harrowlight',
      'quillmere',
    ]);
    expect([fennel?.state, fennel?.hash.length, fennel?.by, fennel?.counts.added]).toEqual([
      'accepted',
      64,
      'You',
      1 + 4 + 8 + 4,
    ]);
    // Each in its own character.
    expect((await bytesOf(plan, fennel?.id ?? '', 'fennelwick.csv')).slice(0, 3)).toEqual(
      Uint8Array.from([0xef, 0xbb, 0xbf]),
    );
    expect(await textOf(plan, harrow?.id ?? '', 'keywords.csv', 'windows-1252')).toContain(
      'Kayaks;sea kayak;[sea kayak];on\r\n',
    );
    expect(await textOf(plan, harrow?.id ?? '', 'clusters.csv')).toContain('Kayaks;sea kayak;0,40;on\r\n');
    const searches = await textOf(plan, quill?.id ?? '', 'searches.tsv', 'utf-16le');
    expect(searches).toContain('Kayaks\tcanoe\tcanoe\t');
    expect(searches.split('\n').length).toBe(1 + 4 + 1);
  });

  test('a workbook is read by another program, every cell a text', async () => {
    const plan = await shippable(`kayak & canoe\n${LIST}`);
    const once = await ship(plan, 'plain', { format: 'xlsx', sheets: ['keywords', 'ads'] });
    const again = await ship(plan, 'plain', { format: 'xlsx', sheets: ['keywords', 'ads'] });
    const bytes = await bytesOf(plan, once.sheetSet, 'keywords.xlsx');
    expect(bytes).toEqual(await bytesOf(plan, again.sheetSet, 'keywords.xlsx'));
    const workbook = new exceljs.Workbook();
    await workbook.xlsx.load(Buffer.from(bytes) as never);
    const rows: string[][] = [];
    workbook.worksheets[0]?.eachRow((row) => {
      // Blank cells stand in the sheet and are left out by the reader.
      rows.push(
        Array.from({ length: 7 }, (_, at) => {
          const { value } = row.getCell(at + 1);
          expect(value === null || typeof value === 'string').toBe(true);
          return (value as string | null) ?? '';
        }),
      );
    });
    const csv = await ship(plan, 'plain', { sheets: ['keywords'] });
    expect(rows).toEqual(parse(await textOf(plan, csv.sheetSet, 'keywords.csv')));
  });

  test('a workbook is taken by the simulated engine as a text is', async () => {
    const plan = await shippable(`kayak & canoe\n${LIST}`);
    await choose(plan, 'fennelwick', true, ['consent']);
    const book = await ship(plan, 'fennelwick', { format: 'xlsx' });
    expect(await handIn(plan, book.sheetSet)).toEqual({ taken: 21, refused: 0, strange: 0 });
    const taken = (await account(plan, 'fennelwick', 'Kayaks')).inside;
    const text = await ship(plan, 'fennelwick');
    expect(await handIn(plan, text.sheetSet)).toMatchObject({ taken: 21, refused: 0 });
    expect((await account(plan, 'fennelwick', 'Kayaks')).inside).toEqual(taken);
    expect(taken.flatMap(({ cells }) => cells)).toContain('kayak & canoe');
  });

  test('a character that the outlet’s encoding has not is named with its row, before and when shipping', async () => {
    const plan = await shippable('カヤック\t10\ncanoe\t20\n');
    await choose(plan, 'harrowlight', true, ['phone']);
    const view = await check(plan);
    const blocker = view.findings.find(({ rule }) => rule === 'character-not-carried');
    expect(blocker?.samples[0]?.text).toMatch(/^カ in .*row \d/);
    expect(view.outlets[1]?.check?.notCarried[0]).toMatchObject({ character: 'カ' });
    await expect(ship(plan, 'harrowlight')).rejects.toMatchObject({ status: 422 });
  });

  test('an outlet that the plan does not ship to, a form it takes not, sheets it has not', async () => {
    const plan = await shippable();
    await expect(ship(plan, 'fennelwick')).rejects.toThrow(/does not ship to this outlet/);
    await expect(ship(plan, 'nowhere')).rejects.toMatchObject({ status: 404 });
    await choose(plan, 'quillmere', true, ['funding']);
    await expect(ship(plan, 'quillmere', { format: 'csv' })).rejects.toThrow(/takes no csv/);
    await expect(ship(plan, 'quillmere', { sheets: ['combined'] })).rejects.toThrow(/no such sheet/);
  });
});

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
    // One keyword comes, one goes, a bid is held.
    await takeIn(server, plan, 'raft\t50\n');
    const pool = await select<{ id: number; text: string }>(
      server.database,
      'select id, text from keywords where plan_id = $1',
      [plan],
    );
    const idOf = (text: string) => pool.find((row) => row.text === text)?.id as number;
    await server.call(api.setCut, { params: { plan }, body: { ids: [idOf('canoe')], cut: true } } as never);
    await built(server, plan);
    const [row] = await select<{ key: string }>(
      server.database,
      `select key from keyword_rows where plan_id = $1 and text = 'sea kayak' and type = 3`,
      [plan],
    );
    await server.call(api.holdValue, {
      params: { plan },
      body: { rowKey: row?.key ?? '', field: 'bid', before: null, value: 910_000 },
    } as never);
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

describe('an answer while the plan is looked through', () => {
  const values = toldValues(plainOutlet);
  const refusal = (text: string, group: string) => ({
    file: 'keywords.csv',
    line: 2,
    key: ['keyword', 'Kayaks', group, 'exact', text].join('\u001f'),
    reason: 'Bid too low',
  });
  const newRows = async (plan: number) => {
    const { outlets } = await check(plan);
    const { added, same } = outlets.find(({ outlet }) => outlet.key === 'plain')?.check?.difference ?? {};
    return [added, same];
  };
  async function shipped() {
    const plan = await shippable();
    await check(plan);
    const { sheetSet } = await ship(plan, 'plain');
    const rows = await select<{ text: string; name: string }>(
      server.database,
      `select k.text, g.name from keyword_rows k join ad_groups g on g.plan_id = k.plan_id and g.key = k.group_key
       where k.plan_id = $1 and k.type = 3 order by k.text limit 2`,
      [plan],
    );
    const [refused, others] = rows.map(({ text, name }) => [refusal(text, name)]);
    const caller = { database: server.database, workspace: 1, actor: 1, plan };
    return { plan, sheetSet, caller, refused: refused ?? [], others: others ?? [] };
  }

  test('that comes before the look has ended makes it of yesterday', async () => {
    const { plan, sheetSet, caller, refused } = await shipped();
    let answering: Promise<unknown> = Promise.resolve();
    await atOneMoment(caller, async (moment) => {
      await knownSet(caller, await lastSet(caller, 'plain', moment.reading), values, moment);
      answering = keepAnswer(caller, sheetSet, refused);
      await new Promise((done) => setTimeout(done, 100));
    });
    await answering;
    const [added, same] = await newRows(plan);
    expect(added).toBe(1);
    expect(same).toBeGreaterThan(10);
  });

  test('that came after the look had begun is not written over by it', async () => {
    const { plan, sheetSet, caller, refused } = await shipped();
    await atOneMoment(caller, async (moment) => {
      const last = await lastSet(caller, 'plain', moment.reading);
      await keepAnswer(caller, sheetSet, refused);
      const { rows } = await knownSet(caller, last, values, moment);
      expect(rows.rowOf(refused[0]?.key ?? '')).toBeGreaterThanOrEqual(0);
    });
    expect((await newRows(plan))[0]).toBe(1);
  });

  test('another one that refuses as many is another one', async () => {
    const { plan, sheetSet, caller, refused, others } = await shipped();
    await keepAnswer(caller, sheetSet, refused);
    const before = await check(plan);
    await keepAnswer(caller, sheetSet, others);
    const after = await check(plan);
    const told = (view: api.ShipView) => view.outlets[0]?.check?.difference?.rows.map(({ text }) => text);
    expect(told(before)).toHaveLength(1);
    expect(told(after)).toHaveLength(2);
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

describe('outlets', () => {
  const own = { ...structuredClone(plainOutlet), key: 'our-form', name: 'Our form' };

  test('made, changed, shipped to, kept from removal while it is used; undone like all else', async () => {
    const plan = await shippable();
    const keep = (outlet: object, isNew: boolean, key = 'our-form') =>
      server.call(api.keepOutlet, {
        params: { plan, outlet: key },
        body: { outlet: outlet as never, isNew },
      });
    await keep(own, true);
    await expect(keep(own, true)).rejects.toThrow(/is an outlet with this key/);
    await expect(keep({ ...own, key: 'plain' }, false, 'plain')).rejects.toThrow(/comes with Green Sprig/);
    await expect(keep({ ...own, limits: { ...own.limits, keywordLength: 0 } }, false)).rejects.toThrow(
      /1 at least/,
    );
    const changed = { ...own, words: { ...own.words, enabled: 'Yes' } };
    await keep(changed, false);
    await choose(plan, 'our-form');
    await choose(plan, 'plain', false);
    await expect(choose(plan, 'our-form', false)).rejects.toThrow(/one outlet at least/);
    await expect(server.call(api.removeOutlet, { params: { plan, outlet: 'our-form' } })).rejects.toThrow(
      /plan ships to it/,
    );
    const { sheetSet } = await ship(plan, 'our-form', { sheets: ['keywords'] });
    expect(await textOf(plan, sheetSet, 'keywords.csv')).toContain(',Yes\r\n');
    await choose(plan, 'plain');
    await choose(plan, 'our-form', false);
    await server.call(api.removeOutlet, { params: { plan, outlet: 'our-form' } });
    await server.call(api.undoChange, { params: { plan }, body: {} });
    const { outlets } = await server.call(api.listOutlets, { params: { plan } });
    expect(outlets.find(({ outlet }) => outlet.key === 'our-form')).toMatchObject({
      own: true,
      chosen: false,
    });
  });

  test('keywords bid at the outlet’s own step where it has one', async () => {
    const plan = await shippable();
    const stepped = { ...own, key: 'stepped', name: 'Stepped', bidIncrement: 30_000 };
    await server.call(api.keepOutlet, {
      params: { plan, outlet: 'stepped' },
      body: { outlet: stepped as never, isNew: true },
    });
    await choose(plan, 'stepped');
    const bidsIn = async (outlet: string) => {
      const { sheetSet } = await ship(plan, outlet, { sheets: ['keywords'] });
      const [, ...rows] = parse(await textOf(plan, sheetSet, 'keywords.csv')) as string[][];
      return rows.map((row) => [row[2], row[3], Number(row[4])] as const);
    };
    const [plain, ours] = [await bidsIn('plain'), await bidsIn('stepped')];
    expect(ours.map(([text, type]) => [text, type])).toEqual(plain.map(([text, type]) => [text, type]));
    const nearest = new Map([
      [0.4, 0.39],
      [0.46, 0.45],
      [0.5, 0.51],
      [0.58, 0.57],
    ]);
    expect(new Set(plain.map(([, , bid]) => bid))).toEqual(new Set(nearest.keys()));
    expect(ours.map(([, , bid]) => bid)).toEqual(plain.map(([, , bid]) => nearest.get(bid)));
  });

  test('what an outlet can’t carry is said before, per row', async () => {
    const plan = await shippable();
    await choose(plan, 'harrowlight', true, []);
    const view = await check(plan);
    const losses = view.outlets[1]?.check?.losses;
    expect(losses?.map(({ rule }) => rule)).toEqual(expect.arrayContaining(['bid-of-group', 'ad-fields']));
    expect(losses?.find(({ rule }) => rule === 'bid-of-group')?.samples[0]).toMatchObject({
      campaign: 'Kayaks',
      becomes: '0.4',
    });
    const all = await (await fetch(`${server.url}/api/plans/${plan}/outlets/harrowlight/losses.csv`)).text();
    const rows = parse(all) as string[][];
    expect(rows[0]).toEqual(['What', 'Campaign', 'Ad group', 'Row', 'Becomes']);
    expect(rows.length - 1).toBe(losses?.reduce((sum, { count }) => sum + count, 0));
    expect(view.findings.find(({ rule }) => rule === 'prerequisite-to-go-live')).toMatchObject({
      outlet: 'harrowlight',
      samples: [{ key: 'phone' }],
    });
  });

  test('all keywords and negatives for pasting stand beside their campaign and ad group', async () => {
    const plan = await shippable('kayak\t90\nkayak hire\t30\n-free\n');
    await choose(plan, 'harrowlight', true, ['phone']);
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    await server.call(api.editLayout, {
      params: { plan },
      body: { edits: [{ at: 'fences', before: layout.fences, after: 'exact' }] },
    });
    await built(server, plan);
    const text = await (
      await fetch(`${server.url}/api/plans/${plan}/outlets/harrowlight/keywords.txt`)
    ).text();
    const [heading, ...rows] = text
      .trimEnd()
      .split('\n')
      .map((line) => line.split('\t'));
    expect(heading).toEqual(['Campaign', 'Ad group', 'Keyword']);
    const groups = [...new Set(rows.map(([, group]) => group))].map((name) => [
      name,
      rows.filter(([, group]) => group === name).map(([, , keyword]) => keyword),
    ]);
    // What one ad group has as a keyword another has as a negative: each beside its own.
    expect(groups).toEqual([
      ['', ['-free']],
      ['kayak', ['"kayak"', '[kayak]', '-[kayak hire]']],
      ['kayak hire', ['"kayak hire"', '[kayak hire]']],
    ]);
    expect((await fetch(`${server.url}/api/plans/${plan}/outlets/quillmere/keywords.txt`)).status).toBe(404);
  });

  test('funding stands before sheets; ticked, it does no more', async () => {
    const plan = await shippable();
    await choose(plan, 'quillmere', true, []);
    expect(
      (await check(plan)).findings.find(({ rule }) => rule === 'prerequisite-for-sheets')?.severity,
    ).toBe('blocker');
    await expect(ship(plan, 'quillmere')).rejects.toMatchObject({ status: 422 });
    await choose(plan, 'quillmere', true, ['funding']);
    expect((await check(plan)).findings.some(({ rule }) => rule === 'prerequisite-for-sheets')).toBe(false);
  });
});

const rulesOf = (view: api.ShipView) => view.findings.map(({ rule }) => rule);

describe('findings', () => {
  test('of campaigns as they are set; sure fixes show before and after, and are one change', async () => {
    const plan = await planOf(server);
    await takeIn(server, plan, LIST);
    const { facts } = await server.call(api.readFacts, { params: { plan } });
    await server.call(api.editFacts, {
      params: { plan },
      body: {
        edits: [
          { at: 'locations', before: facts.locations, after: [{ name: 'Eastmere', level: 'region' }] },
          { at: 'presence', before: 'in', after: 'either' },
        ],
      },
    });
    const view = await check(plan);
    expect(rulesOf(view)).toEqual(
      expect.arrayContaining([
        'presence-interested',
        'no-language',
        'campaign-without-negatives',
        'group-without-negatives',
        'no-assets',
      ]),
    );
    expect(view.findings.find(({ rule }) => rule === 'no-language')?.searches).toBe(1_800);
    for (const [rule, before, after] of [
      ['presence-interested', 'either', 'in'],
      ['no-language', '', 'English'],
    ] as const) {
      const look = await server.call(api.previewFix, { params: { plan }, body: { rule, outlet: null } });
      expect(look.changes).toEqual([{ of: 'The brief', before, after }]);
      expect(
        (await server.call(api.applyFix, { params: { plan }, body: { rule, outlet: null } })).fixed,
      ).toBe(1);
    }
    const mended = await check(plan);
    expect(rulesOf(mended)).not.toEqual(expect.arrayContaining(['presence-interested']));
    expect(rulesOf(mended)).not.toEqual(expect.arrayContaining(['no-language']));
    await server.call(api.undoChange, { params: { plan }, body: {} });
    expect(rulesOf(await check(plan))).toContain('no-language');
  });

  test('bids under the outlet’s least are raised; keywords too long for it are cut', async () => {
    const plan = await shippable(`${'x'.repeat(70)}\t5\n${LIST}`);
    await choose(plan, 'harrowlight', true, ['phone']);
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    await server.call(api.editLayout, {
      params: { plan },
      body: {
        edits: [
          { at: 'ladder.defaultBase', before: layout.ladder.defaultBase, after: 20_000 },
          { at: 'ladder.floor', before: layout.ladder.floor, after: 10_000 },
        ],
      },
    });
    const view = await check(plan);
    const found = view.findings.filter(
      ({ rule }) => rule === 'bid-under-least' || rule === 'keyword-too-long',
    );
    expect(found.map(({ rule, outlet, severity }) => [rule, outlet, severity])).toEqual(
      expect.arrayContaining([
        ['bid-under-least', 'harrowlight', 'blocker'],
        ['keyword-too-long', 'harrowlight', 'blocker'],
      ]),
    );
    const look = await server.call(api.previewFix, {
      params: { plan },
      body: { rule: 'bid-under-least', outlet: 'harrowlight' },
    });
    expect(look.changes[0]).toEqual({ of: 'The floor of the ladder', before: '0.01', after: '0.05' });
    for (const rule of ['bid-under-least', 'keyword-too-long'] as const)
      await server.call(api.applyFix, { params: { plan }, body: { rule, outlet: 'harrowlight' } });
    expect((await check(plan)).findings.filter(({ severity }) => severity === 'blocker')).toEqual([]);
  });

  test('budgets under the outlet’s least are raised', async () => {
    const plan = await shippable();
    await choose(plan, 'fennelwick', true, ['consent']);
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    await server.call(api.editLayout, {
      params: { plan },
      body: { edits: [{ at: 'dailyBudget', before: layout.dailyBudget, after: 500_000 }] },
    });
    expect(rulesOf(await check(plan))).toContain('budget-under-least');
    const request = { rule: 'budget-under-least', outlet: 'fennelwick' } as const;
    const look = await server.call(api.previewFix, { params: { plan }, body: request });
    expect(look.changes).toEqual([{ of: 'The daily budget of campaigns', before: '0.50', after: '1.00' }]);
    await server.call(api.applyFix, { params: { plan }, body: request });
    expect(rulesOf(await check(plan))).not.toContain('budget-under-least');
  });

  test('what a day is expected to cost is held against the budgets', async () => {
    const plan = await shippable();
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    const { now } = await server.call(api.viewForecast, { params: { plan }, body: { scope: { all: true } } });
    const budgetOf = (before: number, after: number) =>
      server.call(api.editLayout, {
        params: { plan },
        body: { edits: [{ at: 'dailyBudget', before, after }] },
      });
    const spend = async () =>
      (await check(plan)).findings.find(({ rule }) => rule === 'spend-over-budget')?.samples[0]?.text;
    const above = Math.ceil(now.cost / 10_000) * 10_000;
    const below = above - 20_000;
    await budgetOf(layout.dailyBudget, above);
    expect(await spend()).toBeUndefined();
    await budgetOf(above, below);
    const pounds = (micros: number) => `£${(micros / 1_000_000).toFixed(2)}`;
    expect(await spend()).toBe(`${pounds(now.cost)} a day, budgets of ${pounds(below)}`);
    await budgetOf(below, 0);
    expect(await spend()).toBeUndefined();
  });

  test('a warning is accepted with a reason, as long as what it says stays the same', async () => {
    const plan = await shippable();
    const findingIn = (view: api.ShipView) => view.findings.find(({ rule }) => rule === 'few-ads');
    const finding = findingIn(await check(plan));
    const accept = (reason: string | null) =>
      server.call(api.acceptFinding, {
        params: { plan },
        body: {
          rule: 'few-ads',
          field: null,
          outlet: finding?.outlet ?? null,
          facts: finding?.facts ?? 0,
          reason,
        },
      });
    await expect(accept('  ')).rejects.toThrow(/Say why/);
    await accept('One ad is enough for a test.');
    expect(findingIn(await check(plan))?.accepted).toBe('One ad is enough for a test.');
    await takeIn(server, plan, 'raft\t5\n');
    expect(findingIn(await check(plan))).toMatchObject({ accepted: null, count: 5 });
    await server.call(api.undoChange, { params: { plan }, body: {} });
    expect(findingIn(await check(plan))?.accepted).toBe('One ad is enough for a test.');
    await accept(null);
    expect(findingIn(await check(plan))?.accepted).toBeNull();
  });
});

test('what changes while the plan is looked through or shipped neither waits nor makes it fail', async () => {
  const plan = await shippable();
  const { atOneMoment } = await import('./moment.ts');
  const { ensureCheck } = await import('./check-job.ts');
  const { chosenOutlets } = await import('../../outlets.ts');
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

describe('what goes wrong on the way', () => {
  test('a full disk: said in words, nothing is kept, and it ships once there is room', async () => {
    const plan = await shippable();
    const { database } = server;
    await database.query(`create function no_room() returns trigger language plpgsql as
      $$ begin raise exception 'could not extend file' using errcode = 'disk_full'; end $$`);
    await database.query(`create trigger no_room before insert on sheet_parts for each row
      when (pg_trigger_depth() = 0) execute function no_room()`);
    try {
      await expect(ship(plan, 'plain')).rejects.toMatchObject({
        code: 'unavailable',
        message: expect.stringContaining('disk of the database is full'),
      });
      expect(await receiptsOf(plan)).toEqual([]);
      const kept = await select(
        database,
        'select 1 from outlet_states s join sheet_sets t on t.id = s.set_id where t.plan_id = $1',
        [plan],
      );
      expect(kept).toEqual([]);
    } finally {
      await database.query('drop trigger no_room on sheet_parts; drop function no_room');
    }
    await ship(plan, 'plain');
    expect(await receiptsOf(plan)).toHaveLength(1);
  });

  test('a browser closed in mid-download: the next one gets the whole sheet', async () => {
    const plan = await shippable(
      Array.from({ length: 20_000 }, (_, n) => `kayak ${n} ${n * 7}\t${n}`).join('\n'),
    );
    const { sheetSet, files } = await ship(plan, 'plain', { sheets: ['keywords'] });
    const file = files[0]?.name ?? '';
    const address = `${server.url}/api/plans/${plan}/sheet-sets/${sheetSet}/files/${file}`;
    for (let times = 0; times < 3; times++) {
      const leave = new AbortController();
      const answer = await fetch(address, {
        signal: leave.signal,
        headers: { 'accept-encoding': 'identity' },
      });
      const reader = answer.body?.getReader();
      expect((await reader?.read())?.value?.length).toBeGreaterThan(0);
      leave.abort();
      await expect(reader?.read()).rejects.toThrow();
    }
    const lines = (await textOf(plan, sheetSet, file)).trimEnd().split('\r\n');
    expect(lines).toHaveLength(40_001);
    expect(lines.every((line) => line.split(',').length === 7)).toBe(true);
  });
});
