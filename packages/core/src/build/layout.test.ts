import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { frameInputOf, keywordOf } from '../../fixtures/build.ts';
import { marker, matchTypes, setOf } from '../match/index.ts';
import { asMicros } from '../money/index.ts';
import type { Theme } from '../sort/index.ts';
import { english, type FunnelStage, funnelStages } from '../text/index.ts';
import {
  type BuildKeyword,
  bidOf,
  buildFrame,
  buildPlan,
  changedTypes,
  defaultLayout,
  type FrameInput,
  type Hold,
  kindOfKey,
  type Lane,
  type Layout,
  laneTypes,
  marksFor,
  nameByRule,
  nameLine,
  partOfKey,
  RowBuilder,
  renameFrame,
  TYPES_BY_HAND,
  type TypesChange,
  takesAll,
  typesFor,
} from './index.ts';

const theme = (id: number, name: string, parent: number | null = null, more: Partial<Theme> = {}): Theme => ({
  id,
  parent,
  name,
  sift: null,
  idea: false,
  colour: null,
  stage: null,
  ...more,
});
const word = keywordOf;
const lane = (id: number, name: string, types: Lane['types'], more: Partial<Lane> = {}): Lane => ({
  id,
  name,
  types,
  step: 10_000,
  takes: takesAll(),
  ...more,
});
const base = defaultLayout('Paddle', 'GBP');
const input = (
  keywords: BuildKeyword[],
  layout: Partial<Layout> = {},
  more: Partial<FrameInput> = {},
): FrameInput => frameInputOf({ keywords, layout: { ...base, ...layout }, ...more });
const themes = [
  theme(1, 'Kayaks'),
  theme(2, 'Hire', 1),
  theme(3, 'Canoes'),
  theme(4, 'Rafts', null, { idea: true }),
];
const keywords = [
  word(11, 'kayak', { theme: 1, searches: 900, cpc: asMicros(500_000), stage: 'early', sources: [7] }),
  word(12, 'kayak hire', {
    theme: 2,
    searches: 400,
    cpc: asMicros(700_000),
    stage: 'ready',
    sources: [7, 8],
  }),
  word(13, 'hire a kayak wrenport', {
    theme: 2,
    searches: 40,
    place: 'Wrenport',
    stage: 'ready',
    sources: [8],
  }),
  word(14, 'canoe', { theme: 3, searches: 300 }),
  word(15, 'raft', { theme: 4 }),
  word(16, 'paddle song'),
];
const laidOut = (layout: Partial<Layout> = {}, more: Partial<FrameInput> = {}) => {
  const plan = buildPlan(input(keywords, layout, { themes, places: ['Wrenport'], ...more }));
  const campaigns = new Map(plan.campaigns.map(({ key, name }) => [key, name]));
  return plan.groups.map(
    ({ key, campaign, name }) =>
      `${campaigns.get(campaign)} > ${name} (${key}): ${[
        ...new Set(plan.rows.filter(({ groupKey }) => groupKey === key).map(({ text }) => text)),
      ].join(', ')}`,
  );
};

