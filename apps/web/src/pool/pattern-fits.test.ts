import { type GroupHeads, type HeldValue, noFacts } from '@sprig/contracts';
import { HeldAds, tokensOf, unfilledOfAd } from '@sprig/core/ads';
import { harrowlight, plainOutlet, quillmere, strictestOf } from '@sprig/core/outlets';
import { planAds, saidGroup } from '@sprig/core/plan';
import { type AdPattern, patternOf, usualAddressRule } from '@sprig/core/write';
import { describe, expect, test } from 'vitest';
import { adRulesOf, PatternFits, type WriteInput } from './pattern-fits.ts';

const keywords = ['kayak', 'sea kayak hire', 'canoe', 'an inflatable sea kayak for two people', 'raft'];
const heads: GroupHeads = {
  builtRevision: 1,
  keys: keywords.map((_, at) => `k${at + 1}`),
  names: keywords,
  keywords,
  searches: [10, 50, 30, 20, null],
  themes: [2, 2, 3, 1, 0],
  places: keywords.map(() => null),
  stages: keywords.map(() => null),
  campaigns: [0, 0, 1, 0, 1],
  campaignNames: ['Kayaks', 'Others'],
  campaignKeys: ['ct1', 'c0'],
  themeNames: [
    { id: 1, parent: null, name: 'Kayaks', branch: 'Kayaks' },
    { id: 2, parent: 1, name: 'Hire', branch: 'Kayaks' },
    { id: 3, parent: null, name: 'Canoes', branch: 'Canoes' },
  ],
};
const lines = {
  headline1: ['@keyword today', '@keyword'],
  headline2: ['On the water'],
  description1: ['Try it first on our own pond, then decide.'],
};
const held = (rowKey: string, field: string, value: string): HeldValue => ({
  id: 1,
  rowKey,
  field,
  value,
  outlet: null,
  orphan: false,
  keyword: null,
  keywordId: 0,
  cut: false,
});
const input = (bodies: Partial<AdPattern>[], more: Partial<WriteInput> = {}): WriteInput => ({
  plan: 1,
  builtRevision: 1,
  patterns: bodies.map((body, at) => ({ id: at + 1, body: patternOf(lines, 'title', body) })),
  address: usualAddressRule(),
  holds: [],
  language: 'en',
  site: 'saltmarshpaddle.example',
  facts: noFacts(),
  today: '2027-01-01',
  outlet: plainOutlet,
  ...more,
});
const fitted = (asked: WriteInput, chosen = 1) => {
  const writing = new PatternFits();
  writing.take(heads);
  return { writing, fit: writing.fit(asked, chosen, false) };
};

