import * as api from '@sprig/contracts';
import { type EstimateModel, Estimator } from '@sprig/core/figures';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../db/connect.ts';
import {
  askStandIn,
  built,
  finished,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
  upload,
} from '../testing/start-test-server.ts';
import { estimatorOf } from './estimates.ts';
import { PlanFigures } from './plan-figures.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

/** A list of tea goods with told figures; the searches are products of what the words bring. */
const KINDS = { green: 3, black: 2, white: 1, herbal: 0.5, decaf: 0.3, organic: 1.5 };
const GOODS = { teapot: 400, kettle: 900, tea: 2_000, 'tea set': 150, mug: 300 };
const WANTS = { '': 1, price: 0.4, 'for sale': 0.3, gift: 0.2 };
const rows = Object.entries(KINDS).flatMap(([kind, a]) =>
  Object.entries(GOODS).flatMap(([good, b]) =>
    Object.entries(WANTS).map(([want, c]) => ({
      text: `${kind} ${good} ${want}`.trim(),
      searches: Math.round(a * b * c),
      cpc: 0.4 + c / 2,
    })),
  ),
);
const list = (some: typeof rows) =>
  [
    'Keyword\tSearches\tCPC',
    ...some.map(({ text, searches, cpc }) => `${text}\t${searches}\t${cpc.toFixed(2)}`),
  ].join('\n');

async function taken(plan: number, content: string, figuresOn: string | null = null) {
  const { job } = await server.call(api.startImport, {
    params: { plan },
    body: {
      upload: await upload(server, plan, content),
      kind: 'paste',
      name: 'List',
      options: {},
      figuresOn,
    },
  });
  expect(await finished(server, plan, job)).toMatchObject({ status: 'done' });
}

const figuresOf = async (plan: number, text: string) => {
  const pool = await poolOf(server, plan);
  const at = pool.norms.indexOf(text);
  return {
    searches: pool.searches[at],
    cpc: pool.cpc[at],
    hand: pool.hand[at],
    made: pool.madeSearches[at],
  };
};

describe('origins', () => {
  test('of several told the one whose figures are newest stands, whatever came in first; empty tells nothing', async () => {
    const plan = await planOf(server);
    await taken(plan, 'mug\t100\t0.50\n', '2026-03-01');
    await taken(plan, 'mug\t50\n', '2025-01-01');
    expect(await figuresOf(plan, 'mug')).toMatchObject({ searches: 100, cpc: 500_000 });
    await taken(plan, 'mug\t--\t0.70\n', '2026-05-01');
    expect(await figuresOf(plan, 'mug')).toMatchObject({ searches: 100, cpc: 700_000 });
    await taken(plan, 'mug\t0\n');
    expect(await figuresOf(plan, 'mug')).toMatchObject({ searches: 0, cpc: 700_000 });
  });

  test('by hand before told, told before made up, in whatever order they come', async () => {
    const steps = ['told', 'hand', 'made'] as const;
    await fc.assert(
      fc.asyncProperty(fc.shuffledSubarray([...steps], { minLength: 3 }), async (order) => {
        const plan = await planOf(server);
        await askStandIn(server, plan);
        await takeIn(server, plan, 'kayak hire\n');
        const id = (await poolOf(server, plan)).ids[0] as number;
        let told: number | null = null;
        for (const step of order) {
          if (step === 'told') await taken(plan, 'kayak hire\t77\n');
          if (step === 'made') await server.call(api.askFigures, { params: { plan }, body: { ids: [id] } });
          if (step === 'told') told ??= 77;
          if (step === 'hand') {
            await server.call(api.editKeyword, {
              params: { plan, keyword: String(id) },
              body: { field: 'searches', before: told, after: 5 },
            });
            told = 5;
          }
        }
        expect(await figuresOf(plan, 'kayak hire')).toMatchObject({ searches: 5, hand: 1 });
        expect((await figuresOf(plan, 'kayak hire')).made).toBeGreaterThan(0);
      }),
      { numRuns: 6, seed: 3 },
    );
  }, 60_000);
});