describe('layouts', () => {
  test('themed: a group per theme with keywords; ideas make none; the unplaced one by one, together or not at all', () => {
    const groups = [
      'Paddle > Kayaks (t1): kayak',
      'Paddle > Hire (t2): kayak hire, hire a kayak wrenport',
      'Paddle > Canoes (t3): canoe',
    ];
    expect(laidOut()).toEqual([...groups, 'Paddle > paddle song (k16): paddle song']);
    expect(laidOut({ unplaced: 'together' })[0]).toBe('Paddle > Unplaced (t0): paddle song');
    expect(laidOut({ unplaced: 'out' })).toEqual(groups);
  });

  test('a branch by single keywords, and one of its branches by the top ones', () => {
    const single = { kind: 'single', searchesFrom: null, first: null, cpcFrom: null } as const;
    const top = { ...single, kind: 'top', first: 1 } as const;
    const branches = [
      { theme: 1, grouping: single, step: 10_000 },
      { theme: 2, grouping: top, step: 10_000 },
    ];
    expect(laidOut({ branches, unplaced: 'out' })).toEqual([
      'Paddle > Hire (t2): hire a kayak wrenport',
      'Paddle > Canoes (t3): canoe',
      'Paddle > kayak (k11): kayak',
      'Paddle > kayak hire (k12): kayak hire',
    ]);
  });

  test.each([
    [{ searchesFrom: 300 }, ['k11', 'k12', 'k14']],
    [{ searchesFrom: 300, cpcFrom: asMicros(600_000) }, ['k12']],
    [{ first: 1, searchesFrom: 350 }, ['k11', 'k12']],
    [{}, []],
  ])('at the top: %j', (conditions, singles) => {
    const grouping = { kind: 'top', searchesFrom: null, first: null, cpcFrom: null, ...conditions } as const;
    const frame = buildFrame(input(keywords, { grouping, unplaced: 'out' }, { themes }));
    expect(frame.groups.filter(({ kind }) => kind === 'single').map(({ key }) => key)).toEqual(singles);
  });

  test('campaigns by top theme, place, source and stage; groups part where their keywords do', () => {
    expect(laidOut({ campaignBy: 'theme', campaignName: '@theme campaign', unplaced: 'out' })).toEqual([
      'Kayaks campaign > Kayaks (t1): kayak',
      'Kayaks campaign > Hire (t2): kayak hire, hire a kayak wrenport',
      'Canoes campaign > Canoes (t3): canoe',
    ]);
    expect(laidOut({ campaignBy: 'place', campaignName: 'Paddle – @place', unplaced: 'out' })).toEqual([
      expect.stringMatching(/^Paddle – Wrenport > Hire \(t2w[0-9a-f]+\): hire a kayak wrenport$/),
      'Paddle > Kayaks (t1w0): kayak',
      'Paddle > Hire (t2w0): kayak hire',
      'Paddle > Canoes (t3w0): canoe',
    ]);
    expect(
      laidOut(
        { campaignBy: 'source', campaignName: '@source', unplaced: 'out' },
        {
          sources: new Map([
            [7, 'Report'],
            [8, 'Notes'],
          ]),
        },
      ),
    ).toEqual([
      'Report > Kayaks (t1s7): kayak',
      'Report > Hire (t2s7): kayak hire',
      'Notes > Hire (t2s8): hire a kayak wrenport',
      'Campaign > Canoes (t3s0): canoe',
    ]);
    expect(laidOut({ campaignBy: 'stage', campaignName: '@stage', unplaced: 'out' })).toEqual([
      'Early > Kayaks (t1f1): kayak',
      'Ready > Hire (t2f3): kayak hire, hire a kayak wrenport',
      'Campaign > Canoes (t3f0): canoe',
    ]);
  });

  test('lanes apart by ad group and by campaign, each with its types, its step and its keywords', () => {
    const lanes = [
      lane(1, 'Broad', setOf(['broad']), { step: 8_000 }),
      lane(2, 'Exact', setOf(['exact']), { takes: { ...takesAll(), searchesFrom: 300 } }),
    ];
    expect(laidOut({ spread: 'by-group', lanes, unplaced: 'out' })).toEqual([
      'Paddle > Kayaks · Broad (t1l1): kayak',
      'Paddle > Kayaks · Exact (t1l2): kayak',
      'Paddle > Hire · Broad (t2l1): kayak hire, hire a kayak wrenport',
      'Paddle > Hire · Exact (t2l2): kayak hire',
      'Paddle > Canoes · Broad (t3l1): canoe',
      'Paddle > Canoes · Exact (t3l2): canoe',
    ]);
    expect(laidOut({ spread: 'by-campaign', lanes, unplaced: 'out' }).slice(2, 4)).toEqual([
      'Paddle – Broad > Canoes (t3l1): canoe',
      'Paddle – Exact > Kayaks (t1l2): kayak',
    ]);
    const { rows } = buildPlan(input(keywords, { spread: 'together', lanes }, { themes }));
    expect(rows.filter(({ keywordId }) => keywordId === 12).map(({ key, steps }) => [key, steps])).toEqual([
      ['k12:b', [7_000, 11_500, 8_000]],
      ['k12:e', [12_500, 11_500]],
    ]);
  });

  test('numbered parts: as even as can be at first, then sticky', () => {
    const many = Array.from({ length: 7 }, (_, n) => word(n + 1, `kayak ${'gfedcba'[n]}`, { theme: 1 }));
    const first = buildFrame(input(many, { keywordsPerGroup: 3 }, { themes }));
    const membersOf = (frame: typeof first) =>
      frame.groups.map(({ key, name, members }) => [
        key,
        name,
        members.map((at) => frame.input.keywords[at]?.id).join(),
      ]);
    expect(membersOf(first)).toEqual([
      ['t1', 'Kayaks', '5,6,7'],
      ['t1p2', 'Kayaks 2', '3,4'],
      ['t1p3', 'Kayaks 3', '1,2'],
    ]);
    const before = new Map(
      first.groups.flatMap(({ key, members }) =>
        members.map((at) => [many[at]!.id, partOfKey(key)] as const),
      ),
    );
    const grown = [
      ...many.filter(({ id }) => id !== 6),
      word(8, 'kayak aa', { theme: 1 }),
      word(9, 'kayak ab', { theme: 1 }),
    ];
    const next = buildFrame(
      input(grown, { keywordsPerGroup: 3 }, { themes, partBefore: (_, id) => before.get(id) ?? 0 }),
    );
    expect(membersOf(next)).toEqual([
      ['t1', 'Kayaks', '5,7,8'],
      ['t1p2', 'Kayaks 2', '3,4,9'],
      ['t1p3', 'Kayaks 3', '1,2'],
    ]);
  });

  test('a copy follows what it was copied from, under keys and a name of its own', () => {
    const copies = [
      { id: 3, of: 't2', name: 'Hire again', ads: false },
      { id: 4, of: 'c', name: 'Paddle', ads: true },
      { id: 5, of: 't99', name: 'Nothing', ads: true },
    ];
    const plan = buildPlan(
      input(
        keywords,
        { unplaced: 'out' },
        { themes, copies, holds: [hold('x3.k12:e', 'bid', 90_000), hold('x9.t2', 'name', 'x')] },
      ),
    );
    expect(plan.campaigns.map(({ key, name }) => [key, name])).toEqual([
      ['c', 'Paddle'],
      ['x4.c', 'Paddle (2)'],
    ]);
    expect(plan.groups.map(({ key, campaign, name, ads }) => [key, campaign, name, ads])).toEqual([
      ['t1', 'c', 'Kayaks', true],
      ['t2', 'c', 'Hire', true],
      ['t3', 'c', 'Canoes', true],
      ['x3.t2', 'c', 'Hire again', false],
      ['x4.t1', 'x4.c', 'Kayaks', true],
      ['x4.t2', 'x4.c', 'Hire', true],
      ['x4.t3', 'x4.c', 'Canoes', true],
      ['x4.x3.t2', 'x4.c', 'Hire again', false],
    ]);
    expect(plan.rows.find(({ key }) => key === 'x3.k12:e')?.heldBid).toBe(90_000);
    expect(plan.rows.find(({ key }) => key === 'k12:e')?.heldBid).toBeNull();
    expect(plan.orphans.map(({ rowKey }) => rowKey)).toEqual(['x9.t2']);
    expect(new Set(plan.rows.map(({ key }) => key)).size).toBe(plan.rows.length);
  });

  test('a copy with keywords of its own follows no more, and stays when the first is made no more', () => {
    const ids = (texts: string[]) => keywords.filter(({ norm }) => texts.includes(norm)).map(({ id }) => id);
    const [one, two] = [keywords[0], keywords.find(({ theme }) => theme === 3)] as [
      (typeof keywords)[number],
      (typeof keywords)[number],
    ];
    const own = { keywords: [...ids([one.norm, two.norm]), 99_999], campaign: 'c' };
    const copies = [{ id: 3, of: 't2', name: 'By itself', ads: true, own }];
    const made = (more: Partial<Parameters<typeof input>[2]> = {}) =>
      buildPlan(
        input(
          keywords,
          { unplaced: 'out' },
          { themes, copies, holds: [hold('t2', 'step', 12_000)], ...more },
        ),
      );
    const plan = made();
    const rowsOf = (built: typeof plan) =>
      new Set(built.rows.filter(({ groupKey }) => groupKey === 'x3.t2').map(({ text }) => text));
    expect(rowsOf(plan)).toEqual(new Set([one.norm, two.norm]));
    expect(plan.groups.find(({ key }) => key === 'x3.t2')).toMatchObject({
      name: 'By itself',
      step: 10_000,
      keywords: 2,
      campaign: 'c',
    });
    expect(plan.rows.find(({ groupKey }) => groupKey === 'x3.t2')?.key).toMatch(/^x3\.k\d+:/);
    expect(plan.rows.find(({ groupKey }) => groupKey === 'x3.t2')?.steps).not.toContain(12_000);
    // The first is made no more; the others of the campaign are.
    const gone = made({ copies: [{ ...(copies[0] as (typeof copies)[number]), of: 't77' }] });
    expect(gone.groups.find(({ key }) => key === 'x3.t77')).toMatchObject({ keywords: 2, campaign: 'c' });
    const none = made({
      copies: [{ ...(copies[0] as (typeof copies)[number]), own: { keywords: [99_999], campaign: 'c' } }],
    });
    expect(none.groups.some(({ key }) => key === 'x3.t2')).toBe(false);
  });

  test('what is held of a copy, of its campaign as of its ad groups, is its own', () => {
    const copies = [
      { id: 3, of: 't2', name: 'Hire again', ads: true },
      { id: 4, of: 'c', name: 'Paddle again', ads: true },
    ];
    const holds = [
      hold('t2', 'step', 12_000),
      hold('x3.t2', 'step', 9_000),
      hold('x3.t2', 'labels', 'spring, test'),
      hold('x3.t2', 'status', 'paused'),
      hold('x4.c', 'labels', 'north'),
      hold('x4.c', 'status', 'paused'),
      hold('x4.c', 'bid', 700_000),
    ];
    const plan = buildPlan(
      input(
        keywords,
        { unplaced: 'out', ladder: { ...base.ladder, baseBy: 'default' } },
        { themes, copies, holds },
      ),
    );
    const group = (key: string) => plan.groups.find((one) => one.key === key);
    expect(group('x3.t2')).toMatchObject({
      step: 9_000,
      labels: ['spring', 'test'],
      status: 'paused',
      covered: { step: 12_000, status: 'enabled' },
    });
    expect(plan.rows.find(({ groupKey }) => groupKey === 'x3.t2')?.steps).toContain(9_000);
    expect(plan.rows.find(({ groupKey }) => groupKey === 'x3.t2')?.steps).not.toContain(12_000);
    const first = plan.campaigns[0];
    expect(plan.campaigns[1]).toMatchObject({
      labels: ['north'],
      status: 'paused',
      covered: { status: 'enabled' },
    });
    expect(first).toMatchObject({ labels: [], status: 'enabled' });
    expect(group('t1')?.base).toBe(base.ladder.defaultBase);
    expect(group('x4.t1')).toMatchObject({ base: 700_000, baseFrom: 'default' });
  });
});

