import * as api from '@sprig/contracts';
import { fennelwick, harrowlight, quillmere } from '@sprig/core/outlets';
import { parse } from 'csv-parse/sync';
import exceljs from 'exceljs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { LIST, shipping } from '../../testing/shipping.ts';
import { built, startTestServer, type TestServer } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, check, ship, bytesOf, textOf, receiptsOf, handIn, account } = shipping(
  () => server,
);

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

  test('keywords ship where they lead by themselves; an outlet without a column for it loses that', async () => {
    const plan = await shippable();
    const keys = await select<{ key: string }>(
      server.database,
      `select key from keyword_rows where plan_id = $1 and text = 'canoe' order by type`,
      [plan],
    );
    const values = keys
      .slice(0, 1)
      .map(({ key }) => [key, 'finalUrl', 'https://saltmarshpaddle.example/own']);
    await server.call(api.holdEach, { params: { plan }, body: { values: values as never } });
    await choose(plan, 'harrowlight', true, ['phone']);
    const view = await check(plan);
    const lost = view.outlets.map(({ outlet, check: told }) => [
      outlet.key,
      told?.losses.find(({ rule }) => rule === 'address')?.count ?? 0,
    ]);
    expect(lost).toEqual([
      ['plain', 0],
      ['harrowlight', 1],
    ]);
    const { sheetSet } = await ship(plan, 'plain', { sheets: ['keywords'] });
    const rows: string[][] = parse(await textOf(plan, sheetSet, 'keywords.csv'));
    const at = rows[0]?.indexOf('Final URL') ?? -1;
    expect(rows.filter((row) => row[2] === 'canoe').map((row) => row[at])).toEqual([
      'https://saltmarshpaddle.example/own',
      '',
    ]);
  });

  test('a campaign that is set to match wide or close does so where the outlet matches by campaign', async () => {
    const plan = await shippable();
    await choose(plan, 'quillmere', true, ['funding']);
    const finds = async (value: string) => {
      await server.call(api.changeCampaigns, {
        params: { plan },
        body: { values: [['c', 'matching', value]], settings: [], dry: false },
      });
      await check(plan);
      const { sheetSet } = await ship(plan, 'quillmere', { sheets: ['campaigns'] });
      const [head = '', row = ''] = (await textOf(plan, sheetSet, 'orders.tsv', 'utf-16le')).split('\n');
      return row.split('\t')[head.split('\t').indexOf('Finds')];
    };
    const { close, wide } = quillmere.words.matchSettings;
    expect([await finds('wide'), await finds('close'), await finds('')]).toEqual([wide, close, close]);
    await expect(finds('narrow')).rejects.toMatchObject({ failure: { at: 'matching' } });
  });

  test('an ad group matches and takes turns its own way, and keywords bid their own way at partners', async () => {
    const plan = await shippable();
    const params = { plan };
    await choose(plan, 'quillmere', true, ['funding']);
    await choose(plan, 'fennelwick', true, ['consent']);
    await server.call(api.changeCampaigns, {
      params,
      body: {
        values: [],
        settings: [
          { campaigns: ['c'], values: { networks: { search: true, partners: true, display: false } } },
        ],
        dry: false,
      },
    });
    await built(server, plan);
    const groups = await select<{ key: string; keyword: string }>(
      server.database,
      'select key, keyword from ad_groups where plan_id = $1',
      [plan],
    );
    const own = groups.find(({ keyword }) => keyword === 'canoe')?.key ?? '';
    const values = [
      [own, 'matching', 'wide'],
      [own, 'rotation', 'even'],
      [`${own}:p`, 'bidPartners', 90_000],
      [`${own}:p`, 'bidDisplay', 80_000],
    ];
    await server.call(api.holdEach, { params, body: { values: values as never } });
    const view = await check(plan);
    const lost = (key: string) =>
      view.outlets.find(({ outlet }) => outlet.key === key)?.check?.losses.map(({ rule }) => rule);
    // On pages the campaign is not shown.
    expect(lost('quillmere')).toContain('bid-network');
    expect(lost('quillmere')).toContain('setting');
    expect(lost('fennelwick')).not.toContain('setting');
    expect(lost('fennelwick')).toContain('bid-network');
    const cells = async (sheetSet: string, file: string, encoding: string) =>
      (await textOf(plan, sheetSet, file, encoding)).split('\n').map((line) => line.split('\t'));
    const { sheetSet } = await ship(plan, 'quillmere');
    const [head = [], ...shelves] = await cells(sheetSet, 'shelves.tsv', 'utf-16le');
    const finds = new Map(shelves.map((row) => [row[1], row[head.indexOf('Finds')]]));
    expect([finds.get('canoe'), finds.get('sea kayak')]).toEqual(['wide', 'close']);
    const [names = [], ...searches] = await cells(sheetSet, 'searches.tsv', 'utf-16le');
    const partners = (text: string) =>
      searches.find((row) => row[2] === text)?.[names.indexOf('Bid at partners')];
    expect(partners('canoe')).toBe('9');
    expect(Number(partners('sea kayak'))).toBeGreaterThan(9);
    const fennel = await ship(plan, 'fennelwick');
    const rows: Record<string, string>[] = parse(await textOf(plan, fennel.sheetSet, 'fennelwick.csv'), {
      columns: true,
      bom: true,
      relax_column_count: true,
    });
    const turns = rows.filter((row) => row['Turns of ads'] === 'All ads alike');
    expect(turns).toHaveLength(1);
    // What of the settings was not changed stays.
    expect(await textOf(plan, sheetSet, 'orders.tsv', 'utf-16le')).toContain(
      'Search; Partners\tEastmere (region)\t\tEnglish',
    );
    for (const outlet of [sheetSet, fennel.sheetSet]) expect((await handIn(plan, outlet)).refused).toBe(0);
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
        Array.from({ length: 8 }, (_, at) => {
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
      Array.from({ length: 8_000 }, (_, n) => `kayak ${n} ${n * 7}\t${n}`).join('\n'),
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
    expect(lines).toHaveLength(16_001);
    expect(lines.every((line) => line.split(',').length === 8)).toBe(true);
  });
});
