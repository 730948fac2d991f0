import * as api from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { bringReports } from '../../testing/reports.ts';
import { shipping } from '../../testing/shipping.ts';
import { built, followed, startTestServer, type TestServer } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, check, ship, textOf } = shipping(() => server);

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

  test('looks at what its people advise and check, needs conversions to bid by itself, and goes by its own clock', async () => {
    const plan = await shippable();
    const params = { plan };
    const { advised } = plainOutlet;
    const outlet = {
      ...own,
      key: 'strict',
      name: 'Strict',
      bids: { ...own.bids, conversions: 15 },
      advised: { ...advised, groupsPerCampaign: 3, sitelinks: 2 },
      checks: [
        {
          value: 'keyword',
          kind: 'keyword',
          is: 'with',
          text: 'Canoe',
          severity: 'blocker',
          words: 'No canoes.',
        },
      ],
      timeZone: 'Asia/Tokyo',
    };
    await server.call(api.keepOutlet, {
      params: { plan, outlet: 'strict' },
      body: { outlet: outlet as never, isNew: true },
    });
    await choose(plan, 'strict');
    const { facts } = await server.call(api.readFacts, { params });
    const edits = [
      { at: 'strategy', before: facts.strategy, after: 'most-conversions' },
      { at: 'schedule', before: facts.schedule, after: [{ days: ['mon'], from: 1_200, to: 1_440 }] },
    ];
    await server.call(api.editFacts, { params, body: { edits } });
    const found = async () =>
      new Map(
        (await check(plan)).findings.flatMap(({ rule, outlet: of, severity, count, samples }) =>
          of === 'strict' ? [[rule as string, { severity, count, text: samples[0]?.text ?? '' }]] : [],
        ),
      );
    const account = { outlet: 'strict', name: 'Strict', currency: 'GBP', timeZone: 'Asia/Tokyo' };
    const first = await found();
    expect(first.get('own-check-stops')).toEqual({
      severity: 'blocker',
      count: 2,
      text: 'No canoes. “canoe”',
    });
    expect(first.get('campaign-too-large')?.text).toBe('Kayaks: 4 ad groups, 3 are advised');
    expect(first.get('few-extras')?.text).toBe('Kayaks: 0 of 2 sitelinks');
    expect(first.get('few-conversions')?.text).toMatch(/no report tells .* 15 are needed/);
    for (const text of ['Prices', 'Hours'])
      await server.call(api.makeExtra, {
        params,
        body: {
          at: ['plan'],
          body: { kind: 'sitelink', text, line1: '', line2: '', address: 'https://saltmarshpaddle.example/' },
        },
      });
    await bringReports(server, plan, {
      account,
      text: 'Day,Campaign,Impressions,Clicks,Cost,Conversions\n2026-11-01,Kayaks,900,90,30.00,14\n2026-09-01,Kayaks,900,90,30.00,50\n',
    });
    const second = await found();
    expect(second.has('few-extras')).toBe(false);
    expect(second.get('few-conversions')?.text).toMatch(/14 conversions, 15 are needed/);
    await bringReports(server, plan, {
      account,
      text: 'Day,Campaign,Impressions,Clicks,Cost,Conversions\n2026-11-02,Kayaks,900,90,30.00,1\n',
    });
    expect((await found()).has('few-conversions')).toBe(false);
    // Without what stops it, it ships: Monday evening is Tuesday morning there.
    await server.call(api.keepOutlet, {
      params: { plan, outlet: 'strict' },
      body: { outlet: { ...outlet, checks: [] } as never, isNew: false },
    });
    const { sheetSet } = await ship(plan, 'strict', { sheets: ['campaigns'] });
    const [campaign] = parse(await textOf(plan, sheetSet, 'campaigns.csv'), { columns: true });
    expect(campaign).toMatchObject({ Schedule: 'Tue 5:00-9:00' });
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

describe('what ads are measured by', () => {
  const misfits = async (plan: number) => {
    await followed(server);
    await built(server, plan);
    return (await server.call(api.openPlan, { params: { plan } })).counts.misfits;
  };
  // 32 letters: as many as plain sheets take.
  const line = 'On the water every day of summer';

  async function planWith(...outlets: string[]): Promise<number> {
    const plan = await shippable();
    const { patterns } = await server.call(api.readPatterns, { params: { plan } });
    await server.call(api.editPattern, {
      params: { plan, pattern: 1 },
      body: {
        edits: [
          {
            at: 'fields.headline2.lines',
            before: patterns[0]?.body.fields.headline2.lines,
            after: [line],
          },
        ],
      },
    });
    for (const outlet of outlets) await choose(plan, outlet);
    return plan;
  }

  test('all outlets that the plan ships to: what one of them has no room for does not fit', async () => {
    const plan = await planWith();
    expect(await misfits(plan)).toBe(0);
    await choose(plan, 'quillmere');
    expect(await misfits(plan)).toBe(4);
    await choose(plan, 'quillmere', false);
    expect(await misfits(plan)).toBe(0);
    const { keys } = await server.call(api.orderAds, {
      params: { plan },
      query: { filter: '', sort: 'searches', down: 'true', only: 'all', pattern: 0 } as never,
    });
    const { ads } = await server.call(api.pageAds, { params: { plan }, body: { keys } });
    expect(ads[0]?.texts.headline2).toBe('On the Water Every Day of Summer');
  });

  test('an outlet that is changed in one plan, or changed back, is what others that ship to it are measured by', async () => {
    const key = 'shared-form';
    const roomy = { ...structuredClone(plainOutlet), key, name: 'Shared form' };
    const plan = await planWith();
    const keep = (outlet: typeof roomy, isNew: boolean) =>
      server.call(api.keepOutlet, { params: { plan, outlet: key }, body: { outlet, isNew } });
    await keep(roomy, true);
    const other = await planWith(key);
    expect(await misfits(other)).toBe(0);
    const plain = roomy.ad.plain as NonNullable<typeof roomy.ad.plain>;
    await keep(
      { ...roomy, ad: { ...roomy.ad, plain: { ...plain, headlines: { ...plain.headlines, limit: 31 } } } },
      false,
    );
    expect(await misfits(other)).toBe(4);
    expect(await misfits(plan)).toBe(0);
    await server.call(api.undoChange, { params: { plan }, body: {} });
    expect(await misfits(other)).toBe(0);
    const { changes } = await server.call(api.planHistory, { params: { plan: other } });
    expect(changes[0]).toMatchObject({ label: 'The outlet Shared form was changed' });
  });
});