describe('a default bid of a campaign', () => {
  const cpcs = [word(1, 'kayak', { theme: 1, cpc: asMicros(900_000) }), word(2, 'canoe', { theme: 3 })];
  const built = (holds: Hold[]) =>
    buildPlan(
      input(cpcs, { campaignBy: 'theme', campaignName: '@theme', unplaced: 'out' }, { themes, holds }),
    ).groups.map((one) => [one.name, one.base, one.baseFrom, one.covered]);
  const canoes = built([]).find(([name]) => name === 'Canoes');

  test('is that of its ad groups without an estimate, and of no other campaign’s', () => {
    expect(canoes?.slice(1, 3)).toEqual([base.ladder.defaultBase, 'default']);
    const [of] = buildPlan(input(cpcs, { campaignBy: 'theme', unplaced: 'out' }, { themes })).groups.flatMap(
      ({ name, campaign }) => (name === 'Canoes' ? [campaign] : []),
    );
    const kayaks = built([]).find(([name]) => name === 'Kayaks');
    const groups = built([hold(of ?? '', 'bid', 650_000)]);
    expect(groups.find(([name]) => name === 'Canoes')?.slice(1, 3)).toEqual([650_000, 'default']);
    expect(groups.find(([name]) => name === 'Kayaks')).toEqual(kayaks);
    expect(kayaks?.[1]).toBe(900_000);
  });

  test('stands under what is held of an ad group', () => {
    const groups = built([hold('t3', 'bid', 100_000), hold('ct3', 'bid', 650_000)]);
    expect(groups.find(([name]) => name === 'Canoes')).toEqual(['Canoes', 100_000, 'held', { bid: 650_000 }]);
  });
});

