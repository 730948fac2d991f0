import * as api from '@sprig/contracts';
import { countedFigures, resultFigures } from '@sprig/core/learn';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { type ReportFile, readReports } from '../../testing/reports.ts';
import {
  built,
  planOf,
  Refused,
  startTestServer,
  succeeded,
  type TestServer,
  takeIn,
  upload,
} from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** Reads reports and answers what waits of them, in their order. */
async function read(plan: number, ...files: ReportFile[]): Promise<api.ReportReading[]> {
  const readings = await readReports(server, plan, files);
  const { readings: all } = await server.call(api.listReports, { params: { plan } });
  return readings.map((id) => all.find((one) => one.id === id) as api.ReportReading);
}
const take = (plan: number, readings: readonly api.ReportReading[], isWhole = false) =>
  server.call(api.takeReports, {
    params: { plan },
    body: { readings: readings.map(({ id }) => id), isWhole },
  });
/** Reads a report and takes it in. */
const bring = async (plan: number, text: string, rest: Partial<ReportFile> = {}) =>
  take(plan, await read(plan, { text, ...rest }));

const figure = (name: (typeof resultFigures)[number], figures: readonly (number | null)[]) =>
  figures[resultFigures.indexOf(name)] ?? null;

async function look(plan: number, asked: Partial<api.Look> = {}) {
  const body = { ...api.usualLook(), ...asked };
  const answer = await server.call(api.readLook, { params: { plan }, body });
  const { rows } = await server.call(api.readLookRows, {
    params: { plan },
    body: { look: body, rows: answer.order },
  });
  return { answer, rows };
}
/** The names of rows with one of their figures, in order. */
const told = async (
  plan: number,
  asked: Partial<api.Look>,
  name: (typeof resultFigures)[number] = 'clicks',
) => (await look(plan, asked)).rows.map(({ names, figures }) => [names[0], figure(name, figures)]);

const HEAD = 'Day,Campaign,Ad group,Keyword,Match type,Impressions,Clicks,Cost,Conversions,Position\n';
const M = 1_000_000;

/** A plan with two keywords, each with its ad group, and the names of what was built. */
async function teas() {
  const plan = await planOf(server, 'Teas');
  await takeIn(server, plan, 'teapot\t900\t0.60\ngreen tea\t400\t0.30\n');
  await built(server, plan);
  const { keys, names, campaigns, campaignNames } = await server.call(api.readHeads, { params: { plan } });
  const at = (keyword: string) => names.findIndex((name) => name.includes(keyword));
  const campaign = campaignNames[campaigns[0] ?? 0] ?? '';
  return { plan, campaign, pot: names[at('teapot')] ?? '', tea: names[at('green')] ?? '', keys };
}

