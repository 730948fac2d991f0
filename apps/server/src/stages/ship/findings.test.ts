import * as api from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { parse } from 'csv-parse/sync';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { execute, select } from '../../db/connect.ts';
import { brief } from '../../testing/full-plan.ts';
import { LIST, shipping } from '../../testing/shipping.ts';
import { built, planOf, startTestServer, type TestServer, takeIn } from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, check, ship, textOf } = shipping(() => server);

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
        'no-extras',
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

  test('a copy of which all own keywords are cut is told, and can be removed; so is a copy of what is gone', async () => {
    const plan = await shippable();
    const params = { plan };
    const groups = await select<{ key: string; keyword: string; keyword_id: number }>(
      server.database,
      'select key, keyword, keyword_id from ad_groups where plan_id = $1 order by keyword',
      [plan],
    );
    const [canoe, hire] = groups;
    const copy = async (of: string, name: string) =>
      (await server.call(api.copyBuilt, { params, body: { of, name, ads: false } })).key;
    const own = await copy(canoe?.key ?? '', 'Canoes again');
    await built(server, plan);
    await server.call(api.editCopy, { params, body: { key: own, own: ['kayak hire'] } });
    await copy(canoe?.key ?? '', 'Canoes once more');
    expect(rulesOf(await check(plan))).not.toContain('copy-not-made');
    const cut = (id: number, is: boolean) =>
      server.call(api.setCut, { params, body: { ids: [id], cut: is } });
    await cut(hire?.keyword_id ?? 0, true);
    const found = async () => (await check(plan)).findings.find(({ rule }) => rule === 'copy-not-made');
    expect(await found()).toMatchObject({
      count: 1,
      severity: 'warning',
      samples: [{ text: 'Canoes again' }],
    });
    await cut(canoe?.keyword_id ?? 0, true);
    expect(await found()).toMatchObject({ count: 2 });
    await cut(canoe?.keyword_id ?? 0, false);
    await built(server, plan);
    const fix = { rule: 'copy-not-made' as const, outlet: null };
    expect(await server.call(api.previewFix, { params, body: fix })).toMatchObject({
      words: 'Remove the copy',
      changes: [{ of: 'Canoes again' }],
    });
    await server.call(api.applyFix, { params, body: fix });
    expect(await found()).toBeUndefined();
    await server.call(api.undoChange, { params, body: {} });
    expect(await found()).toMatchObject({ count: 1 });
  });

  test('a finding is listed in full, of the plan, of its ad groups, and of an outlet', async () => {
    const list = Array.from({ length: 12 }, (_, n) => `boat${n} hire\t${100 - n}\n`).join('');
    const plan = await shippable(list);
    await choose(plan, 'harrowlight', true, ['phone']);
    const view = await check(plan);
    const full = async (rule: string, outlet = '', from = 0) =>
      server.call(api.listFinding, {
        params: { plan },
        query: { rule: rule as never, outlet, from },
      });
    const bare = view.findings.find(({ rule }) => rule === 'group-without-negatives');
    expect([bare?.count, bare?.samples.length]).toEqual([12, 5]);
    const all = await full('group-without-negatives');
    expect([all.total, new Set(all.rows.map(({ key }) => key)).size]).toEqual([12, 12]);
    expect((await full('group-without-negatives', '', 10)).rows).toEqual(all.rows.slice(10));
    for (const outlet of ['plain', 'harrowlight']) {
      const few = view.findings.find((one) => one.rule === 'few-ads' && one.outlet === outlet);
      expect([few?.count, few?.samples.length]).toEqual([12, 5]);
      const { rows } = await full('few-ads', outlet);
      expect(rows.map(({ text }) => text).sort()).toEqual(
        Array.from({ length: 12 }, (_, n) => `boat${n} hire`).sort(),
      );
    }
    expect(await full('rival-in-keyword')).toEqual({ total: 0, rows: [] });
  });

  test('a campaign that bids for a target needs one, and its sheet tells it', async () => {
    const plan = await shippable();
    const edit = (at: string, before: unknown, after: unknown) =>
      server.call(api.editFacts, { params: { plan }, body: { edits: [{ at, before, after }] } });
    await edit('strategy', 'by-hand', 'target-cost');
    expect(rulesOf(await check(plan))).toContain('no-target');
    await edit('targetCost', null, 12_500_000);
    await edit('conversions', [], ['Order', 'Call']);
    expect(rulesOf(await check(plan))).not.toContain('no-target');
    await expect(edit('targetCost', 12_500_000, 0)).rejects.toThrow();
    const { sheetSet } = await ship(plan, 'plain', { sheets: ['campaigns'] });
    const [campaign] = parse(await textOf(plan, sheetSet, 'campaigns.csv'), { columns: true });
    expect(campaign).toMatchObject({
      'Bid strategy': 'Target cost per conversion',
      'Target cost per conversion': '12.50',
      'Target return': '',
      'Counted conversions': 'Order; Call',
    });
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

  test('what a day is forecast to cost is held against the budgets', async () => {
    const plan = await shippable('sea kayak\t900\t0.80\nkayak hire\t400\t0.60\ncanoe\t300\t0.50\n');
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
    expect(await spend()).toBe(
      `${pounds(now.cost)} a day, budgets of ${pounds(below)}: they reach ${Math.floor((below * 100) / now.cost)}% of it`,
    );
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
    expect(findingIn(await check(plan))).toMatchObject({
      accepted: 'One ad is enough for a test.',
      acceptedBy: 'You',
      acceptedAt: expect.stringMatching(/^\d{4}-/),
    });
    await takeIn(server, plan, 'raft\t5\n');
    expect(findingIn(await check(plan))).toMatchObject({ accepted: null, count: 5 });
    await server.call(api.undoChange, { params: { plan }, body: {} });
    expect(findingIn(await check(plan))?.accepted).toBe('One ad is enough for a test.');
    await accept(null);
    expect(findingIn(await check(plan))?.accepted).toBeNull();
  });
});

