import * as api from '@sprig/contracts';
import { HeldAds, unfilledOfAd, type WrittenAd } from '@sprig/core/ads';
import { bidOfRow, type Lane, RowBuilder, takesAll } from '@sprig/core/build';
import { plainOutlet } from '@sprig/core/outlets';
import { layOut, partsBefore, place, placedKeywords, planAds, planChecks, saidGroup } from '@sprig/core/plan';
import { incrementOf } from '@sprig/core/sheets';
import { adFields, patternOf, textOf } from '@sprig/core/write';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { adTexts } from '../../plan/rebuild/index.ts';
import { InputReader } from '../../plan/rebuild/load-inputs.ts';
import { readPlaced } from '../../plan/rebuild/read-placed.ts';
import { brief } from '../../testing/full-plan.ts';
import {
  built,
  planOf,
  poolOf,
  startTestServer,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';
import { PlanRows } from './plan-rows.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());

const WORDS = ['red', 'blue', 'mug', 'mugs', 'jug', 'buy', 'best', 'wrenport', 'handmade', 'how'];
const text = fc
  .uniqueArray(fc.constantFrom(...WORDS), { minLength: 1, maxLength: 4 })
  .map((words) => words.join(' '));
const line = fc
  .tuple(
    text,
    fc.option(fc.nat(3_000)),
    fc.option(fc.integer({ min: 1, max: 300 })),
    fc.constantFrom('', '', '"', '[', '+'),
  )
  .map(([words, searches, pence, notation]) => {
    const asked =
      notation === '"'
        ? `"${words}"`
        : notation === '['
          ? `[${words}]`
          : notation === '+'
            ? words
                .split(' ')
                .map((word, at) => (at % 2 === 0 ? `+${word}` : word))
                .join(' ')
            : words;
    return `${asked}\t${searches ?? ''}\t${pence === null ? '' : (pence / 100).toFixed(2)}`;
  });
const list = fc
  .array(line, { minLength: 20, maxLength: 60 })
  .map((lines) => ['Keyword\tSearches\tCPC', ...lines].join('\n'));
const line1 = ['@keyword hire', '@keyword', '@theme'];
const pattern = fc.record({
  form: fc.constantFrom('plain' as const, 'assembled' as const),
  to: fc.constantFrom('all' as const, 'themes' as const, 'without' as const),
  isSplit: fc.boolean(),
  lines: fc.record<Record<string, string[]>>({
    headline1: fc.constantFrom(line1, ['@branch and @keyword', '@keyword']),
    headline2: fc.constantFrom(['@offer'], ['In @place', 'Anywhere'], ['GREAT @brand!']),
    headline3: fc.constantFrom([], ['New in @year']),
    description1: fc.constantFrom(['@keyword from @site'], ['For who is @stage', 'Wrenport and Heronsea']),
    path1: fc.constantFrom([], ['@theme']),
  }),
});
const stage = fc.constantFrom('early', 'comparing', 'ready');
const sift = fc.record({
  has: fc.array(fc.array(fc.constantFrom(...WORDS), { minLength: 1, maxLength: 2 }), {
    minLength: 1,
    maxLength: 2,
  }),
  not: fc.array(fc.constantFrom(...WORDS), { maxLength: 1 }),
  source: fc.constantFrom(null, null, 1, 2),
  stage: fc.constantFrom(null, null, null, 'ready' as const),
  searchesFrom: fc.constantFrom(null, null, 500),
  cpcTo: fc.constantFrom(null, null, 1_500_000),
});
const lane = (types: number, more: Partial<Lane['takes']> = {}, id = 1): Lane => ({
  id,
  name: `Lane ${id}`,
  types,
  step: 10_000 - id * 500,
  takes: { ...takesAll(), ...more },
});
const layout = fc.record({
  campaignBy: fc.constantFrom('one', 'theme', 'place', 'source', 'stage'),
  unplaced: fc.constantFrom('single', 'together', 'out'),
  grouping: fc.constantFrom(
    { kind: 'themed', searchesFrom: null, first: null, cpcFrom: null },
    { kind: 'single', searchesFrom: null, first: null, cpcFrom: null },
    { kind: 'top', searchesFrom: 800, first: 1, cpcFrom: 1_000_000 },
  ),
  keywordsPerGroup: fc.constantFrom(null, 3, 20),
  asAsked: fc.boolean(),
  spread: fc.constantFrom('together', 'by-group', 'by-campaign'),
  lanes: fc.constantFrom(
    [lane(12)],
    [lane(8, { searchesFrom: 300 }), lane(3, { stages: ['ready'] }, 2)],
    [lane(2, { sources: [1] }), lane(15, {}, 2)],
  ),
});

/** As a browser works it out: of the pool's columns and what the screens read. */
async function asInTheBrowser(plan: number) {
  const params = { plan };
  const columns = await poolOf(server, plan);
  const { facts } = await server.call(api.readFacts, { params });
  const sort = await server.call(api.readSort, { params });
  const { holds } = await server.call(api.listHolds, { params });
  const { sources } = await server.call(api.listSources, { params });
  const { layout: rules } = await server.call(api.readLayout, { params });
  const standing = await server.call(api.readStanding, { params });
  const rowOf = new Map([...columns.ids].map((id, row) => [id, row]));
  const pool = api.planPoolOf(columns, (id) => rowOf.get(id));
  const placing = api.placingRules({ language: 'en', facts, ...sort });
  const placed = place(pool, placing);
  const frame = layOut(placedKeywords(pool, placed), {
    ...placing,
    ...api.layoutRules({
      language: 'en',
      facts,
      layout: rules,
      holds,
      sources: new Map(sources.map(({ id, name }) => [id, name])),
      copies: standing.copies,
      outlet: plainOutlet,
      partBefore: partsBefore(standing.parts),
    }),
  });
  const builder = new RowBuilder(frame);
  const increment = incrementOf(plainOutlet, 'GBP');
  return {
    placing: Object.fromEntries(
      Array.from({ length: pool.length }, (_, row) => row)
        .filter(pool.isIn)
        .map((row) => [
          pool.normOf(row),
          [placed.placing[row], placed.stageOf(row)?.stage ?? null, placed.placeOf(row)],
        ]),
    ),
    groups: frame.groups.map(({ key, name }) => `${key} ${name}`).sort(),
    rows: frame.groups
      .flatMap((group) => builder.rows(group))
      .map((row) => [row.key, row.text, row.marks.join(), bidOfRow(row, rules.ladder, increment)].join('|'))
      .sort(),
    ads: await adsInTheBrowser(plan),
  };
}

/** An ad as it is compared: what it says, where it leads, and how much is objected to. */
const saidBy = (ad: WrittenAd, problems: number): string => {
  const { final } = ad.address;
  const texts = adFields.flatMap((field) => {
    const said = textOf(ad.fields[field]);
    return said === '' ? [] : [`${field} ${said}`];
  });
  return [
    ad.key,
    ad.status,
    ...texts.sort(),
    final.status === 'address' ? final.href : '',
    unfilledOfAd(ad).length > 0,
    problems,
  ].join('|');
};

/** As the screens of Write make them: of the groups' heads, the patterns, the brief and what is held. */
async function adsInTheBrowser(plan: number) {
  const params = { plan };
  const { facts } = await server.call(api.readFacts, { params });
  const { brief: head } = await server.call(api.openPlan, { params });
  const { holds } = await server.call(api.listHolds, { params });
  const { patterns, address } = await server.call(api.readPatterns, { params });
  const heads = await server.call(api.readHeads, { params });
  const { language, site } = head;
  const themes = new Map(heads.themeNames.map(({ id, ...theme }) => [id, theme]));
  const rules = api.adRules({
    language,
    site,
    facts,
    patterns,
    address,
    held: new HeldAds(holds),
    day: api.dayIn(facts.timeZone, new Date()),
    themes,
  });
  const writer = planAds(rules, plainOutlet);
  const checks = planChecks(api.checkRules({ language, site, facts, refused: [] }), plainOutlet);
  const ads: string[] = [];
  for (const [at, key] of heads.keys.entries()) {
    const group = saidGroup(
      {
        key,
        keyword: heads.keywords[at] ?? '',
        name: heads.names[at] ?? '',
        theme: heads.themes[at] ?? 0,
        place: heads.places[at] ?? null,
        stage: heads.stages[at] ?? null,
        campaignKey: heads.campaignKeys[heads.campaigns[at] ?? 0] ?? '',
      },
      themes,
    );
    const { rows } = await server.call(api.readGroup, { params: { plan, group: key } });
    const norms = [...new Set(rows.map(({ text: words }) => words))];
    for (const ad of writer.of(group).ads) ads.push(saidBy(ad, checks.problemsOf(ad, group, norms).length));
  }
  return ads.sort();
}

/** As they ship, and as they are looked through before. */
const adsShipped = (plan: number) =>
  server.database.transaction(async (transaction) => {
    const shipped = new PlanRows({ ...server.caller, plan }, transaction, plainOutlet);
    await shipped.open();
    const ads: string[] = [];
    for await (const { groups } of shipped.parts())
      for (const { head, written, keywords } of groups) {
        const norms = [...new Set(keywords.map(({ text: words }) => words))];
        const { marks } = shipped.ads.checked(head, written, norms);
        written.forEach((ad, at) => {
          ads.push(saidBy(ad, marks[at]?.problems ?? -1));
        });
      }
    return ads.sort();
  });

/** As a job reads it where the pool is too large for a browser. */
const asInAJob = (plan: number) =>
  server.database.transaction(async (transaction) => {
    const reader = new InputReader({ ...server.caller, plan }, transaction);
    const { pool, placed } = await readPlaced(reader, await reader.inputs(), async () => {});
    return Object.fromEntries(
      Array.from({ length: pool.length }, (_, row) => [
        pool.normOf(row),
        [placed.placing[row], placed.stageOf(row)?.stage ?? null, placed.placeOf(row)],
      ]),
    );
  });

/** What the rebuild has written. */
async function asBuilt(plan: number) {
  const groups = await select<{ key: string; name: string }>(
    server.database,
    'select key, name from ad_groups where plan_id = $1',
    [plan],
  );
  const rows = await select<{ key: string; text: string; marks: number[]; bid: number }>(
    server.database,
    'select key, text, marks, bid from keyword_rows where plan_id = $1',
    [plan],
  );
  const ads = await select<{
    key: string;
    status: string;
    texts: string[];
    final_url: string;
    misfit: boolean;
    problems: number;
  }>(server.database, 'select key, status, texts, final_url, misfit, problems from ads where plan_id = $1', [
    plan,
  ]);
  return {
    ads: ads
      .map(({ key, status, texts, final_url, misfit, problems }) => {
        const said = Object.entries(adTexts(texts)).map(([field, words]) => `${field} ${words}`);
        return [key, status, ...said.sort(), final_url, misfit, problems].join('|');
      })
      .sort(),
    groups: groups.map(({ key, name }) => `${key} ${name}`).sort(),
    rows: rows.map(({ key, text: words, marks, bid }) => [key, words, marks.join(), bid].join('|')).sort(),
  };
}

test('browser, job, rebuild and shipping make the same of any plan', async () => {
  let seen = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.tuple(list, list),
      fc.array(sift, { minLength: 2, maxLength: 5 }),
      layout,
      fc.array(fc.tuple(fc.nat(30), fc.nat(5), fc.option(stage)), { maxLength: 6 }),
      fc.array(pattern, { minLength: 1, maxLength: 3 }),
      fc.array(fc.tuple(fc.nat(20), fc.constantFrom('Held @keyword', 'x'.repeat(50))), { maxLength: 3 }),
      async ([first, second], sifts, rules, hands, patterns, texts) => {
        const plan = await planOf(server, 'Pots');
        const params = { plan };
        await takeIn(server, plan, first);
        await takeIn(server, plan, second);
        await brief(server, plan, {
          places: [['Wrenport', 'wren port'], ['Heronsea']],
          brands: ['Handmade'],
          offers: [{ text: '2 for 1', from: null, until: null }],
        });
        const themes = sifts.map((one, at) =>
          api.newThemeOf(`Theme ${at}`, one as never, at % 3 === 2 ? at - 1 : null),
        );
        await server.call(api.makeThemes, { params, body: { parent: null, themes } });
        const made = (await server.call(api.readSort, { params })).themes;
        const { ids } = await poolOf(server, plan);
        const id = (at: number) => ids[at % ids.length] ?? 1;
        for (const [at, theme, held] of hands) {
          const body = { keywords: [id(at)] };
          await server.call(api.placeByHand, { params, body: { ...body, theme: made[theme]?.id ?? 0 } });
          if (held) await server.call(api.stageByHand, { params, body: { ...body, stage: held as never } });
        }
        await server.call(api.setCut, { params, body: { ids: [id(7), id(11)], cut: true } });
        const { layout: before } = await server.call(api.readLayout, { params });
        const edits = Object.entries(rules).map(([at, after]) => ({
          at,
          before: before[at as keyof typeof before] as never,
          after: after as never,
        }));
        await server.call(api.editLayout, { params, body: { edits } });
        const themeIds = made.slice(0, 1).map(({ id: theme }) => theme);
        for (const { form, to, isSplit, lines } of patterns) {
          const body = patternOf(lines, 'title', {
            form,
            groups: { to, themes: to === 'themes' ? themeIds : [], groups: [], campaigns: [] },
            ...(isSplit && {
              split: { by: 'line', field: 'headline2', lines: ['Other'], labels: ['x', 'y'], paused: null },
            }),
          });
          await server.call(api.makePattern, { params, body: { body, behind: null } });
        }
        await built(server, plan);
        const { keys: adKeys } = await server.call(api.orderAds, { params });
        const held = texts.flatMap(([at, words]) => {
          const key = adKeys[at % Math.max(1, adKeys.length)];
          return key ? [[key, 'headline1', words] as [string, 'headline1', string]] : [];
        });
        if (held.length > 0) await server.call(api.holdTexts, { params, body: { texts: held } });
        await built(server, plan);
        const { placing, ...laid } = await asInTheBrowser(plan);
        expect(await asInAJob(plan)).toEqual(placing);
        expect(await asBuilt(plan)).toEqual(laid);
        expect(await adsShipped(plan)).toEqual(laid.ads);
        seen += laid.ads.length;
      },
    ),
    { numRuns: 8, seed: 18 },
  );
  expect(seen).toBeGreaterThan(100);
});