const hold = (rowKey: string, field: string, value: string | number): Hold => ({
  rowKey,
  field,
  outlet: null,
  value,
});

describe('renaming', () => {
  test('a frame that is only renamed is as one that is made anew', () => {
    const before = buildFrame(input(keywords, { campaignBy: 'theme', campaignName: '@theme' }, { themes }));
    const names = themes.map((one) => ({ ...one, name: `${one.name} again` }));
    const next = input(
      keywords,
      {
        campaignBy: 'theme',
        campaignName: 'All @theme',
        themeName: { pattern: '@branch @theme', style: 'lower' },
      },
      { themes: names, holds: [hold('t2', 'name', 'Ours'), hold('t3', 'name', 'Ours too')] },
    );
    const shown = ({ campaigns, groups }: typeof before) => ({ campaigns, groups });
    const renamed = renameFrame(before, next);
    expect(shown(renamed)).toEqual(shown(buildFrame(next)));
    expect(renamed.groups.map(({ name }) => name)).toContain('Ours');
    const back = renameFrame(renamed, { ...next, holds: [] });
    expect(shown(back)).toEqual(shown(buildFrame({ ...next, holds: [] })));
  });

  test.each(['by-group', 'by-campaign'] as const)('with lanes %s, its rows are the same too', (spread) => {
    const withLanes = () => ({ spread, lanes: [lane(1, 'Wide', 3), lane(2, 'Exact', 8)] });
    const rowsIn = (frame: ReturnType<typeof buildFrame>) => {
      const builder = new RowBuilder(frame);
      return frame.groups.map((group) => builder.rows(group).map(({ key }) => key));
    };
    const built = buildFrame(input(keywords, withLanes(), { themes }));
    const before = rowsIn(built);
    // A layout that was read anew: other objects, which say the same.
    const renamed = renameFrame(built, input(keywords, withLanes(), { themes }));
    expect(before.flat().length).toBeGreaterThan(0);
    expect(rowsIn(renamed)).toEqual(before);
  });
});