test('a finding accepted for one outlet is one thing, for another another', async () => {
  const plan = await shippable();
  await choose(plan, 'fennelwick', true, ['consent']);
  await choose(plan, 'harrowlight', true, ['phone']);
  const few = (view: api.ShipView) => view.findings.filter(({ rule }) => rule === 'few-ads');
  const accepted = async () =>
    Object.fromEntries(few(await check(plan)).map((one) => [one.outlet, one.accepted]));
  const accept = async (outlet: string, reason: string | null) => {
    const one = few(await check(plan)).find((finding) => finding.outlet === outlet);
    const { rule, field, facts } = one as api.OutletFinding;
    await server.call(api.acceptFinding, { params: { plan }, body: { rule, field, outlet, facts, reason } });
  };
  await accept('fennelwick', 'One is enough there.');
  await accept('harrowlight', 'They show one.');
  expect(await accepted()).toEqual({
    plain: null,
    fennelwick: 'One is enough there.',
    harrowlight: 'They show one.',
  });
  await accept('fennelwick', 'Still enough.');
  await accept('harrowlight', null);
  expect(await accepted()).toEqual({ plain: null, fennelwick: 'Still enough.', harrowlight: null });
});

/** The only line of a field of the plan's pattern. */
async function write(plan: number, field: 'description1', line: string) {
  const { patterns } = await server.call(api.readPatterns, { params: { plan } });
  await server.call(api.editPattern, {
    params: { plan, pattern: 1 },
    body: {
      edits: [{ at: `fields.${field}.lines`, before: patterns[0]?.body.fields[field].lines, after: [line] }],
    },
  });
}

const found = (view: api.ShipView, rule: string) => view.findings.find((one) => one.rule === rule);

test.each([
  [0, true],
  [1, false],
])('a campaign with a daily budget of %i millionths', async (dailyBudget, isTold) => {
  const plan = await shippable();
  const { layout } = await server.call(api.readLayout, { params: { plan } });
  await server.call(api.editLayout, {
    params: { plan },
    body: { edits: [{ at: 'dailyBudget', before: layout.dailyBudget, after: dailyBudget }] },
  });
  expect(found(await check(plan), 'no-budget')?.severity).toBe(isTold ? 'blocker' : undefined);
});

describe('what the brief says of the site', () => {
  test('calls are the goal: ad groups without a phone number are told, until one is shown for them', async () => {
    const plan = await shippable();
    expect(found(await check(plan), 'no-phone')).toBeUndefined();
    await brief(server, plan, { goal: 'calls' });
    const view = await check(plan);
    expect(found(view, 'no-phone')).toMatchObject({ severity: 'warning', count: 4 });
    const key = found(view, 'no-phone')?.samples[0]?.key ?? '';
    const phone = { kind: 'phone', number: '01632960123' } as const;
    await server.call(api.makeExtra, { params: { plan }, body: { at: [key], body: phone } });
    expect(found(await check(plan), 'no-phone')?.count).toBe(3);
    const { extras } = await server.call(api.listExtras, { params: { plan } });
    await server.call(api.changeExtra, {
      params: { plan, extra: extras[0]?.id ?? 0 },
      body: { at: ['plan'], body: phone },
    });
    expect(found(await check(plan), 'no-phone')).toBeUndefined();
  });

  test('a site for adults: refused where it is not taken, held to the networks where it is, written where it can be', async () => {
    const plan = await shippable();
    await choose(plan, 'harrowlight', true, ['phone']);
    await choose(plan, 'fennelwick', true, ['consent']);
    await brief(server, plan, { networks: { search: true, partners: true, display: false } });
    expect(rulesOf(await check(plan)).filter((rule) => rule.startsWith('adults'))).toEqual([]);
    await brief(server, plan, { adults: true, goal: 'sales', category: 'Rum' });
    const view = await check(plan);
    expect(found(view, 'adults-not-taken')).toMatchObject({ severity: 'blocker', outlet: 'harrowlight' });
    expect(found(view, 'adults-network')).toMatchObject({ severity: 'blocker', outlet: 'fennelwick' });
    await expect(ship(plan, 'harrowlight')).rejects.toMatchObject({ status: 422 });
    await brief(server, plan, { networks: { search: true, partners: false, display: false } });
    expect(found(await check(plan), 'adults-network')).toBeUndefined();
    const { sheetSet } = await ship(plan, 'plain', { sheets: ['campaigns'] });
    const [campaign] = parse(await textOf(plan, sheetSet, 'campaigns.csv'), { columns: true });
    expect(campaign).toMatchObject({ Goal: 'Sales', 'Kind of site': 'Rum', Audience: 'Adults only' });
    const lost = (await check(plan)).outlets.find(({ outlet }) => outlet.key === 'fennelwick')?.check?.losses;
    expect(lost?.find(({ rule }) => rule === 'setting')?.samples.map(({ text }) => text)).toEqual([
      'site-kind: Rum',
    ]);
  });
});