test('figures that are read back fill keywords that are there, through a look-alike once, and add none', async () => {
  const plan = await planOf(server, 'Teas');
  await takeIn(
    server,
    plan,
    'Keyword\tSearches\nred mug\t\nred mugs\t\nglass teapots\t\nmug for tea\t\nblue jug\t40\nodd one\t\n',
  );
  const { job } = await server.call(api.startImport, {
    params: { plan },
    body: {
      upload: await upload(
        server,
        plan,
        'Keyword;Searches;CPC\nred mug;1.300;0,40\nglass teapot;90;0,55\nmugs red;70;\nblue jugs;5;\ntea mug;20;\nnever asked;9;\n',
      ),
      kind: 'figures',
      name: 'Read back',
      options: { decimal: ',' },
    },
  });
  const done = await finished(server, plan, job);
  // `red mugs` has a twin with a figure by then; `blue jug` was told before.
  expect(api.importResult.parse(done.result)).toMatchObject({
    added: 0,
    figures: { met: 1, alike: 2, unmet: 3 },
  });
  const pool = await poolOf(server, plan);
  const of = (text: string) => pool.searches[pool.norms.indexOf(text)];
  expect(['red mug', 'red mugs', 'glass teapots', 'mug for tea', 'blue jug', 'odd one'].map(of)).toEqual([
    1_300, -1, 90, 20, 40, -1,
  ]);
  expect(pool.toldOf.get(pool.ids[pool.norms.indexOf('glass teapots')] as number)).toBe('glass teapot');
  await server.call(api.undoChange, { params: { plan }, body: {} });
  expect([...(await poolOf(server, plan)).searches]).toEqual([-1, -1, -1, -1, 40, -1]);
  const none = await server.call(api.startImport, {
    params: { plan },
    body: {
      upload: await upload(server, plan, 'nothing here\t5\n'),
      kind: 'figures',
      name: 'No',
      options: {},
    },
  });
  expect(await finished(server, plan, none.job)).toMatchObject({
    status: 'failed',
    failure: { message: expect.stringMatching(/None of these figures/) },
  });
});

test('columns that were kept as they are come by heading, the newest source’s first', async () => {
  const plan = await planOf(server, 'Teas');
  const roles = ['keyword', 'searches', 'extra', 'extra'] as const;
  await takeIn(server, plan, 'Keyword\tSearches\tSeen\tNote\nmug\t5\t900\told\njug\t6\t70\t\n', { roles });
  await takeIn(server, plan, 'Keyword\tSearches\tSeen\tNote\nmug\t5\t\tnew\n', { roles });
  const { keptColumns } = await server.call(api.listKeptColumns, { params: { plan } });
  expect(keptColumns.map(({ heading }) => heading)).toEqual(expect.arrayContaining(['Seen', 'Note']));
  const { ids, norms } = await poolOf(server, plan);
  const of = async (heading: string) => {
    const found = await server.call(api.readKeptColumn, { params: { plan }, query: { heading } });
    return found.ids.map((id, at) => [norms[ids.indexOf(id)], found.texts[at]]);
  };
  expect(await of('Seen')).toEqual([
    ['mug', '900'],
    ['jug', '70'],
  ]);
  expect(await of('Note')).toEqual([['mug', 'new']]);
  expect(await of('never')).toEqual([]);
});

describe('estimates', () => {
  test('are learned with the build, from what is told; the same pool gives the same, whatever else changes', async () => {
    const plan = await planOf(server, 'Teas');
    const caller = { ...server.caller, plan };
    expect(await estimatorOf(caller)).toBeNull();
    await taken(plan, list(rows.filter(({ text }) => text !== 'green kettle price')));
    await takeIn(server, plan, 'green kettle price\nodd word\n');
    await built(server, plan);
    const figures = await PlanFigures.of(caller);
    const known = await figures.figuresOf([
      'green kettle price',
      'green kettle',
      'odd word',
      'white mug online',
    ]);
    expect(known.get('green kettle')).toMatchObject({
      searches: 2_700,
      from: { searches: 'told', cpc: 'told' },
    });
    const estimate = known.get('green kettle price');
    expect(estimate?.from).toEqual({ searches: 'estimated', cpc: 'estimated', competition: null });
    expect((estimate?.searches as number) / 1_080).toBeGreaterThan(0.7);
    expect((estimate?.searches as number) / 1_080).toBeLessThan(1.4);
    expect(known.get('odd word')).toMatchObject({ searches: null, cpc: null, from: { searches: null } });
    const stored = () =>
      select<{ told: string }>(server.database, 'select told from estimate_models where plan_id = $1', [
        plan,
      ]);
    const [before] = await stored();
    await server.call(api.setCut, {
      params: { plan },
      body: { ids: [(await poolOf(server, plan)).ids[3] as number], cut: true },
    });
    await built(server, plan);
    expect(await stored()).toEqual([before]);
  });

  test('the browser gets the same model, once', async () => {
    const plan = await planOf(server, 'Teas');
    const ask = (known = '') =>
      fetch(`${server.url}/api/plans/${plan}/estimates?known=${encodeURIComponent(known)}`);
    expect((await ask()).status).toBe(204);
    await taken(plan, list(rows));
    await built(server, plan);
    const answer = await ask();
    const told = answer.headers.get(api.LEARNED_FROM) as string;
    const estimator = new Estimator((await answer.json()) as EstimateModel);
    const here = await estimatorOf({ ...server.caller, plan });
    for (const text of ['green mug', 'decaf kettle gift', 'zzz'])
      expect(estimator.of('searches', text)).toEqual(here?.of('searches', text));
    expect((await ask(told)).status).toBe(204);
    expect((await fetch(`${server.url}/api/plans/999999/estimates`)).status).toBe(404);
  });

  test('inform and do not decide: groups, leads and bids are the same with them and without', async () => {
    const layoutOf = async (extra: string) => {
      const plan = await planOf(server, 'Teas');
      await takeIn(
        server,
        plan,
        `Keyword\tSearches\tCPC\ngreen teapot\t\t\ngreen teapot price\t40\t0.90\nblack kettle\t\t\nwhite mug\t\t\n${extra}`,
      );
      await built(server, plan);
      const groups = await select<{ name: string }>(
        server.database,
        `select name, keyword, base, base_from, searches from ad_groups where plan_id = $1 and keyword = any($2::text[]) order by name`,
        [plan, ['green teapot', 'green teapot price', 'black kettle', 'white mug']],
      );
      return groups;
    };
    const more = rows.filter(
      ({ text }) => !['green teapot', 'green teapot price', 'black kettle', 'white mug'].includes(text),
    );
    const withMany = list(more).split('\n').slice(1).join('\n');
    // Without a theme the median of all unplaced keywords is no base: only what is told of a keyword itself is.
    expect(await layoutOf(withMany)).toEqual(await layoutOf(''));
  });
});