describe('what is held', () => {
  const plan = (...holds: Hold[]) => buildPlan(input(keywords, {}, { themes, holds }));
  test('of a campaign: name, budget, status, labels, settings', () => {
    expect(
      plan(
        hold('c', 'name', 'Spring'),
        hold('c', 'budget', 5_000_000),
        hold('c', 'status', 'paused'),
        hold('c', 'labels', 'test, spring , test'),
        hold('c', 'settings', 4),
      ).campaigns[0],
    ).toMatchObject({
      name: 'Spring',
      dailyBudget: 5_000_000,
      status: 'paused',
      labels: ['test', 'spring'],
      settings: 4,
      covered: { name: 'Paddle', budget: 20_000_000, status: 'enabled' },
    });
  });

  test('of a group: name, bid, step, status, labels and its lead', () => {
    const { groups, rows } = plan(
      hold('t2', 'name', 'Kayaks'),
      hold('t2', 'lead', 13),
      hold('t2', 'step', 20_000),
      hold('t1', 'bid', 610_000),
      hold('t1', 'status', 'paused'),
    );
    expect(
      groups.slice(0, 2).map(({ name, keyword, base, step, status }) => [name, keyword, base, step, status]),
    ).toEqual([
      ['Kayaks (2)', 'kayak', 610_000, 10_000, 'paused'],
      ['Kayaks', 'hire a kayak wrenport', 700_000, 20_000, 'enabled'],
    ]);
    expect(rows.find(({ key }) => key === 'k11:e')).toMatchObject({ base: 610_000, steps: [12_500, 6_000] });
    expect(rows.find(({ key }) => key === 'k12:e')).toMatchObject({
      base: 700_000,
      steps: [12_500, 11_500, 20_000],
    });
  });

  test('of a row: bid, status and labels, wherever the keyword goes', () => {
    const holds = [hold('k12:e', 'bid', 90_000), hold('k12:p', 'status', 'paused')];
    for (const grouping of ['themed', 'single'] as const) {
      const { rows, orphans } = buildPlan(
        input(keywords, { grouping: { ...base.grouping, kind: grouping } }, { themes, holds }),
      );
      expect(rows.find(({ key }) => key === 'k12:e')?.heldBid).toBe(90_000);
      expect(rows.find(({ key }) => key === 'k12:p')?.status).toBe('paused');
      expect(orphans).toEqual([]);
    }
  });
});