describe('what was left to fill in, and what is elsewhere', () => {
  test('markers in keywords, ads, extras and names are warned about; one that is meant is accepted', async () => {
    const plan = await shippable(`${LIST}kayak in xxtownxx\t10\n`);
    await write(plan, 'description1', 'On the water in [town].');
    await server.call(api.makeExtra, {
      params: { plan },
      body: { at: ['plan'], body: { kind: 'callout', text: 'Open in XXXX' } },
    });
    const view = await check(plan);
    expect(found(view, 'marker-in-keyword')).toMatchObject({
      severity: 'warning',
      samples: [{ text: 'kayak in xxtownxx' }],
    });
    expect(found(view, 'marker-left')).toMatchObject({ severity: 'warning', field: 'description1' });
    expect(found(view, 'marker-in-name')?.samples[0]?.text).toMatch(/xxtownxx/i);
    expect(found(view, 'marker-in-extra')?.samples).toEqual([{ key: 'Open in XXXX', text: 'Open in XXXX' }]);
    const { rule, field, facts, outlet } = found(view, 'marker-left') as api.OutletFinding;
    await server.call(api.acceptFinding, {
      params: { plan },
      body: { rule, field, outlet, facts, reason: 'The town is filled in at the engine.' },
    });
    expect(found(await check(plan), 'marker-left')?.accepted).toBe('The town is filled in at the engine.');
  });

  test('an ad that names another place than its ad group', async () => {
    const plan = await shippable('kayak hire wrenport\t90\nkayak hire heronsea\t40\n');
    await write(plan, 'description1', 'At the harbour of Wrenport.');
    expect(found(await check(plan), 'other-place')).toBeUndefined();
    await brief(server, plan, { places: [['Wrenport'], ['Heronsea']] });
    expect(found(await check(plan), 'other-place')).toMatchObject({
      severity: 'warning',
      field: 'description1',
      count: 1,
      samples: [{ text: 'Wrenport' }],
    });
  });

  test('a page that does not answer, as it was last asked', async () => {
    const plan = await shippable();
    const before = await check(plan);
    expect(found(before, 'addresses-not-asked')).toMatchObject({ severity: 'tip' });
    expect(found(before, 'address-no-answer')).toBeUndefined();
    const [address] = found(before, 'addresses-not-asked')?.samples ?? [];
    const answered = (status: number | null) =>
      execute(
        server.database,
        `insert into address_checks (plan_id, address, workspace_id, status, title, leads_to, problem, checked_at)
         values ($1, $2, $3, $4, '', '', '', clock_timestamp())
         on conflict (plan_id, address) do update set status = excluded.status, checked_at = excluded.checked_at`,
        [plan, address?.text, server.caller.workspace, status],
      );
    for (const [status, isTold] of [
      [404, true],
      [200, false],
      [null, true],
      [399, false],
      [400, true],
    ] as const) {
      await answered(status);
      const told = found(await check(plan), 'address-no-answer');
      expect(told?.samples ?? []).toEqual(isTold ? [address] : []);
    }
  });
});

test('an outlet that was kept before something of it was refused stays, and says what is wrong', async () => {
  const plan = await shippable();
  const key = 'our-older-form';
  const sound = { ...structuredClone(plainOutlet), key, name: 'Our older form' };
  await server.call(api.keepOutlet, { params: { plan, outlet: key }, body: { outlet: sound, isNew: true } });
  await choose(plan, key);
  const sheets = sound.sheets.map((sheet) =>
    sheet.kind === 'keywords'
      ? { ...sheet, columns: [...sheet.columns, { heading: 'Phone', value: 'extra-number' as const }] }
      : sheet,
  );
  const unsound = { ...sound, sheets };
  await execute(server.database, 'update outlets set body = $2 where key = $1', [
    key,
    JSON.stringify(unsound),
  ]);
  const view = await check(plan);
  expect(view.outlets.map(({ outlet }) => outlet.key)).toContain(key);
  expect(found(view, 'outlet-unsound')).toMatchObject({
    outlet: key,
    severity: 'blocker',
    samples: [{ key: 'sheets.2.columns.8.value' }],
  });
  const body = { outlet: unsound, isNew: false };
  await expect(server.call(api.keepOutlet, { params: { plan, outlet: key }, body })).rejects.toMatchObject({
    status: 400,
  });
});