test('a forecast is made of the plan’s own figures and assumptions', async () => {
  const plan = await planOf(server, 'Teas');
  await takeIn(server, plan, 'Keyword\tSearches\tCPC\ncast iron teapot\t1,170\t0.60\nhand thrown mug\t\t\n');
  await built(server, plan);
  const view = () => server.call(api.viewForecast, { params: { plan }, body: { scope: { all: true } } });
  const forecast = await view();
  expect(forecast).toMatchObject({ keywords: 2, missing: 1, estimated: 0, madeUp: 0 });
  // Exact at 125% of the CPC is the price of position 1: 1,170 × 95% seen, 8% of them clicked, 0.75 a click.
  expect(forecast.now.clicks).toBeCloseTo((1_170 * 0.95 * 0.08 * 12) / 365, 3);
  expect(forecast.now.cost / 1_000_000).toBeCloseTo(((1_170 * 0.95 * 0.08 * 12) / 365) * 0.75, 2);
  expect(forecast.position).toBe(1);
  expect(forecast.low.cost).toBeLessThan(forecast.now.cost);
  expect(forecast.high.cost).toBeGreaterThan(forecast.now.cost);
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'assumptions.reach', before: 10_000, after: 5_000 }] },
  });
  expect((await view()).now.clicks).toBeCloseTo(forecast.now.clicks / 2, 2);
});

test('told months give the year of a plan, and a month is forecast by it', async () => {
  const plan = await planOf(server, 'Lawns');
  const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
  const season = () => server.call(api.readSeason, { params: { plan } });
  await takeIn(
    server,
    plan,
    `Keyword\tSearches\tCPC\t${months
      .slice(1)
      .map((name) => `${name} 2026`)
      .join('\t')}\nlawn care\t1,000\t0.60${'\t1,000'.repeat(11)}\n`,
  );
  expect(await season()).toEqual({ season: null });
  await takeIn(
    server,
    plan,
    `Keyword\tSearches\tCPC\t${months.map((name) => `${name} 2026`).join('\t')}\nhedge cutting\t1,000\t0.60\t500\t1.500${'\t1.000'.repeat(10)}\nturf\t10\t0.60\t–${'\t9.000'.repeat(11)}\n`,
  );
  const told = (await season()).season;
  expect(told).toEqual({ keywords: 1, parts: [5_000, 15_000, ...new Array<number>(10).fill(10_000)] });
  await built(server, plan);
  const clicks = async () =>
    (await server.call(api.viewForecast, { params: { plan }, body: { scope: { all: true } } })).now.clicks;
  const mean = await clicks();
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'assumptions.season', before: null, after: { month: 2, ...told } }] },
  });
  expect(await clicks()).toBeCloseTo(mean * 1.5, 2);
});

test('estimates are learned from other plans of the workspace where the brief says so, CPCs only in its currency', async () => {
  const teacher = await planOf(server, 'Teas taught', 'EUR');
  await taken(teacher, list(rows));
  const plan = await planOf(server, 'Few teas');
  await takeIn(server, plan, 'green kettle price\ngreen teapot\n');
  const caller = { ...server.caller, plan };
  const known = async (text: string) => {
    await built(server, plan);
    return (await PlanFigures.of(caller)).figuresOf([text]).then((found) => found.get(text));
  };
  expect((await known('green kettle price'))?.from.searches).toBeNull();
  const learnFrom = (before: string, after: string) =>
    server.call(api.editFacts, { params: { plan }, body: { edits: [{ at: 'learnFrom', before, after }] } });
  await learnFrom('own', 'workspace');
  const learned = await known('green kettle price');
  expect(learned?.from).toEqual({ searches: 'estimated', cpc: null, competition: null });
  expect(learned?.searches).toBeGreaterThan(400);
  // Another country is another world.
  const country = [{ name: 'Norland', level: 'country' }];
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'locations', before: [], after: country }] },
  });
  expect((await known('green kettle price'))?.from.searches).toBeNull();
  await server.call(api.editFacts, {
    params: { plan },
    body: { edits: [{ at: 'locations', before: country, after: [] }] },
  });
  expect((await known('green kettle price'))?.from.searches).toBe('estimated');
  await learnFrom('workspace', 'own');
  expect((await known('green kettle price'))?.from.searches).toBeNull();
});
