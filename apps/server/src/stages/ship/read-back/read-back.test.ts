import * as api from '@sprig/contracts';
import { fennelwick, harrowlight, plainOutlet, quillmere } from '@sprig/core/outlets';
import { seeded } from '@sprig/core/text';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../../db/connect.ts';
import { JobContext } from '../../../platform/jobs/context.ts';
import {
  built,
  planOf,
  startTestServer,
  succeeded,
  type TestServer,
  takeIn,
  upload,
} from '../../../testing/start-test-server.ts';
import { takeBackJob } from './take-job.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const OUTLETS = { plain: plainOutlet, fennelwick, harrowlight, quillmere };
type OutletName = keyof typeof OUTLETS;
type Sheet = { name: string; text: string };

const usual: api.TakeOptions = {
  kinds: ['campaign', 'group', 'keyword', 'negative', 'ad', 'extra'],
  settings: true,
  bids: { mode: 'take', scale: 10_000 },
  budgets: { mode: 'take', scale: 10_000 },
  missing: false,
  timeZone: null,
};

async function look(
  plan: number,
  sheets: readonly Sheet[],
  more: { by?: string; columns?: Record<string, never> } = {},
): Promise<api.ReadBack> {
  const files = [];
  for (const { name, text } of sheets) files.push({ upload: await upload(server, plan, text), name });
  const { job } = await server.call(api.startReadBack, {
    params: { plan },
    body: { files, ...more } as never,
  });
  await succeeded(server, plan, job);
  const { readBack } = await server.call(api.viewReadBack, { params: { plan } });
  if (!readBack) throw new Error('nothing was read');
  return readBack;
}

async function take(plan: number, readBack: api.ReadBack, options: Partial<api.TakeOptions> = {}) {
  const { job } = await server.call(api.takeReadBack, {
    params: { plan, readBack: readBack.id },
    body: { ...usual, ...options },
  });
  const done = await succeeded(server, plan, job);
  await built(server, plan);
  return api.takeResult.parse(done.result);
}

const rowsOf = async (plan: number, readBack: api.ReadBack, query: api.ReadBackFilter = {}) =>
  server.call(api.listReadBackRows, { params: { plan, readBack: readBack.id }, query: query as never });

async function sheetsOf(plan: number, outlet: OutletName): Promise<Sheet[]> {
  const profile = OUTLETS[outlet];
  await server.call(api.chooseOutlet, {
    params: { plan, outlet },
    body: {
      chosen: true,
      body: {
        ticks: profile.needs.map(({ key }) => key),
        steps: { search: 10_000, partners: 5_000, display: 5_000 },
      },
    },
  });
  await built(server, plan);
  const { job } = await server.call(api.startShip, {
    params: { plan },
    body: {
      outlet,
      format: profile.file.formats[0] ?? 'csv',
      what: 'all',
      sheets: profile.sheets
        .map(({ kind }) => kind)
        .filter((kind, _, all) => all.length === 1 || kind !== 'combined'),
    },
  });
  const done = await succeeded(server, plan, job);
  const { sheetSet, files } = api.shipResult.parse(done.result);
  const sheets: Sheet[] = [];
  for (const { name } of files) {
    const answer = await fetch(`${server.url}/api/plans/${plan}/sheet-sets/${sheetSet}/files/${name}`);
    sheets.push({ name, text: new TextDecoder(profile.file.encoding).decode(await answer.arrayBuffer()) });
  }
  return sheets;
}

const csv = (...rows: string[][]) =>
  rows.map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(',')).join('\r\n');