describe('patterns in all groups', () => {
  test('counts agree with writing each ad', () => {
    const asked = input([{}, { groups: { to: 'themes', themes: [1], groups: [], campaigns: [] } }]);
    const { fit, writing } = fitted(asked);
    const more = { held: new HeldAds([]), themes: writing.themes() };
    const writer = planAds(adRulesOf(asked, more), plainOutlet);
    const ads = writing.page(0, 10).flatMap((group) => writer.of(group).ads);
    const ofFirst = ads.filter(({ pattern }) => pattern === 1);
    expect(fit.chosen.misfits).toBe(ofFirst.filter((ad) => unfilledOfAd(ad).length > 0).length);
    expect(fit.patterns).toEqual([
      { id: 1, groups: 5, ads: 5, misfits: 1 },
      { id: 2, groups: 3, ads: 3, misfits: 1 },
    ]);
    expect(fit.chosen.versions[0]?.fields.headline1).toMatchObject({ byLine: [4, 0], unfilled: 1 });
  });

  test('of patterns that are for some outlets only, counts agree with writing each ad', () => {
    const outlets = [plainOutlet, harrowlight, quillmere] as const;
    const bodies: Partial<AdPattern>[] = [
      { outlets: ['harrowlight'] },
      { outlets: ['quillmere'], groups: { to: 'themes', themes: [1], groups: [], campaigns: [] } },
      { groups: { to: 'without', themes: [], groups: [], campaigns: [] } },
      { outlets: ['fennelwick'] },
    ];
    const groups = fitted(input([{}])).writing.page(0, 10);
    for (const outlet of [strictestOf(outlets), ...outlets]) {
      const asked = input(bodies, { outlet });
      const { fit, writing } = fitted(asked);
      const more = { held: new HeldAds([]), themes: writing.themes() };
      const writer = planAds(adRulesOf(asked, more), outlet);
      const ads = groups.flatMap((group) => writer.of(group).ads);
      for (const { id, ads: counted, misfits } of fit.patterns) {
        const own = ads.filter(({ pattern }) => pattern === id);
        expect([outlet.key, id, counted, misfits]).toEqual([
          outlet.key,
          id,
          own.length,
          own.filter((ad) => unfilledOfAd(ad).length > 0).length,
        ]);
      }
    }
  });

  test('misfits come first, then the short ones, then by searches', () => {
    const { writing } = fitted(input([{}]));
    expect(writing.page(0, 10).map(({ key }) => key)).toEqual(['k4', 'k2', 'k3', 'k1', 'k5']);
    expect(writing.page(0, 1)[0]).toMatchObject({ misfit: true, campaign: 'Kayaks' });
    expect(writing.placeOf('k4')).toBe(0);
  });

  test('the order stays while something is typed', () => {
    const { writing } = fitted(input([{}]));
    const before = writing.page(0, 10).map(({ key }) => key);
    const typed = input([{}]);
    for (const { body } of typed.patterns) body.fields.headline1.lines = ['Boats'];
    expect(writing.fit(typed, 1, true).chosen.misfits).toBe(0);
    expect(writing.page(0, 10).map(({ key }) => key)).toEqual(before);
    // The same lines kept: put in order by what they are now, and said so.
    expect(writing.fit(typed, 1, false).ordered).toBe(2);
    expect(writing.page(0, 10).map(({ key }) => key)).not.toEqual(before);
  });

  test('those without an ad, and groups that none is for', () => {
    const bodies: Partial<AdPattern>[] = [
      { groups: { to: 'themes', themes: [3], groups: [], campaigns: [] } },
      { groups: { to: 'groups', themes: [], groups: ['k1'], campaigns: [] } },
    ];
    expect(fitted(input(bodies)).fit.without).toBe(3);
    const rest = fitted(
      input([...bodies, { groups: { to: 'without', themes: [], groups: [], campaigns: [] } }]),
    ).fit;
    expect(rest.without).toBe(0);
    expect(rest.patterns.map(({ groups }) => groups)).toEqual([1, 1, 3]);
  });

  test('a split test counts both versions', () => {
    const split: AdPattern['split'] = {
      by: 'line',
      field: 'headline2',
      lines: ['x'.repeat(40)],
      labels: ['a', 'b'],
      paused: null,
    };
    const { fit } = fitted(input([{ split }]));
    expect(fit.patterns).toEqual([{ id: 1, groups: 5, ads: 10, misfits: 1 + 5 }]);
    expect(fit.chosen.misfits).toBe(5);
  });

  test('what is held counts as it is written', () => {
    const cured = fitted(input([{}], { holds: [held('k4/a1', 'headline1', 'Boats for two')] })).fit;
    expect(cured.chosen.misfits).toBe(0);
    const broken = fitted(input([{}], { holds: [held('k1/a1', 'headline1', 'x'.repeat(40))] })).fit;
    expect(broken.chosen.misfits).toBe(2);
    expect(broken.chosen.versions[0]?.fields.headline1?.unfilled).toBe(2);
  });

  test('lines that would cure, and addresses', () => {
    const { writing } = fitted(input([{}]));
    expect(writing.cures(1, 'headline1')).toEqual([{ line: '@theme', fits: 1, of: 1 }]);
    expect(writing.addresses({ ...usualAddressRule(), path: '/@theme' })).toMatchObject({
      bad: 1,
      distinct: 3,
    });
    expect(writing.all()[2]).toEqual({ key: 'k3', campaign: 'Others', group: 'canoe', keyword: 'canoe' });
  });

  test('tokens follow the brief', () => {
    const facts = {
      ...noFacts(),
      brands: ['Otterline'],
      offers: [
        { text: 'Free delivery', from: null, until: '2026-12-31' },
        { text: 'Spring sale', from: null, until: null },
      ],
    };
    const { common } = adRulesOf(input([{}], { facts }), { held: new HeldAds([]), themes: new Map() });
    const group = saidGroup(
      {
        key: 'k1',
        keyword: 'otterline kayak',
        name: 'x',
        theme: 0,
        place: null,
        stage: null,
        campaignKey: 'c0',
      },
      new Map(),
    );
    expect(tokensOf(group, common)).toMatchObject({ brand: 'Otterline', offer: 'Spring sale', year: '2027' });
  });
});
