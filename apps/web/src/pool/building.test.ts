import { bareColumns, type HeldValue, noFacts, type ThemeRow, usualSortSettings } from '@sprig/contracts';
import { defaultLayout, type Layout } from '@sprig/core/build';
import { CurveMaker, usualAssumptions } from '@sprig/core/figures';
import { asMicros } from '@sprig/core/money';
import { describe, expect, test } from 'vitest';
import { type BuildInput, Building } from './building.ts';
import { PoolStore } from './pool-store.ts';
import { Sorting } from './sorting.ts';

const TEXTS: [string, number, number][] = [
  ['kayak', 900, 500_000],
  ['kayak hire', 400, 700_000],
  ['how to store a kayak', 90, -1],
  ['canoe', 800, 400_000],
  ['canoe hire wrenport', 20, -1],
  ['tent', 10, 300_000],
];

function building() {
  const store = new PoolStore();
  const texts = TEXTS.map(([text]) => text);
  store.take({
    ...bareColumns(texts),
    revision: 1,
    ids: Uint32Array.from(texts, (_, at) => 11 + at),
    cpc: Float64Array.from(TEXTS, ([, , cpc]) => cpc),
    searches: Int32Array.from(TEXTS, ([, searches]) => searches),
    texts,
    norms: texts,
    sources: texts.map(() => [1]),
  });
  return new Building(store, new Sorting(store));
}

const theme = (id: number, term: string): ThemeRow => ({
  id,
  parent: null,
  name: term,
  sift: { has: [[term]], not: [] },
  idea: false,
  colour: null,
  stage: null,
});
const input = (layout: Partial<Layout> = {}, holds: HeldValue[] = []): BuildInput => ({
  layout: { ...defaultLayout('Paddle', 'GBP'), ...layout },
  sort: {
    language: 'en',
    functionWords: null,
    places: [['Wrenport']],
    themes: [theme(1, 'kayak'), theme(2, 'canoe')],
    placed: [],
    settings: usualSortSettings,
    seen: 0,
  },
  facts: { ...noFacts(), places: [['Wrenport']] },
  holds,
  standing: { copies: [], parts: [] },
  sources: [{ id: 1, name: 'Report' }],
  increment: asMicros(10_000),
});

describe('the build as it is typed', () => {
  test('counts what the rules would make, of the placed pool', () => {
    const live = building().live(input());
    expect(live).toMatchObject({
      keywords: 6,
      campaigns: 1,
      groups: 3,
      rows: 12,
      largestGroup: 3,
      withoutEstimate: 2,
      groupNames: ['kayak', 'canoe', 'tent'],
      rowsByType: { broad: 0, modified: 0, phrase: 6, exact: 6 },
    });
    expect(live.medians.broad).toBeNull();
  });

  test('follows other rules at once: campaigns by place, the unplaced out', () => {
    const build = building();
    expect(build.live(input({ campaignBy: 'place', campaignName: '@place' }))).toMatchObject({
      campaigns: 2,
      campaignNames: ['Wrenport', 'Campaign'],
    });
    expect(build.live(input({ unplaced: 'out' }))).toMatchObject({ keywords: 5, groups: 2 });
  });

  test('bids by stage, by the theme’s median where there is no estimate, and as held', () => {
    const held = { rowKey: 'k12:e', field: 'bid', outlet: null, value: 2_000_000 } as HeldValue;
    // How to store: the median of 0.50 and 0.70, early, phrase: 0.60 × 60%.
    expect(building().live(input({}, [held]))).toMatchObject({ lowestBid: 300_000, highestBid: 2_000_000 });
    const onlyPhrase = input();
    onlyPhrase.layout = {
      ...onlyPhrase.layout,
      lanes: [{ ...onlyPhrase.layout.lanes[0]!, types: 4 }],
      unplaced: 'out',
    };
    expect(building().live(onlyPhrase)).toMatchObject({ lowestBid: 360_000, highestBid: 810_000 });
  });

  test('each search is forecast once, at its highest bid, from the figures of the pool', () => {
    const live = building().live(input());
    const curves = new CurveMaker(usualAssumptions);
    const sum = { clicks: 0, cost: 0, impressions: 0 };
    // The exact bid of kayak is its CPC of 0.50 × 125%; tent is in no theme: its CPC is the base all the same.
    for (const [, searches, cpc] of TEXTS)
      if (cpc >= 0) curves.add({ searches, cpc, competition: null }, asMicros(cpc * 1.25), sum);
    expect(live.missing).toBe(TEXTS.filter(([, , cpc]) => cpc < 0).length);
    expect(live.day?.clicks).toBeGreaterThan(0);
    expect(live.day?.clicks).toBeLessThan((sum.clicks * 12) / 365 + 1e-9);
    const low = input();
    low.layout.ladder.ceiling = asMicros(300_000);
    expect(building().live(low).day?.cost).toBeLessThan(live.day?.cost as number);
    const dear = input();
    dear.facts = { ...dear.facts, assumptions: { ...usualAssumptions, ctr: 400 } };
    expect(building().live(dear).day?.clicks).toBeCloseTo((live.day?.clicks as number) / 2, 6);
  });
});