/** Sheets of an account with two campaigns, as plain sheets have them; every kind of thing is in it. */
const ACCOUNT: Sheet[] = [
  {
    name: 'campaigns.csv',
    text: csv(
      ['Campaign', 'Daily budget', 'Networks', 'Locations', 'Shown to', 'Languages', 'Schedule', 'Status'],
      [
        'Boats',
        '20.00',
        'Search; Partners',
        'Eastmere (region)',
        'People in',
        'English',
        'Mon-Fri 9:00-17:00',
        'Enabled',
      ],
      [
        'Boards',
        '12.50',
        'Search; Partners',
        'Eastmere (region)',
        'People in',
        'English',
        'Mon-Fri 9:00-17:00',
        'Paused',
      ],
      [
        'Trips',
        '20.00',
        'Search',
        'Eastmere (region); Wrenport (town)',
        'Either',
        'English; Welsh',
        '',
        'Enabled',
      ],
    ),
  },
  {
    name: 'groups.csv',
    text: csv(
      ['Campaign', 'Ad group', 'Max CPC', 'Labels', 'Status'],
      ['Boats', 'Kayaks', '0.60', 'spring', 'Enabled'],
      ['Boats', 'Canoes', '0.50', '', 'Enabled'],
      ['Boards', 'Paddle boards', '0.40', '', 'Enabled'],
      ['Trips', 'Guided', '0.75', '', 'Paused'],
    ),
  },
  {
    name: 'keywords.csv',
    text: csv(
      ['Campaign', 'Ad group', 'Keyword', 'Match type', 'Max CPC', 'Labels', 'Status'],
      ['Boats', 'Kayaks', 'sea kayak', 'Exact', '0.91', 'top', 'Enabled'],
      ['Boats', 'Kayaks', 'sea kayak', 'Phrase', '0.60', '', 'Enabled'],
      ['Boats', 'Kayaks', '+kayak +hire', 'Modified broad', '0.60', '', 'Enabled'],
      ['Boats', 'Canoes', 'canoe', 'Broad', '0.50', '', 'Paused'],
      ['Boards', 'Paddle boards', 'paddle board', 'Exact', '0.40', '', 'Enabled'],
      ['Trips', 'Guided', 'guided kayak trip', 'Phrase', '0.75', '', 'Enabled'],
    ),
  },
  {
    name: 'negatives.csv',
    text: csv(
      ['Campaign', 'Ad group', 'Keyword', 'Match type', 'Status'],
      ['Boats', '', 'used', 'Broad', 'Enabled'],
      ['Boats', 'Kayaks', 'kayak fishing', 'Phrase', 'Enabled'],
      ['Trips', 'Guided', 'free', 'Exact', 'Enabled'],
    ),
  },
  {
    name: 'ads.csv',
    text: csv(
      [
        'Campaign',
        'Ad group',
        'Ad form',
        'Headline 1',
        'Headline 2',
        'Description 1',
        'Path 1',
        'Final URL',
        'Labels',
        'Status',
      ],
      [
        'Boats',
        'Kayaks',
        'Plain',
        '<<keyword:title|Sea Kayaks>> Today',
        'Saltmarsh Paddle Co.',
        'By the hour or the day.',
        'kayaks',
        'https://saltmarshpaddle.example/hire',
        '',
        'Enabled',
      ],
      [
        'Boats',
        'Canoes',
        'Plain',
        'Canoes for Two',
        'Saltmarsh Paddle Co.',
        'By the hour or the day.',
        'canoes',
        'https://saltmarshpaddle.example/canoes',
        '',
        'Enabled',
      ],
      [
        'Boards',
        'Paddle boards',
        'Plain',
        'Paddle Boards',
        'Saltmarsh Paddle Co.',
        'By the hour or the day.',
        'boards',
        'https://saltmarshpaddle.example/hire',
        'new',
        'Paused',
      ],
      [
        'Trips',
        'Guided',
        'Plain',
        'Guided Trips',
        'Saltmarsh Paddle Co.',
        'With a guide, every Sunday.',
        'trips',
        'https://saltmarshpaddle.example/hire',
        '',
        'Enabled',
      ],
    ),
  },
  {
    name: 'extras.csv',
    text: csv(
      ['Campaign', 'Ad group', 'Extra', 'Text', 'Line 1', 'Line 2', 'Final URL', 'Phone number', 'Status'],
      ['', '', 'Callout', 'Open every day', '', '', '', '', 'Enabled'],
      [
        'Boats',
        '',
        'Sitelink',
        'Opening hours',
        'From nine',
        'To dusk',
        'https://saltmarshpaddle.example/hours',
        '',
        'Enabled',
      ],
    ),
  },
];