describe('a report', () => {
  test('is read, met, and shown before it is taken in', async () => {
    const { plan, campaign, pot } = await teas();
    const text = `${HEAD}2026-11-01,${campaign},${pot},teapot,Exact,100,10,£4.00,1.5,2.5
2026-11-02,${campaign},${pot},teapot,Exact,90,9,£3.10,-0.5,3
2026-11-02,Somewhere else,x,kettle,Broad,40,4,£9.00,0,1
2026-11-02,${campaign},${pot},tea urn,Broad,10,11,£1.00,0,1
`;
    const [reading] = await read(plan, { text });
    expect(reading).toMatchObject({
      grain: 'keyword/day',
      rows: 4,
      range: { from: '2026-11-01', to: '2026-11-02' },
      times: 2,
      campaigns: 2,
      currency: 'GBP',
      account: { outlet: null, currency: 'GBP', timeZone: 'UTC' },
      totals: { impressions: 240, clicks: 34, cost: 17.1 * M, conversions: 1 * M, value: null },
      unlikely: { count: 1, shown: [5] },
      met: 2,
      replaces: { rows: 0, added: 4, gone: 0, changed: 0 },
    });
    expect(reading?.notMet).toEqual([
      { campaign: 'Somewhere else', why: 'campaign', rows: 1, clicks: 4, cost: 9 * M, samples: ['kettle'] },
      { campaign, why: 'keyword', rows: 1, clicks: 11, cost: 1 * M, samples: ['tea urn'] },
    ]);
    const nothing = await look(plan);
    expect(nothing.answer).toMatchObject({ why: { none: 'reports' }, order: [] });

    expect(await take(plan, reading ? [reading] : [])).toMatchObject({ taken: 1, same: 0 });
    const { imports, readings } = await server.call(api.listReports, { params: { plan } });
    expect(imports).toMatchObject([
      { name: 'report.csv', grain: 'keyword/day', rows: 4, cost: 17.1 * M, stands: { some: 4, of: 4 } },
    ]);
    expect(readings).toEqual([]);
    expect(await told(plan, { by: 'campaign' }, 'cost')).toEqual([
      ['Somewhere else', 9 * M],
      [campaign, 8.1 * M],
    ]);
  });

  test('that was taken in twice changes nothing, and one that was taken back is gone', async () => {
    const { plan, campaign, pot } = await teas();
    const text = `${HEAD}2026-11-01,${campaign},${pot},teapot,Exact,100,10,4.00,1,2\n`;
    const { revision } = await bring(plan, text);
    const [again] = await read(plan, { text });
    expect(again?.replaces).toMatchObject({ rows: 1, added: 0, gone: 0, changed: 0 });
    expect(again?.remembered).toBe(true);
    expect(await take(plan, again ? [again] : [])).toEqual({ revision, taken: 0, same: 1 });

    const changed = await read(plan, { text: text.replace(',10,', ',12,') });
    expect(changed[0]?.replaces).toMatchObject({ rows: 1, added: 0, gone: 0, changed: 1 });
    await take(plan, changed);
    expect(await told(plan, {})).toEqual([[campaign, 12]]);
    await server.call(api.undoChange, { params: { plan }, body: { force: false } });
    expect(await told(plan, {})).toEqual([[campaign, 10]]);
    await server.call(api.redoChange, { params: { plan }, body: { force: false } });
    expect(await told(plan, {})).toEqual([[campaign, 12]]);
    const { imports } = await server.call(api.listReports, { params: { plan } });
    expect(imports.map(({ stands }) => stands)).toEqual([
      { some: 1, of: 1 },
      { some: 0, of: 1 },
    ]);
    for (const { id } of imports) await server.call(api.takeReportBack, { params: { plan, import: id } });
    expect((await look(plan)).answer.why).toEqual({ none: 'reports' });
    await server.call(api.undoChange, { params: { plan }, body: { force: false } });
    expect(await told(plan, {})).toEqual([[campaign, 10]]);
  });

  test('replaces the days and campaigns that it names, and all others only as the whole account', async () => {
    const plan = await planOf(server);
    const head = 'Day,Campaign,Clicks,Impressions\n';
    await bring(plan, `${head}2026-11-01,A,1,10\n2026-11-01,B,2,10\n2026-11-02,A,3,10\n2026-11-02,B,4,10\n`);
    await bring(plan, `${head}2026-11-02,A,30,100\n2026-11-03,A,5,50\n`);
    expect((await told(plan, { by: 'campaign' })).sort()).toEqual([
      ['A', 36],
      ['B', 6],
    ]);
    const whole = await read(plan, { text: `${head}2026-11-02,A,7,70\n` });
    expect(whole[0]).toMatchObject({
      replaces: { rows: 1, gone: 0, changed: 2 },
      replacesWhole: { rows: 2, gone: 1, changed: 2, campaigns: 2 },
    });
    await take(plan, whole, true);
    expect((await told(plan, { by: 'campaign' })).sort()).toEqual([
      ['A', 13],
      ['B', 2],
    ]);
    expect((await told(plan, { by: 'day' })).sort()).toEqual([
      ['2026-11-01', 3],
      ['2026-11-02', 7],
      ['2026-11-03', 5],
    ]);
  });

  test('in an order that does not matter where days are disjoint', async () => {
    const parts = ['2026-11-01,A,1,10\n', '2026-11-02,A,2,10\n2026-11-02,B,9,90\n', '2026-11-03,B,4,10\n'];
    const seen = [];
    for (const order of [
      [0, 1, 2],
      [2, 0, 1],
    ]) {
      const plan = await planOf(server);
      for (const at of order) await bring(plan, `Day,Campaign,Clicks,Impressions\n${parts[at]}`);
      const { answer, rows } = await look(plan, { by: 'campaign', sort: 'clicks' });
      seen.push([answer.totals, answer.days, rows.map(({ names, figures }) => [names, figures])]);
    }
    expect(seen[0]).toEqual(seen[1]);
  });

  test('of another grain is never added, and what it leaves out is told', async () => {
    const plan = await planOf(server);
    await bring(plan, 'Day,Campaign,Clicks,Impressions,Cost\n2026-11-01,A,10,100,5.00\n');
    await bring(
      plan,
      'Day,Campaign,Ad group,Search term,Clicks,Impressions,Cost\n2026-11-01,A,g,tea,7,60,3.00\n',
    );
    const { answer } = await look(plan, { by: 'term' });
    expect(answer).toMatchObject({ grain: 'term/day', why: null });
    expect(figure('clicks', answer.totals)).toBe(7);
    expect(answer.notBrokenDown).toEqual([40, 3, 2 * M, null, null]);
    expect((await look(plan, { by: 'campaign' })).answer).toMatchObject({ grain: 'campaign/day' });
    expect(await told(plan, { by: 'campaign' })).toEqual([['A', 10]]);
    expect((await look(plan, { by: 'device' })).answer.why).toEqual({
      none: 'dimension',
      missing: ['device'],
    });
  });

  test('of two accounts: each is looked at by itself', async () => {
    const plan = await planOf(server);
    const account = { outlet: null, name: 'Spring', currency: 'EUR', timeZone: 'UTC' };
    await bring(plan, 'Day,Campaign,Cost,Clicks\n2026-11-01,A,£5.00,1\n');
    await bring(plan, 'Day,Campaign,Cost,Clicks\n2026-11-02,A,€7.00,2\n', { account });
    const { accounts, imports } = await server.call(api.listReports, { params: { plan } });
    expect(imports.map((one) => one.account.currency)).toEqual(['EUR', 'GBP']);
    expect(accounts.filter(({ name }) => name === 'Spring')).toEqual([account]);
    expect((await look(plan)).answer).toMatchObject({ account: { currency: 'EUR' } });
    for (const one of imports)
      expect(await told(plan, { account: api.accountCode(one.account) }, 'cost')).toEqual([['A', one.cost]]);
  });

  describe('with rows of several accounts', () => {
    const text = `Day,Account name,Campaign,Cost,Clicks
2026-11-01,Spring,A,£5.00,1
2026-11-01,Autumn,A,€7.00,2
2026-11-02,SPRING,A,£6.00,3
`;

    test('is read once for each, in its own currency, and taken in as of each', async () => {
      const plan = await planOf(server);
      const readings = await read(plan, { text });
      expect(
        readings.map(({ account, currency, totals, rows }) => [
          account.name,
          account.currency,
          currency,
          totals.cost,
          rows,
        ]),
      ).toEqual([
        ['Spring', 'GBP', 'GBP', 11 * M, 2],
        ['Autumn', 'EUR', 'EUR', 7 * M, 1],
      ]);
      expect(await take(plan, readings)).toMatchObject({ taken: 2 });
      for (const { account, totals } of readings)
        expect(await told(plan, { account: api.accountCode(account) }, 'cost')).toEqual([['A', totals.cost]]);
    });

    test('goes to the accounts that such rows were said to be of before', async () => {
      const plan = await planOf(server);
      const [spring, autumn] = await read(plan, { text });
      const account = { outlet: null, name: 'North', currency: 'EUR', timeZone: 'UTC' };
      const choices = autumn?.choices ?? {};
      const renamed = await read(plan, { text, again: autumn?.id ?? null, account, choices });
      expect(renamed).toMatchObject([{ account, rows: 1 }]);
      await take(plan, [spring, ...renamed] as api.ReportReading[]);
      const later = await read(plan, { text: text.replaceAll('2026-11', '2026-12') });
      expect(later.map((one) => one.account.name)).toEqual(['Spring', 'North']);
      // One account alone is not taken for any of them.
      const [alone] = await read(plan, {
        text: 'Day,Account name,Campaign,Cost,Clicks\n2026-11-01,Summer,A,£5.00,1\n',
      });
      expect(alone?.choices.ofAccount).toBeUndefined();
      expect(alone?.account.name).not.toBe('North');
      expect(await take(plan, later)).toMatchObject({ taken: 2 });
    });

    test('needs its column of accounts, once it is read by it', async () => {
      const plan = await planOf(server);
      const [spring] = await read(plan, { text });
      const roles = (spring?.layout.roles ?? []).map((role) => (role === 'account' ? 'skip' : role));
      await expect(
        read(plan, { text, again: spring?.id ?? null, choices: { ...spring?.choices, roles } }),
      ).rejects.toThrow(/only the rows of Spring are read: one of its columns has to tell the account/);
    });

    test.each([
      [api.MOST_ACCOUNTS, api.MOST_ACCOUNTS],
      [api.MOST_ACCOUNTS + 1, 'names more than 20 accounts'],
    ])('of %i: %s', async (accounts, found) => {
      const plan = await planOf(server);
      const rows = Array.from({ length: accounts }, (_, at) => `2026-11-01,Account ${at},A,1\n`);
      const reading = read(plan, { text: `Day,Account,Campaign,Clicks\n${rows.join('')}` });
      if (typeof found === 'number') expect(await reading).toHaveLength(found);
      else await expect(reading).rejects.toThrow(found);
    });
  });

  test('in another currency than its account is not taken in, until the account is the one that it is of', async () => {
    const plan = await planOf(server);
    const text = 'Day,Campaign,Cost,Clicks\n2026-11-01,A,$5.00,1\n';
    const account = { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' };
    const [wrong] = await read(plan, { text, account });
    expect(wrong).toMatchObject({ currency: 'USD', account: { currency: 'GBP' } });
    await expect(take(plan, wrong ? [wrong] : [])).rejects.toThrow(/are in USD, and the account is in GBP/);
    const right = await read(plan, {
      text,
      again: wrong?.id ?? null,
      account: { ...account, currency: 'USD' },
    });
    expect(await take(plan, right)).toMatchObject({ taken: 1 });
  });

  test('of an outlet is known by its headings and words, whatever account it is said to be of', async () => {
    const plan = await planOf(server);
    const text = 'On;Drive;Cluster;Keyword;Views;Visits;Outlay\n01.11.2026;A;g;[tea];100;4;1,50\n';
    const [reading] = await read(plan, { text });
    expect(reading).toMatchObject({
      account: { outlet: 'harrowlight', name: 'Harrowlight' },
      grain: 'keyword/day',
      totals: { impressions: 100, clicks: 4, cost: 1.5 * M },
    });
    const account = { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' };
    const [other] = await read(plan, { text, again: reading?.id ?? null, account });
    expect(other).toMatchObject({ account, rows: 1, totals: { cost: 1.5 * M } });
  });

  test('under the trade’s headings may have amounts of either form: what stays open is asked', async () => {
    const plan = await planOf(server);
    const text = 'Day;Campaign;Clicks;Cost\n2026-11-01;A;4;1.300\n2026-11-02;A;4;2.400\n';
    const [open] = await read(plan, { text });
    expect(open?.layout.open).toEqual(['decimal']);
    const [comma] = await read(plan, { text, again: open?.id ?? null, choices: { decimal: ',' } });
    expect(comma).toMatchObject({ layout: { open: [] }, totals: { cost: 3_700 * M } });
  });

  test('of ranges that overlap by half is kept apart from the other, and not added', async () => {
    const plan = await planOf(server);
    const range = (from: string, to: string, clicks: number) =>
      `From,To,Campaign,Clicks,Impressions\n${from},${to},A,${clicks},100\n`;
    await bring(plan, range('2026-11-01', '2026-11-14', 10));
    await bring(plan, range('2026-11-08', '2026-11-21', 20));
    await bring(plan, range('2026-11-15', '2026-11-20', 5));
    const { answer, rows } = await look(plan, { range: { from: '2026-11-01', to: '2026-11-21' } });
    expect(answer).toMatchObject({ grain: 'campaign/range', days: { least: 20, most: 20, of: 21 } });
    expect(rows.map(({ figures }) => figure('clicks', figures))).toEqual([15]);
    expect((await look(plan, { by: 'day' })).answer.why).toEqual({ none: 'days' });
  });

  test('is asked for what can be read in two ways, and is read again with the answer', async () => {
    const plan = await planOf(server);
    const text = 'Date,Campaign,Clicks\n03/04/2026,A,5\n04/04/2026,A,6\n';
    const [open] = await read(plan, { text });
    expect(open).toMatchObject({ layout: { open: ['day-order'] }, rows: 0 });
    await expect(take(plan, open ? [open] : [])).rejects.toThrow(/two ways/);
    const [said] = await read(plan, { text, again: open?.id ?? null, choices: { dayOrder: 'month-first' } });
    expect(said).toMatchObject({ range: { from: '2026-03-04', to: '2026-04-04' }, rows: 2 });
    expect((await server.call(api.listReports, { params: { plan } })).readings).toHaveLength(1);
    const [ranged] = await read(plan, { text: 'Campaign,Clicks\nA,5\n' });
    expect(ranged?.layout.open).toEqual(['range']);
    const choices = { range: { from: '2026-03-01', to: '2026-03-31' } };
    const [now] = await read(plan, { text: 'Campaign,Clicks\nA,5\n', again: ranged?.id ?? null, choices });
    expect(now).toMatchObject({ grain: 'campaign/range', range: choices.range });
    await server.call(api.dropReport, { params: { plan, reading: now?.id ?? '' } });
    expect((await server.call(api.listReports, { params: { plan } })).readings.map(({ id }) => id)).toEqual([
      said?.id,
    ]);
  });

  test.each([
    ['a list of keywords', 'Keyword,Searches\nteapot,5\n', /no report of results/],
    ['nothing', '\n', /no report of results/],
  ])('%s is refused in words', async (_, text, words) => {
    const plan = await planOf(server);
    const { job } = await server.call(api.startReports, {
      params: { plan },
      body: { files: [{ upload: await upload(server, plan, text), name: 'x.csv' }] },
    });
    await expect(succeeded(server, plan, job)).rejects.toThrow(words);
  });

  test('cut off in the middle, with odd rows, or in another encoding: what can’t be read is told with its line', async () => {
    const plan = await planOf(server);
    const cut = await read(plan, {
      text: 'Day,Campaign,Clicks,Cost,CTR,Impressions\n2026-11-01,A,5,1.00,9%,100\n2026-11-01,B,x,2.00,,50\n2026-11-0',
    });
    expect(cut[0]?.problems.shown.map(({ line, code }) => [line, code])).toEqual([
      [3, 'figure'],
      [4, 'day'],
    ]);
    expect(cut[0]?.otherwise.shown).toEqual([{ line: 2, column: 'CTR', told: 0.09, worked: 0.05 }]);
    const wide = `${'\ufeff'}Tag\tKampagne\tKlicks\tKosten\n01.11.2026\tTee für zwei\t1.204\t8,50\n`;
    const [other] = await read(plan, { text: new Uint8Array(Buffer.from(wide, 'utf16le')) });
    expect(other).toMatchObject({ totals: { clicks: 1_204, cost: 8.5 * M }, problems: { count: 0 } });
  });

  test('of another workspace’s plan, or of another plan, is not there', async () => {
    const [plan, other] = [await planOf(server), await planOf(server)];
    const [reading] = await read(plan, { text: 'Day,Campaign,Clicks\n2026-11-01,A,5\n' });
    await expect(take(other, reading ? [reading] : [])).rejects.toThrow(Refused);
    await bring(plan, 'Day,Campaign,Clicks\n2026-11-01,A,5\n');
    const { imports } = await server.call(api.listReports, { params: { plan } });
    await expect(
      server.call(api.takeReportBack, { params: { plan: other, import: imports[0]?.id ?? 0 } }),
    ).rejects.toThrow(Refused);
    expect((await look(other)).answer.why).toEqual({ none: 'reports' });
  });
});

describe('results beside what they are of', () => {
  const results = (plan: number, by: api.ResultsBy, keys: readonly string[]) =>
    server.call(api.readResults, { params: { plan }, body: { by, keys: [...keys] } });

  test('of keywords in all their match types, of rows, ad groups and themes with all that is below them', async () => {
    const { plan, campaign, pot, tea } = await teas();
    const bare = await results(plan, 'keyword', ['1']);
    expect(bare).toEqual({
      about: { account: null, range: null, grain: null, why: { none: 'reports' } },
      rows: [],
    });
    const rows = (group: string, text: string, type: string, clicks: number) =>
      `2026-11-01,${campaign},${group},${text},${type},100,${clicks},${clicks}.00,1,2\n`;
    await bring(
      plan,
      `${HEAD}${rows(pot, 'teapot', 'Exact', 4)}${rows(pot, 'teapot', 'Phrase', 6)}${rows(tea, 'green tea', 'Exact', 3)}${rows('Gone', 'kettle', 'Exact', 9)}`,
    );
    const { keys: groups } = await server.call(api.orderGroups, {
      params: { plan },
      query: { filter: '', sort: 'name', down: 'false', only: 'all', campaign: '', label: '' },
    });
    const { keys } = await server.call(api.orderRows, {
      params: { plan },
      query: { filter: 'teapot', sort: 'text', down: 'false', only: 'all', types: 15, campaign: '' },
    });
    const clicks = (found: Awaited<ReturnType<typeof results>>) =>
      found.rows.map(({ figures }) => figure('clicks', figures)).sort();
    expect(clicks(await results(plan, 'row', keys))).toEqual([4, 6]);
    const ofGroups = await results(plan, 'group', groups);
    expect(clicks(ofGroups)).toEqual([10, 3]);
    expect(ofGroups.about).toMatchObject({
      account: { currency: 'GBP' },
      range: { from: '2026-11-01', to: '2026-11-01' },
      grain: 'keyword/day',
      why: null,
    });
    const { ids, values } = await server.call(api.readResultColumn, {
      params: { plan },
      query: { figure: 'clicks' },
    });
    expect([...values].sort()).toEqual([10, 3]);
    expect(clicks(await results(plan, 'keyword', ids.map(String)))).toEqual([10, 3]);
    const costs = await server.call(api.readResultColumn, { params: { plan }, query: { figure: 'cpc' } });
    expect(costs.values).toEqual([M, M]);

    const {
      ids: [above = 0, below = 0],
    } = await server.call(api.makeThemes, {
      params: { plan },
      body: {
        parent: null,
        themes: [api.newThemeOf('Wares', null), api.newThemeOf('Pots', { has: [['teapot']], not: [] }, 0)],
      },
    });
    await built(server, plan);
    const themes = await results(plan, 'theme', [String(above), String(below), '999']);
    expect(themes.rows.map(({ key, figures }) => [key, figure('clicks', figures)])).toEqual([
      [String(above), 10],
      [String(below), 10],
    ]);
    expect((await results(plan, 'ad', ['x'])).about.why).toEqual({ none: 'dimension', missing: ['ad'] });
  });
});

test('budgets that ran out, with what was missed, and the month against its pace', async () => {
  const { plan, campaign } = await teas();
  const head = 'Day,Campaign,Impressions,Clicks,Cost,Share of impressions,Lost to budget\n';
  expect(
    (await server.call(api.readBudgets, { params: { plan }, body: { account: null, range: null } })).why,
  ).toEqual({ none: 'reports' });
  await bring(
    plan,
    `${head}2026-10-31,${campaign},100,10,4.00,100%,0%
2026-11-01,${campaign},80,8,5.00,80%,20%
2026-11-02,${campaign},90,9,3.00,98%,2%
2026-11-02,Elsewhere,10,1,2.00,50%,50%
`,
  );
  const { rows, month, inCurrency } = await server.call(api.readBudgets, {
    params: { plan },
    body: { account: null, range: null },
  });
  expect(inCurrency).toBe(true);
  expect(month).toEqual({ from: '2026-11-01', to: '2026-11-02', days: 30 });
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  expect(rows).toEqual([
    {
      name: campaign,
      key: expect.stringMatching(/^c/),
      budget: layout.dailyBudget,
      told: 3,
      out: 1,
      last: '2026-11-01',
      cost: 12 * M,
      missed: { impressions: 20, clicks: 2 },
      month: 8 * M,
    },
    expect.objectContaining({ name: 'Elsewhere', key: null, budget: null, out: 1, month: 2 * M }),
  ]);
  const days = (asked: Partial<api.Look>) =>
    server.call(api.readLookDays, { params: { plan }, body: { look: { ...api.usualLook(), ...asked } } });
  // Of one of them no budget is known.
  expect((await days({})).budget).toBeNull();
  const names: api.Look['names'] = [{ by: 'campaign', is: campaign }];
  expect((await days({ names })).budget).toEqual({
    daily: layout.dailyBudget,
    spent: 8 * M,
    from: '2026-11-01',
    to: '2026-11-02',
    days: 30,
  });
  await bring(plan, 'Day,Campaign,Clicks,Cost\n2026-11-05,X,1,€2.00\n', {
    account: { outlet: null, name: 'Other', currency: 'EUR', timeZone: 'UTC' },
  });
  const other = await server.call(api.readBudgets, {
    params: { plan },
    body: { account: null, range: null },
  });
  expect(other).toMatchObject({ inCurrency: false, rows: [{ name: 'X', budget: null, out: 0 }] });
});

describe('what happened', () => {
  test('days on which the plan was changed are marked, by the account’s clock', async () => {
    const { plan } = await teas();
    const today = new Date().toISOString().slice(0, 10);
    const account = { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' };
    await bring(plan, `Day,Campaign,Clicks\n${today},A,5\n2026-01-02,A,4\n`, { account });
    const ask = async (range: api.Days) =>
      (
        await server.call(api.readLookDays, {
          params: { plan },
          body: { look: { ...api.usualLook(), range } },
        })
      ).marks;
    const [mark] = await ask({ from: today, to: today });
    expect(mark?.day).toBe(today);
    expect(mark?.labels).toContain('Take in the report report.csv');
    expect(mark?.labels).toHaveLength(Math.min(4, mark?.count ?? 0));
    expect(await ask({ from: '2026-01-01', to: '2026-01-31' })).toEqual([]);
  });

  test('is told apart by what was so when it was shipped, and by what is so today', async () => {
    const { plan, campaign, pot, tea } = await teas();
    await bring(
      plan,
      `${HEAD}2026-11-01,${campaign},${pot},teapot,Exact,100,10,4.00,1,2
2026-11-01,${campaign},${pot},teapot,Phrase,100,2,1.00,0,4
2026-11-02,${campaign},${tea},green tea,Exact,50,5,2.00,1,1
2026-11-08,${campaign},${tea},green tea,Exact,60,8,2.50,0,1
`,
    );
    expect(await told(plan, { by: 'keyword', sort: 'clicks' })).toEqual([
      ['green tea', 13],
      ['teapot', 10],
      ['teapot', 2],
    ]);
    expect(await told(plan, { by: 'match', sort: 'clicks' })).toEqual([
      ['exact', 23],
      ['phrase', 2],
    ]);
    expect(await told(plan, { by: 'weekday', sort: 'clicks' })).toEqual([
      ['7', 20],
      ['1', 5],
    ]);
    expect(await told(plan, { by: 'source' })).toEqual([['List', 25]]);
    expect(await told(plan, { by: 'brand' })).toEqual([['No brand', 25]]);
    // Positions by impressions, and never by means of means.
    expect(await told(plan, { by: 'group', sort: 'clicks' }, 'position')).toEqual([
      [tea, 1],
      [pot, 3],
    ]);
    expect(
      await told(plan, { by: 'keyword', figures: [{ figure: 'position', is: 'over', than: 1.5 }] }),
    ).toEqual([
      ['teapot', 10],
      ['teapot', 2],
    ]);
    expect(
      await told(plan, { by: 'keyword', names: [{ by: 'match', is: 'EXACT' }], sort: 'clicks' }),
    ).toEqual([
      ['green tea', 13],
      ['teapot', 10],
    ]);
    const { answer } = await look(plan, { by: 'keyword' });
    for (const by of ['campaign', 'group', 'match', 'source', 'day', 'weekday', 'theme', 'label'] as const) {
      const other = (await look(plan, { by })).answer;
      for (const name of countedFigures)
        expect([by, name, figure(name, other.totals)]).toEqual([by, name, figure(name, answer.totals)]);
    }
    const { names } = await server.call(api.readLookNames, {
      params: { plan },
      body: { by: 'keyword', like: 'tea' },
    });
    expect(names).toEqual(['teapot', 'green tea']);
  });

  test('against the days before, by day, and as points', async () => {
    const plan = await planOf(server);
    await bring(
      plan,
      `Day,Campaign,Keyword,Clicks,Impressions,Cost,Position\n2026-11-01,A,tea,1,10,1.00,2\n2026-11-02,A,tea,2,10,2.00,2\n2026-11-03,A,tea,3,10,3.00,2
2026-11-03,A,pot,1,100,9.00,4\n2026-11-04,A,tea,4,10,4.00,1\n`,
    );
    const range = { from: '2026-11-03', to: '2026-11-04' };
    const { answer, rows } = await look(plan, { by: 'keyword', range, sort: 'clicks' });
    expect(answer).toMatchObject({
      against: { from: '2026-11-01', to: '2026-11-02' },
      days: { least: 2, most: 2, of: 2 },
    });
    expect(
      rows.map(({ names, figures, before }) => [
        names[0],
        figure('clicks', figures),
        before && figure('clicks', before),
      ]),
    ).toEqual([
      ['tea', 7, 3],
      ['pot', 1, null],
    ]);
    const body = { look: { ...api.usualLook(), by: 'keyword' as const, range } };
    const { days } = await server.call(api.readLookDays, { params: { plan }, body });
    expect(days.map(({ day, figures }) => [day, figure('cost', figures)])).toEqual([
      ['2026-11-03', 12 * M],
      ['2026-11-04', 4 * M],
    ]);
    const points = await server.call(api.readLookPoints, {
      params: { plan },
      body: { ...body, x: 'position', y: 'ctr', size: 'cost' },
    });
    expect(points).toMatchObject({ names: ['pot', 'tea'], x: [4, 1.5], y: [0.01, 0.35], of: 2 });
  });
});