describe('bases and steps', () => {
  const baseOf = (baseBy: Layout['ladder']['baseBy'], id: number) =>
    buildPlan(input(keywords, { ladder: { ...base.ladder, baseBy } }, { themes })).rows.find(
      ({ keywordId }) => keywordId === id,
    )?.base;
  test.each([
    ['estimate', 12, 700_000],
    ['estimate', 13, 700_000],
    ['estimate', 14, 400_000],
    ['theme', 11, 500_000],
    ['theme', 14, 400_000],
    ['default', 12, 400_000],
  ] as const)('base by %s of keyword %i: %i', (by, id, expected) => expect(baseOf(by, id)).toBe(expected));

  test('£0.40, exact, ready: 0.40 × 1.25 × 1.15 = 0.575, so £0.58 at a penny', () => {
    const ready = [word(1, 'kayak hire', { stage: 'ready' })];
    const row = buildPlan(input(ready)).rows.find(({ type }) => type === 'exact')!;
    expect(row.steps).toEqual([12_500, 11_500]);
    expect(bidOf({ ...row, held: null }, base.ladder, asMicros(10_000))).toBe(580_000);
  });

  test('steps of branches multiply down the tree', () => {
    const branches = [
      { theme: 1, grouping: null, step: 20_000 },
      { theme: 2, grouping: null, step: 5_000 },
    ];
    const { rows } = buildPlan(input(keywords, { branches }, { themes }));
    const stepsOf = (id: number) => rows.find(({ key }) => key === `k${id}:p`)?.steps;
    expect([stepsOf(11), stepsOf(12), stepsOf(14)]).toEqual([
      [10_000, 6_000, 20_000],
      [10_000, 11_500, 20_000, 5_000],
      [10_000],
    ]);
  });

  test('bids that start high: more for narrow types than for wide ones', () => {
    const startHigh = { on: true, narrow: 15_000, wide: 12_000, until: '2027-01-31' };
    const lanes = [lane(1, '', 15)];
    const { rows } = buildPlan(input([word(1, 'kayak')], { startHigh, lanes }));
    expect(rows.map(({ type, steps }) => [type, steps])).toEqual([
      ['broad', [7_000, 12_000]],
      ['modified', [8_500, 12_000]],
      ['phrase', [10_000, 15_000]],
      ['exact', [12_500, 15_000]],
    ]);
  });
});