/** Campaigns, ad groups, keywords, negatives and ads as chance has them, with names and texts that go wrong where a reader is careless. */
function randomAccount(seed: number): Sheet[] {
  const random = seeded(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const money = () => (0.05 + Math.floor(random() * 300) / 100).toFixed(2);
  const status = () => (random() < 0.25 ? 'Paused' : 'Enabled');
  const labels = () => pick(['', '', 'spring', 'top, new']);
  const ends = ['', ' (2)', ', "big"', ' = 1', ' – été', ' @ the quay', ' 🛶'];
  const words = ['sea', 'kayak', 'canoe', 'hire', 'two', 'paddle', 'tour', 'shop', 'sit-on', 'kids'];
  const taken = new Set<string>();
  const rows = {
    campaigns: [
      ['Campaign', 'Daily budget', 'Networks', 'Languages', 'Schedule', 'Device bid adjustments', 'Status'],
    ],
    groups: [['Campaign', 'Ad group', 'Max CPC', 'Labels', 'Status']],
    keywords: [['Campaign', 'Ad group', 'Keyword', 'Match type', 'Max CPC', 'Labels', 'Status']],
    negatives: [['Campaign', 'Ad group', 'Keyword', 'Match type', 'Status']],
    ads: [
      [
        'Campaign',
        'Ad group',
        'Ad form',
        'Headline 1',
        'Headline 2',
        'Headline 3',
        'Description 1',
        'Path 1',
        'Final URL',
        'Labels',
        'Status',
      ],
    ],
  };
  for (let c = 1; c <= 3; c++) {
    const campaign = `Campaign ${c}${pick(ends)}`;
    rows.campaigns.push([
      campaign,
      (5 + c * 5).toFixed(2),
      pick(['Search', 'Search; Partners', 'Search; Partners; Display']),
      pick(['English', 'English; Welsh']),
      pick(['', 'Mon-Fri 9:00-17:00', 'Mon+Wed 8:00-12:00; Sat+Sun 0:00-24:00']),
      pick(['', 'Phone +20%', 'Desktop -15%; Tablet +5.5%']),
      status(),
    ]);
    rows.negatives.push([
      campaign,
      '',
      pick(['used', 'free of charge', 'jobs']),
      pick(['Broad', 'Phrase', 'Exact']),
      'Enabled',
    ]);
    for (let g = 1; g <= 4; g++) {
      const group = `Group ${g}${pick(ends)}`;
      rows.groups.push([campaign, group, money(), labels(), status()]);
      for (let k = 0; k < 6; k++) {
        const text = [pick(words), pick(words), pick(words), String(c * 100 + g * 10 + k)].join(' ');
        for (const type of ['Broad', 'Modified broad', 'Phrase', 'Exact']) {
          if (random() < 0.5 || taken.has(`${type} ${text}`)) continue;
          taken.add(`${type} ${text}`);
          const marked = type === 'Modified broad' ? text.replace(/(^| )/g, '$1+') : text;
          rows.keywords.push([campaign, group, marked, type, money(), labels(), status()]);
        }
      }
      if (random() < 0.5)
        rows.negatives.push([
          campaign,
          group,
          pick(['gratis', 'second hand', 'broken']),
          pick(['Broad', 'Phrase', 'Exact']),
          'Enabled',
        ]);
      for (let a = 0; a < 1 + Math.floor(random() * 3); a++)
        rows.ads.push([
          campaign,
          group,
          'Plain',
          pick([
            '<<keyword:title|Sea Kayaks>> Here',
            `Kayaks ${c}${g}${a}`,
            'All, "of" it',
            '50% less = more',
          ]),
          `Shop ${a}`,
          pick(['', 'Open all Year']),
          pick(['By the hour, or the day.', 'Say “yes” – and go.', 'It’s on the quay @ nine.']),
          pick(['', 'hire', 'kids']),
          `https://saltmarshpaddle.example/${pick(['', 'a', 'b?c=1,2'])}`,
          labels(),
          status(),
        ]);
    }
  }
  return Object.entries(rows).map(([name, table]) => ({
    name: `${name === 'negatives' ? 'negative-keywords' : name}.csv`,
    text: csv(...table),
  }));
}

describe('a plan with nothing in it', () => {
  test('takes the shape of the sheets: what is read, and shipped again, says the same', async () => {
    const plan = await planOf(server);
    const readBack = await look(plan, ACCOUNT);
    expect(readBack).toMatchObject({
      isEmpty: true,
      by: 'plain',
      problems: { count: 0 },
      twice: 0,
      hasSchedule: true,
    });
    expect(readBack.kinds.keyword).toMatchObject({ added: 6, changed: 0, missing: 0, same: 0 });
    const { taken, notes } = await take(plan, readBack);
    expect(notes).toEqual([]);
    expect(taken).toMatchObject({ keywords: 6, negatives: 3, ads: 4, extras: 2, groups: 7 });
    // Compared again it differs in nothing.
    const again = await look(plan, ACCOUNT);
    const differing = await rowsOf(plan, again);
    expect(differing.rows).toEqual([]);
    expect(again.kinds.keyword).toMatchObject({ same: 6 });
    const { sets } = await server.call(api.listSettingSets, { params: { plan } });
    expect(sets).toMatchObject([{ name: 'Trips', languages: ['English', 'Welsh'], presence: 'either' }]);
    const { facts } = await server.call(api.readFacts, { params: { plan } });
    expect(facts).toMatchObject({
      networks: { search: true, partners: true, display: false },
      schedule: [{ days: ['mon', 'tue', 'wed', 'thu', 'fri'], from: 540, to: 1_020 }],
    });
  });

  test('is empty again by one step back, and full by one forth', async () => {
    const plan = await planOf(server);
    await take(plan, await look(plan, ACCOUNT));
    await server.call(api.undoChange, { params: { plan }, body: {} });
    expect((await built(server, plan)).counts).toMatchObject({ keywords: 0, themes: 0, groups: 0 });
    expect((await look(plan, ACCOUNT)).isEmpty).toBe(true);
    await server.call(api.redoChange, { params: { plan }, body: {} });
    await built(server, plan);
    expect((await rowsOf(plan, await look(plan, ACCOUNT))).rows).toEqual([]);
  });

  test('a job that is run again after it had ended answers what it did', async () => {
    const plan = await planOf(server);
    const readBack = await look(plan, ACCOUNT);
    const first = await take(plan, readBack);
    const { database } = server;
    const [job] = await select<{ id: string; input: unknown }>(
      database,
      `select id, input from jobs where plan_id = $1 and kind = 'take-back'`,
      [plan],
    );
    const again = takeBackJob(
      new JobContext({ database, plan, workspace: 1, actor: 1 }, job?.id ?? '', job?.input),
    );
    expect(await again).toEqual(first);
    expect((await built(server, plan)).counts).toMatchObject({ keywords: 5 });
  });

  test.each(Object.keys(OUTLETS) as OutletName[])(
    'is moved from %s: the sheets that it writes are those that were read, byte by byte',
    async (outlet) => {
      const first = await planOf(server);
      await take(first, await look(first, ACCOUNT));
      const sheets = await sheetsOf(first, outlet);
      const second = await planOf(server);
      const readBack = await look(second, sheets);
      expect(readBack.by).toBe(outlet);
      const { notes } = await take(second, readBack);
      expect(notes).toEqual([]);
      expect(await sheetsOf(second, outlet)).toEqual(sheets);
    },
  );

  test.each([1, 2, 3, 4])('accounts of any kind go round without a loss (%i)', async (seed) => {
    const account = randomAccount(seed);
    for (const outlet of ['plain', 'fennelwick'] as const) {
      const first = await planOf(server);
      const { notes } = await take(first, await look(first, account));
      expect(notes).toEqual([]);
      const differing = (await rowsOf(first, await look(first, account))).rows;
      expect(differing).toEqual([]);
      const sheets = await sheetsOf(first, outlet);
      const second = await planOf(server);
      expect((await take(second, await look(second, sheets))).notes).toEqual([]);
      expect(await sheetsOf(second, outlet)).toEqual(sheets);
    }
  });

  test('match types that names keep apart are lanes', async () => {
    const rows = (...lists: string[][]) =>
      csv(['Campaign', 'Ad group', 'Keyword', 'Match type', 'Max CPC'], ...lists);
    const plan = await planOf(server);
    const sheet = {
      name: 'account.csv',
      text: rows(
        ['Boats', 'Kayak - Exact', 'kayak', 'Exact', '0.90'],
        ['Boats', 'Kayak - Wide', 'kayak', 'Broad', '0.40'],
        ['Boats', 'Canoe - Exact', 'canoe', 'Exact', '0.80'],
      ),
    };
    const { notes } = await take(plan, await look(plan, [sheet]));
    expect(notes).toEqual([]);
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    expect(layout).toMatchObject({
      spread: 'by-group',
      lanes: [
        { name: 'Exact', types: 8 },
        { name: 'Wide', types: 1 },
      ],
    });
    const again = await look(plan, [sheet]);
    expect((await rowsOf(plan, again)).rows.filter(({ change }) => change !== 'missing')).toEqual([]);
  });
});

describe('a plan that has something', () => {
  async function planOfAccount(): Promise<number> {
    const plan = await planOf(server);
    await take(plan, await look(plan, ACCOUNT));
    return plan;
  }
  const edited = (name: string, ...changes: [string, string][]): Sheet => {
    const { text } = ACCOUNT.find((sheet) => sheet.name === name) as Sheet;
    return { name, text: changes.reduce((now, [from, to]) => now.replace(from, to), text) };
  };

  test('shows each difference with its place, and takes what is chosen; one step takes it back', async () => {
    const plan = await planOfAccount();
    const readBack = await look(plan, [
      edited(
        'keywords.csv',
        ['"0.91"', '"1.05"'],
        ['"0.50","","Paused"', '"0.50","","Enabled"'],
        [
          '"Boats","Canoes","canoe","Broad"',
          '"Boats","Canoes","canoe hire","Exact","0.55","","Enabled"\r\n"Boats","Canoes","canoe","Broad"',
        ],
      ),
      edited('ads.csv', ['Canoes for Two', 'Canoes for Three'], ['/canoes"', '/canoe-hire"']),
      edited(
        'campaigns.csv',
        ['"12.50"', '"15.00"'],
        ['Mon-Fri 9:00-17:00","Paused', 'Sat+Sun 9:00-17:00","Paused'],
      ),
    ]);
    const { rows } = await rowsOf(plan, readBack);
    expect(
      rows.map(({ kind, change, text, fields }) => [kind, change, text, ...fields.flatMap(Object.values)]),
    ).toEqual([
      [
        'campaign',
        'changed',
        'Boards',
        'daily-budget',
        '12.50',
        '15.00',
        'schedule',
        'Mon-Fri 9:00-17:00',
        'Sat+Sun 9:00-17:00',
      ],
      ['keyword', 'changed', 'sea kayak (exact)', 'bid', '0.91', '1.05'],
      ['keyword', 'added', 'canoe hire (exact)', 'bid', '', '0.55'],
      ['keyword', 'changed', 'canoe (broad)', 'status', 'Paused', 'Enabled'],
      [
        'ad',
        'changed',
        'Canoes for Two',
        'headline1',
        'Canoes for Two',
        'Canoes for Three',
        'final-url',
        'https://saltmarshpaddle.example/canoes',
        'https://saltmarshpaddle.example/canoe-hire',
      ],
    ]);
    expect(rows[1]).toMatchObject({ file: 'keywords.csv', line: 2 });
    // Not the bid of sea kayak.
    const { chosen } = await server.call(api.chooseReadBackRows, {
      params: { plan, readBack: readBack.id },
      body: { rows: [rows[1]?.n ?? -1], taken: false },
    });
    expect(chosen).toBe(1);
    const { notes } = await take(plan, readBack);
    expect(notes).toEqual([]);
    const again = await look(plan, [
      edited(
        'keywords.csv',
        [
          '"Boats","Canoes","canoe","Broad"',
          '"Boats","Canoes","canoe hire","Exact","0.55","","Enabled"\r\n"Boats","Canoes","canoe","Broad"',
        ],
        ['"0.50","","Paused"', '"0.50","","Enabled"'],
      ),
      edited('ads.csv', ['Canoes for Two', 'Canoes for Three'], ['/canoes"', '/canoe-hire"']),
      edited(
        'campaigns.csv',
        ['"12.50"', '"15.00"'],
        ['Mon-Fri 9:00-17:00","Paused', 'Sat+Sun 9:00-17:00","Paused'],
      ),
    ]);
    expect((await rowsOf(plan, again)).rows).toEqual([]);
    await server.call(api.undoChange, { params: { plan }, body: {} });
    await built(server, plan);
    expect((await rowsOf(plan, await look(plan, ACCOUNT))).rows).toEqual([]);
  });

  test('bids are taken, kept or scaled; what is missing is paused where that is wanted', async () => {
    const plan = await planOfAccount();
    const sheet = edited(
      'keywords.csv',
      ['"0.91"', '"1.00"'],
      ['"Boards","Paddle boards","paddle board","Exact","0.40","","Enabled"\r\n', ''],
    );
    await take(plan, await look(plan, [sheet]), { bids: { mode: 'keep', scale: 10_000 } });
    const kept = await look(plan, [sheet]);
    expect(
      (await rowsOf(plan, kept, { kind: 'keyword' })).rows.map(({ change, text }) => [change, text]),
    ).toEqual([
      ['changed', 'sea kayak (exact)'],
      ['missing', 'paddle board (exact)'],
    ]);
    const { taken } = await take(plan, kept, { bids: { mode: 'scale', scale: 15_000 }, missing: true });
    expect(taken).toMatchObject({ paused: 1 });
    const scaled = (await rowsOf(plan, await look(plan, ACCOUNT))).rows;
    expect(
      scaled.map(({ text, fields }) => [text, ...fields.map(({ before, after }) => `${before} ${after}`)]),
    ).toEqual([
      ['sea kayak (exact)', '1.50 0.91'],
      ['paddle board (exact)', 'Paused Enabled'],
    ]);
  });

  test('a schedule by another clock is moved to the plan’s', async () => {
    const plan = await planOf(server);
    await take(plan, await look(plan, ACCOUNT), { timeZone: 'Asia/Kolkata' });
    const { facts } = await server.call(api.readFacts, { params: { plan } });
    expect(facts.schedule).toEqual([{ days: ['mon', 'tue', 'wed', 'thu', 'fri'], from: 210, to: 690 }]);
  });

  test('new ad groups of a gathered plan become themes, and its own stay as they are', async () => {
    const plan = await planOf(server);
    await takeIn(server, plan, 'sea kayak\t900\nkayak hire\t400\n');
    await built(server, plan);
    const { taken } = await take(plan, await look(plan, ACCOUNT), {
      kinds: ['group', 'keyword', 'negative'],
    });
    expect(taken).toMatchObject({ keywords: 6, groups: 4 });
    const again = await look(plan, ACCOUNT);
    const names = (await rowsOf(plan, again, { kind: 'group' })).rows.map(
      ({ change, text }) => `${change} ${text}`,
    );
    // The plan has one campaign by its rules, so the sheets' own are not made.
    expect(names.filter((name) => name.startsWith('missing'))).toHaveLength(4);
  });

  test('a new ad group of a campaign that the plan has is made there, under the name that it has in the sheets', async () => {
    const plan = await planOf(server, 'Kayaks');
    await takeIn(server, plan, 'sea kayak\t900\n');
    await built(server, plan);
    const { layout } = await server.call(api.readLayout, { params: { plan } });
    await server.call(api.editLayout, {
      params: { plan },
      body: {
        edits: [
          { at: 'themeName', before: layout.themeName, after: { pattern: 'All @theme', style: 'title' } },
        ],
      },
    });
    await built(server, plan);
    const sheet = {
      name: 'keywords.csv',
      text: csv(
        ['Campaign', 'Ad group', 'Keyword', 'Match type', 'Max CPC'],
        ['Kayaks', 'two-seaters', 'tandem kayak', 'Phrase', '0.70'],
        ['kayaks', 'two-seaters', 'double kayak', 'Exact', '0.80'],
      ),
    };
    const { notes } = await take(plan, await look(plan, [sheet]));
    expect(notes).toEqual([]);
    const again = await look(plan, [sheet]);
    expect((await rowsOf(plan, again)).rows.filter(({ change }) => change !== 'missing')).toEqual([]);
  });

  test('a keyword that the sheets have in its ad group still is not torn from it; one that they have elsewhere now moves', async () => {
    const plan = await planOfAccount();
    const { notes } = await take(
      plan,
      await look(plan, [
        edited(
          'keywords.csv',
          ['"Boats","Kayaks","sea kayak","Phrase"', '"Boats","Canoes","sea kayak","Phrase"'],
          ['"Boats","Canoes","canoe","Broad"', '"Trips","Guided","canoe","Broad"'],
        ),
      ]),
    );
    expect(notes).toMatchObject([
      { code: 'keyword-elsewhere', count: 1, samples: ['sea kayak (phrase): Boats, Canoes'] },
    ]);
    const again = (await rowsOf(plan, await look(plan, ACCOUNT), { kind: 'keyword' })).rows;
    expect(again.map(({ change, group, text }) => [change, group, text])).toEqual([
      ['added', 'Canoes', 'canoe (broad)'],
      ['missing', 'Guided', 'canoe (broad)'],
    ]);
  });

  test('a match type that the sheets have comes to those that were set by hand', async () => {
    const plan = await planOfAccount();
    const { keys } = await server.call(api.orderRows, { params: { plan }, query: { filter: 'canoe' } });
    const { rows } = await server.call(api.pageRows, { params: { plan }, body: { keys } });
    const canoe = rows.find(({ text }) => text === 'canoe');
    await server.call(api.changeTypes, {
      params: { plan },
      body: { scope: { keywords: [canoe?.keyword ?? 0] }, change: { kind: 'set', types: 8 }, dry: false },
    });
    await built(server, plan);
    const before = (await rowsOf(plan, await look(plan, ACCOUNT), { kind: 'keyword' })).rows;
    expect(before.map(({ change, text }) => [change, text])).toEqual([
      ['added', 'canoe (broad)'],
      ['missing', 'canoe (exact)'],
    ]);
    await take(plan, await look(plan, ACCOUNT));
    const after = (await rowsOf(plan, await look(plan, ACCOUNT), { kind: 'keyword' })).rows;
    expect(after.map(({ change, text }) => [change, text])).toEqual([['missing', 'canoe (exact)']]);
  });

  test('campaigns are taken or left as a whole; columns that the profile has not are named', async () => {
    const plan = await planOf(server);
    await takeIn(server, plan, 'kayak\t900\n');
    await built(server, plan);
    const text = csv(
      ['campaign', 'Ad group', 'Keyword', 'Match type', 'Status', 'Score', 'Remarks'],
      ['North', 'Rafts', 'raft', 'Exact', 'Enabled', '7', 'x'],
      ['North', 'Rafts', 'big raft', 'Exact', 'Enabled', '7', 'x'],
      ['South', 'Dinghies', 'dinghy', 'Exact', 'Enabled', '7', 'x'],
    );
    const kept = await look(plan, [{ name: 'keywords.csv', text }], { by: 'plain' });
    const unknown = kept.files.flatMap(({ columns }) =>
      columns.flatMap(({ heading, value }) => (value === null ? [heading] : [])),
    );
    expect(unknown).toEqual(['Score', 'Remarks']);
    const campaigns = async () =>
      (
        await server.call(api.listReadBackCampaigns, { params: { plan, readBack: kept.id } })
      ).campaigns.filter(({ campaign }) => ['North', 'South'].includes(campaign));
    expect(await campaigns()).toEqual([
      { campaign: 'North', rows: 2, taken: 2 },
      { campaign: 'South', rows: 1, taken: 1 },
    ]);
    const params = { plan, readBack: kept.id };
    await server.call(api.chooseReadBackRows, { params, body: { campaign: 'North', taken: false } });
    expect((await campaigns()).map(({ taken }) => taken)).toEqual([0, 1]);
    expect((await rowsOf(plan, kept, { campaign: 'South' })).rows.map(({ text: said }) => said)).toEqual([
      'dinghy (exact)',
    ]);
    await take(plan, kept);
    const texts = await select<{ text: string }>(
      server.database,
      'select distinct text from keyword_rows where plan_id = $1 order by text',
      [plan],
    );
    expect(texts.map(({ text: said }) => said)).toEqual(['dinghy', 'kayak']);
  });

  test('an extra that is paused in one campaign is paused there alone', async () => {
    const plan = await planOf(server);
    await takeIn(server, plan, 'kayak\t900\n');
    await built(server, plan);
    const [campaign = ''] = (await server.call(api.readHeads, { params: { plan } })).campaignNames;
    await server.call(api.makeExtra, {
      params: { plan },
      body: { at: ['plan', 'c'], body: { kind: 'callout', text: 'Open every day' } },
    });
    await built(server, plan);
    const text = csv(
      ['Campaign', 'Ad group', 'Extra', 'Text', 'Line 1', 'Line 2', 'Final URL', 'Phone number', 'Status'],
      ['', '', 'Callout', 'Open every day', '', '', '', '', 'Enabled'],
      [campaign, '', 'Callout', 'Open every day', '', '', '', '', 'Paused'],
    );
    await take(plan, await look(plan, [{ name: 'extras.csv', text }]));
    const { extras } = await server.call(api.listExtras, { params: { plan } });
    expect(extras.map(({ at, status }) => [at, status])).toEqual([
      [['plan'], 'enabled'],
      [['c'], 'paused'],
    ]);
    // What was taken in says what the sheet says.
    const again = await rowsOf(plan, await look(plan, [{ name: 'extras.csv', text }]));
    expect(again.rows.filter(({ change }) => change !== 'missing')).toEqual([]);
  });

  test('where keywords lead is taken from sheets, new ones too; what is no address is told', async () => {
    const plan = await planOf(server);
    await takeIn(server, plan, 'kayak\t900\ncanoe\t300\n');
    await built(server, plan);
    const { campaignNames } = await server.call(api.readHeads, { params: { plan } });
    const row = (text: string, url: string) => [campaignNames[0] ?? '', text, text, 'Exact', url, 'Enabled'];
    const text = csv(
      ['Campaign', 'Ad group', 'Keyword', 'Match type', 'Final URL', 'Status'],
      row('kayak', ''),
      row('canoe', 'https://saltmarshpaddle.example/c'),
      row('raft', 'https://saltmarshpaddle.example/r'),
      row('dinghy', 'nowhere'),
    );
    const kept = await look(plan, [{ name: 'keywords.csv', text }]);
    expect((await take(plan, kept)).notes).toContainEqual({
      code: 'ad-address',
      count: 1,
      samples: ['nowhere'],
    });
    const held = await select<{ text: string; held_url: string }>(
      server.database,
      'select text, held_url from keyword_rows where plan_id = $1 and held_url is not null order by text',
      [plan],
    );
    expect(held).toEqual([
      { text: 'canoe', held_url: 'https://saltmarshpaddle.example/c' },
      { text: 'raft', held_url: 'https://saltmarshpaddle.example/r' },
    ]);
  });

  test('how ad groups match and take turns, and bids at partners, come back as they went', async () => {
    const plan = await planOfAccount();
    const params = { plan };
    const keyed = await select<{ key: string; name: string; row: string }>(
      server.database,
      `select g.key, g.name, r.key as row from ad_groups g join keyword_rows r on r.plan_id = g.plan_id and r.group_key = g.key
       where g.plan_id = $1 and r.text = 'sea kayak' and r.type = 3`,
      [plan],
    );
    const { key = '', row = '' } = keyed[0] ?? {};
    const held = async () =>
      (await server.call(api.listHolds, { params })).holds
        .flatMap(({ rowKey, field, value }) =>
          ['matching', 'rotation', 'bidPartners'].includes(field) ? [[rowKey, field, value]] : [],
        )
        .sort();
    const values = [
      [key, 'matching', 'close'],
      [key, 'rotation', 'even'],
      [row, 'bidPartners', 120_000],
    ] as const;
    await server.call(api.holdEach, { params, body: { values: values as never } });
    const wanted = await held();
    const quill = await sheetsOf(plan, 'quillmere');
    const plain = await sheetsOf(plan, 'plain');
    expect((await rowsOf(plan, await look(plan, quill))).rows).toEqual([]);
    await server.call(api.letGo, {
      params,
      body: { places: values.map(([rowKey, field]) => ({ rowKey, field })) },
    });
    await built(server, plan);
    expect(await held()).toEqual([]);
    await take(plan, await look(plan, quill));
    // Where it matched wide, the outlet had one row for all of the keyword's: all are meant.
    expect(await held()).toEqual(expect.arrayContaining(wanted.filter(([, field]) => field !== 'rotation')));
    await take(plan, await look(plan, plain));
    expect(await held()).toEqual(expect.arrayContaining(wanted));
  });

  test('a renamed ad group is known by the name by which it was shipped', async () => {
    const plan = await planOfAccount();
    const sheets = await sheetsOf(plan, 'plain');
    const { themes } = await server.call(api.readSort, { params: { plan } });
    const key = `t${themes.find(({ name }) => name === 'Kayaks')?.id}`;
    await server.call(api.holdValue, {
      params: { plan },
      body: { rowKey: key, field: 'name', value: 'Sea boats', before: null },
    });
    await built(server, plan);
    const { rows } = await rowsOf(plan, await look(plan, sheets));
    expect(rows).toEqual([]);
  });
});

describe('what can’t be read', () => {
  test('is told with its sheet, its line and its column; the rest is read', async () => {
    const plan = await planOf(server);
    const readBack = await look(plan, [
      {
        name: 'words.csv',
        text: csv(
          ['Campaign', 'Ad group', 'Keyword', 'Match type', 'Max CPC', 'Colour'],
          ['Boats', 'Kayaks', 'kayak', 'Sideways', '0.40', 'red'],
          ['Boats', 'Kayaks', 'sea kayak', 'Exact', 'lots', ''],
          ['', 'Kayaks', 'canoe', 'Exact', '0.40', ''],
          ['Boats', 'Kayaks', 'canoe', 'Exact', '0.40', ''],
          ['Boats', 'Kayaks', 'canoe', 'Exact', '0.45', ''],
        ),
      },
    ]);
    expect(readBack.problems.shown.map(({ file, line, code, column }) => [file, line, code, column])).toEqual(
      [
        ['words.csv', 2, 'match-type', 'Match type'],
        ['words.csv', 3, 'amount', 'Max CPC'],
        ['words.csv', 4, 'no-campaign', 'Campaign'],
      ],
    );
    expect(readBack.kinds.keyword).toMatchObject({ added: 1, same: 1 });
    expect(readBack.twice).toBe(1);
    expect(readBack.files[0]?.columns.at(-1)).toEqual({ heading: 'Colour', value: null });
  });

  test.each([
    ['an empty sheet', '', {}, /empty/],
    ['a sheet without rows', 'Campaign,Ad group,Keyword\n', {}, /no row below/],
    ['a sheet that names no campaign', 'Keyword,Max CPC\nkayak,0.40\n', {}, /no column “Campaign”/],
    ['an outlet that is none', 'Campaign,Ad group\nA,B\n', { by: 'nowhere' }, /not there/],
  ] as const)('%s is refused with what would help', async (_, text, more, words) => {
    const plan = await planOf(server);
    await expect(look(plan, [{ name: 'a.csv', text }], more)).rejects.toThrow(words);
  });

  test('texts that would be tokens, keywords that can’t be, ads of too many shapes: told, and the rest taken', async () => {
    const plan = await planOf(server);
    const { notes, taken } = await take(
      plan,
      await look(plan, [
        {
          name: 'k.csv',
          text: csv(
            ['Campaign', 'Ad group', 'Keyword', 'Match type'],
            ['Boats', 'Kayaks', 'kayak', 'Exact'],
            ['Boats', 'Kayaks', 'kayak!', 'Exact'],
            ['Boats', 'Canoes', 'kayak', 'Phrase'],
          ),
        },
        {
          name: 'ads.csv',
          text: csv(
            ['Campaign', 'Ad group', 'Ad form', 'Headline 1', 'Headline 2', 'Description 1', 'Final URL'],
            ['Boats', 'Kayaks', 'Plain', 'All @home', 'Saltmarsh', 'By the day', 'nowhere at all'],
          ),
        },
      ]),
    );
    expect(notes.map(({ code, count }) => [code, count]).sort()).toEqual([
      ['ad-address', 1],
      ['ad-token', 1],
      ['keyword-elsewhere', 1],
      ['keyword-refused', 1],
    ]);
    expect(taken).toMatchObject({ keywords: 1, ads: 1 });
  });

  test('sheets that were compared before the plan changed are to be compared again', async () => {
    const plan = await planOf(server);
    const readBack = await look(plan, ACCOUNT);
    await takeIn(server, plan, 'canoe\n');
    await expect(take(plan, readBack)).rejects.toThrow(/has changed since/);
    // They wait still.
    expect((await server.call(api.viewReadBack, { params: { plan } })).readBack?.id).toBe(readBack.id);
    await server.call(api.dropReadBack, { params: { plan, readBack: readBack.id } });
    expect((await server.call(api.viewReadBack, { params: { plan } })).readBack).toBeNull();
  });

  test('sheets of another plan are not to be had', async () => {
    const plan = await planOf(server);
    const other = await planOf(server);
    const readBack = await look(plan, ACCOUNT);
    await expect(rowsOf(other, readBack)).rejects.toThrow(/any more/);
    await expect(take(other, readBack)).rejects.toThrow(/any more/);
  });
});