describe('match types by lane', () => {
  const lanes = [lane(1, 'Wide', setOf(['broad', 'phrase'])), lane(2, 'Exact', setOf(['exact', 'phrase']))];
  test('a type is made once, by the first lane that has it', () => {
    const { rows } = buildPlan(input([word(1, 'kayak')], { lanes, spread: 'by-group' }));
    expect(rows.map(({ key, groupKey }) => `${groupKey} ${key}`)).toEqual([
      'k1l1 k1:b',
      'k1l1 k1:p',
      'k1l2 k1:e',
    ]);
  });
  test('what was asked for and no lane has is not lost', () => {
    expect(typesFor({ asAsked: true, lanes }, { asked: setOf(['modified']) })).toBe(setOf(['modified']));
    expect(typesFor({ asAsked: false, lanes }, { asked: setOf(['modified']) })).toBe(13);
  });
  test('set by hand hold whatever the rules say of what was asked for', () => {
    const byHand = (asked: number) => ({ asked: asked + TYPES_BY_HAND });
    expect(typesFor({ asAsked: false, lanes }, byHand(setOf(['modified'])))).toBe(setOf(['modified']));
    expect(laneTypes({ asAsked: false, lanes }, byHand(setOf(['broad', 'exact'])))).toEqual([1, 8]);
    expect(laneTypes({ asAsked: true, lanes }, byHand(setOf(['exact'])), setOf(['broad']))).toEqual([0, 8]);
  });

  test('of a branch are those of its keywords that were asked for in none, nearest first', () => {
    const tree = [...themes, theme(5, 'Tours', 2)];
    const words = [
      word(1, 'kayak', { theme: 1 }),
      word(2, 'kayak hire', { theme: 2 }),
      word(3, 'kayak tour', { theme: 5, asked: setOf(['phrase']) }),
      word(4, 'canoe', { theme: 3 }),
      word(5, 'kayak tours', { theme: 5 }),
    ];
    const branches = [
      { theme: 1, grouping: null, step: 10_000, types: setOf(['broad']) },
      { theme: 5, grouping: null, step: 10_000, types: setOf(['exact', 'modified']) },
    ];
    const typesOf = (more: Partial<Layout>) =>
      buildPlan(input(words, { branches, unplaced: 'out', ...more }, { themes: tree })).rows.map(
        ({ key }) => key,
      );
    expect(typesOf({}).sort()).toEqual(['k1:b', 'k2:b', 'k3:p', 'k4:e', 'k4:p', 'k5:e', 'k5:m']);
    expect(typesOf({ asAsked: false }).sort()).toEqual([
      'k1:b',
      'k2:b',
      'k3:e',
      'k3:m',
      'k4:e',
      'k4:p',
      'k5:e',
      'k5:m',
    ]);
  });

  test.each<[TypesChange, number, boolean, ReturnType<typeof changedTypes>]>([
    [{ kind: 'set', types: 8 }, 12, false, 8],
    [{ kind: 'set', types: 12 }, 12, false, null],
    [{ kind: 'add', types: 1 }, 12, false, 13],
    [{ kind: 'add', types: 4 }, 12, false, null],
    [{ kind: 'take', types: 4 }, 12, true, 8],
    [{ kind: 'take', types: 1 }, 12, true, null],
    [{ kind: 'take', types: 15 }, 12, false, 'bare'],
    [{ kind: 'as-asked' }, 12, true, 0],
    [{ kind: 'as-asked' }, 12, false, null],
  ])('%j of %i, by hand %s, is %j', (change, types, isByHand, expected) =>
    expect(changedTypes({ types, isByHand }, change)).toBe(expected),
  );

  test.each([
    ['every', [], []],
    ['content', [], [0, 2]],
    ['listed', ['hire'], [2]],
    ['listed', ['kayaks'], [0]],
    ['listed', ['canoe'], [0, 2]],
  ] as const)('marks: %s %j', (which, words, expected) =>
    expect(
      marksFor(
        { norm: 'kayak for hire', asked: 0, marks: [] },
        marker({ which, words: [...words] }, english),
      ),
    ).toEqual(expected),
  );
  test('marks that were asked for stay', () => {
    const asked = { norm: 'kayak for hire', asked: setOf(['modified']), marks: [1] };
    expect(marksFor(asked, marker({ which: 'content', words: [] }, english))).toEqual([1]);
  });
});

describe('names', () => {
  test.each([
    ['@theme – @place', { theme: 'Hire' }, 'Hire'],
    ['@theme – @place(or Eastmere)', { theme: 'Hire' }, 'Hire – Eastmere'],
    ['@theme(title) @place', { theme: 'kayak hire', place: 'x' }, 'Kayak Hire x'],
    ['@place – @theme', { theme: 'Hire' }, 'Hire'],
    ['@branch | @theme | @stage', { branch: 'Kayaks', stage: 'Ready' }, 'Kayaks | Ready'],
    ['@theme', {}, ''],
    ['All of it', {}, 'All of it'],
    ['- @theme -', { theme: 'Hire' }, '- Hire -'],
  ])('%s of %j: %s', (pattern, values, expected) =>
    expect(nameByRule(nameLine(pattern), values, 'as-is', english, null)).toBe(expected),
  );
});

describe('keys', () => {
  test.each([
    ['c', 'campaign'],
    ['ct5l2', 'campaign'],
    ['cw1f', 'campaign'],
    ['x3.c', 'campaign'],
    ['k12', 'group'],
    ['t5f3p2l2', 'group'],
    ['x1.x2.t0', 'group'],
    ['k12:e', 'row'],
    ['t5:e', null],
    ['t5p2/a1', 'ad'],
    ['k', null],
    ["k1' or 1", null],
    ['c\n', null],
  ] as const)('%s: %s', (key, kind) => expect(kindOfKey(key)).toBe(kind));
});

const anyKeyword = fc.record({
  id: fc.nat(500),
  asked: fc.nat(15),
  norm: fc.constantFrom('kayak', 'kayak hire', 'canoe hire', 'red canoe', 'hire', 'sup'),
  theme: fc.nat(4),
  searches: fc.option(fc.nat(1_000)),
  cpc: fc.option(fc.nat(2_000_000).map(asMicros)),
  stage: fc.option(fc.constantFrom<FunnelStage>(...funnelStages)),
  sources: fc.array(fc.constantFrom(7, 8), { minLength: 1, maxLength: 2 }),
});
const anyLayout = fc.record({
  campaignBy: fc.constantFrom('one', 'theme', 'place', 'source', 'stage'),
  grouping: fc.record({
    kind: fc.constantFrom('themed', 'single', 'top'),
    searchesFrom: fc.option(fc.nat(500)),
    first: fc.option(fc.integer({ min: 1, max: 3 })),
    cpcFrom: fc.constant(null),
  }),
  unplaced: fc.constantFrom('single', 'together', 'out'),
  keywordsPerGroup: fc.option(fc.integer({ min: 1, max: 4 })),
  spread: fc.constantFrom('together', 'by-group', 'by-campaign'),
  asAsked: fc.boolean(),
  lanes: fc.constantFrom(
    [lane(1, 'All', 12)],
    [lane(1, 'Wide', 3), lane(2, 'Phrase', 4), lane(3, 'Exact', 8)],
  ),
});

describe('properties', () => {
  test('every keyword that is built has each of its types once; no group is empty or too large; twice is once', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(anyKeyword, { selector: ({ id }) => id, maxLength: 30 }),
        anyLayout,
        (list, layout) => {
          const given = input(
            list.map((one) => word(one.id, one.norm, one)),
            layout as unknown as Partial<Layout>,
            { themes },
          );
          const plan = buildPlan(given);
          expect(buildPlan(given)).toEqual(plan);
          const out = (id: number) => id === 4 || (id === 0 && layout.unplaced === 'out');
          const expected = given.keywords.flatMap((one) =>
            out(one.theme ?? 0)
              ? []
              : matchTypes.flatMap((type, at) =>
                  typesFor(given.layout, one) & (1 << at) ? [`k${one.id}:${type[0]}`] : [],
                ),
          );
          expect(plan.rows.map(({ key }) => key).sort()).toEqual(expected.sort());
          for (const { key } of plan.groups) {
            expect(kindOfKey(key)).toBe('group');
            const own = plan.rows.filter(({ groupKey }) => groupKey === key);
            expect(own.length).toBeGreaterThan(0);
            if (layout.keywordsPerGroup && !key.startsWith('k'))
              expect(new Set(own.map(({ keywordId }) => keywordId)).size).toBeLessThanOrEqual(
                layout.keywordsPerGroup,
              );
          }
          const places = plan.groups.map(({ campaign, name }) => `${campaign} ${name.toLowerCase()}`);
          expect(new Set(places).size).toBe(places.length);
          for (const { base: amount, steps } of plan.rows) {
            expect(Number.isInteger(amount)).toBe(true);
            expect(
              Number.isInteger(bidOf({ base: amount, steps, held: null }, base.ladder, asMicros(10_000))),
            ).toBe(true);
          }
        },
      ),
      { seed: 12, numRuns: 400 },
    );
  });

  test('parts never move when keywords come and go', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(200), { minLength: 1, maxLength: 40 }),
        fc.uniqueArray(fc.nat(200)),
        (first, second) => {
          const at = (ids: number[], partBefore?: FrameInput['partBefore']) => {
            const given = ids.sort((a, b) => a - b).map((id) => word(id, `kayak ${id}`, { theme: 1 }));
            const frame = buildFrame(
              input(given, { keywordsPerGroup: 5 }, { themes, ...(partBefore ? { partBefore } : {}) }),
            );
            return new Map(
              frame.groups.flatMap(({ key, members }) =>
                members.map((one) => [given[one]!.id, partOfKey(key)] as const),
              ),
            );
          };
          const before = at(first);
          const after = at(second, (_, id) => before.get(id) ?? 0);
          for (const [id, part] of after) if (before.has(id)) expect(part).toBe(before.get(id));
        },
      ),
      { seed: 13, numRuns: 200 },
    );
  });
});
