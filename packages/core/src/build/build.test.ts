import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { frameInputOf, keywordOf } from '../../fixtures/build.ts';
import { asMicros } from '../money/index.ts';
import {
  type BuildKeyword,
  bidOf,
  buildFrame,
  buildPlan,
  buildYield,
  defaultLayout,
  type Hold,
  type Layout,
  layoutOn,
  uniqueNames,
} from './index.ts';

const keyword = keywordOf;
const layout: Layout = defaultLayout('Kayaks', 'GBP');
const build = (keywords: BuildKeyword[], holds: Hold[] = [], changed: Partial<Layout> = {}) =>
  buildPlan(frameInputOf({ keywords, holds, layout: { ...layout, ...changed } }));
const hold = (rowKey: string, field: string, value: string | number): Hold => ({
  rowKey,
  field,
  outlet: null,
  value,
});
const penny = asMicros(10_000);

describe('unique names', () => {
  test.each([
    ['repeats are numbered', ['a', 'A', 'b', 'a'], undefined, ['a', 'A (2)', 'b', 'a (3)']],
    ['a number already taken is passed over', ['a', 'a (2)', 'a'], undefined, ['a', 'a (2)', 'a (3)']],
    ['cut at a word, then numbered', ['sea kayak hire', 'sea kayak sale'], 10, ['sea kayak', 'sea (2)']],
  ] as const)('%s', (_, names, limit, expected) => expect(uniqueNames([...names], limit)).toEqual(expected));

  test('100,000 equal names in linear time, none twice, none too long', () => {
    const names = uniqueNames(
      Array.from({ length: 100_000 }, () => 'kayak hire in wrenport'),
      20,
    );
    expect(new Set(names).size).toBe(100_000);
    expect(names.at(-1)).toBe('kayak hire (100000)');
  });
});

describe('bids', () => {
  const { ladder } = layout;
  test.each([
    ['base × step', 400_000, [12_500], null, 500_000],
    ['rounded half up to a penny', 404_000, [12_500], null, 510_000],
    ['not under the floor', 10_000, [7_000], null, 50_000],
    ['not over the ceiling', 9_000_000, [12_500], null, 5_000_000],
    ['held: rounded, but not bounded', 400_000, [12_500], 9_004_000, 9_000_000],
  ] as const)('%s', (_, base, steps, held, expected) => {
    const parts = { base: asMicros(base), steps, held: held === null ? null : asMicros(held) };
    expect(bidOf(parts, ladder, penny)).toBe(expected);
  });

  test('a narrower match type never bids less than a wider one by the default ladder', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e8 }), (base) => {
        const bids = [7_000, 8_500, 10_000, 12_500].map((step) =>
          bidOf({ base: asMicros(base), steps: [step], held: null }, ladder, penny),
        );
        expect([...bids].sort((a, b) => a - b)).toEqual(bids);
      }),
      { seed: 4 },
    );
  });
});

describe('single-keyword ad groups', () => {
  test('one group per keyword, in the match types it was asked in or else the ticked ones', () => {
    const plan = build([
      keyword(7, 'Red Kayak', { asked: 2, marks: [1] }),
      keyword(9, 'canoe', { cpc: asMicros(580_000) }),
    ]);
    expect(plan.groups.map(({ key, name, base, baseFrom }) => [key, name, base, baseFrom])).toEqual([
      ['k7', 'Red Kayak', 400_000, 'default'],
      ['k9', 'canoe', 580_000, 'estimate'],
    ]);
    expect(plan.rows.map(({ key, text, type, marks, steps }) => [key, text, type, marks, steps])).toEqual([
      ['k7:m', 'red kayak', 'modified', [1], [8_500]],
      ['k9:p', 'canoe', 'phrase', [], [10_000]],
      ['k9:e', 'canoe', 'exact', [], [12_500]],
    ]);
  });

  test('ticked match types for all when not as asked', () => {
    const lanes = layout.lanes.map((lane) => ({ ...lane, types: 1 | 4 }));
    const plan = build([keyword(1, 'a', { asked: 8 })], [], { asAsked: false, lanes });
    expect(plan.rows.map(({ type }) => type)).toEqual(['broad', 'phrase']);
  });

  test('names by pattern and case', () => {
    const groupName = { pattern: 'SKAG @keyword', style: 'title' } as const;
    expect(build([keyword(1, 'kayak for sea')], [], { groupName }).groups[0]?.name).toBe(
      'SKAG Kayak for Sea',
    );
  });

  test('held values stay on top, and the rule values are kept under them', () => {
    const keywords = [keyword(1, 'kayak'), keyword(2, 'canoe', { cpc: asMicros(300_000) })];
    const plan = build(keywords, [
      hold('k2', 'name', 'Kayak'),
      hold('k2', 'bid', 610_000),
      hold('k1:e', 'bid', 90_000),
    ]);
    expect(plan.groups.map(({ name, base, covered }) => [name, base, covered])).toEqual([
      ['kayak (2)', 400_000, null],
      ['Kayak', 610_000, { name: 'canoe', bid: 300_000 }],
    ]);
    expect(plan.rows.map(({ heldBid }) => heldBid)).toEqual([null, 90_000, null, null]);
  });

  test('holds whose row is gone are set aside', () => {
    const holds = [
      hold('k5', 'name', 'x'),
      hold('k1:b', 'bid', 1),
      hold('k1/a1', 'headline1', 'x'),
      hold('k5/a1', 'path1', 'y'),
    ];
    expect(build([keyword(1, 'kayak')], holds).orphans.map(({ rowKey }) => rowKey)).toEqual([
      'k5',
      'k1:b',
      'k5/a1',
    ]);
  });

  const pool = fc.uniqueArray(
    fc.record({ id: fc.nat(999), asked: fc.nat(15), text: fc.stringMatching(/^[a-c ]{1,6}$/) }),
    {
      selector: ({ id }) => id,
      maxLength: 40,
    },
  );
  const toKeywords = (list: { id: number; asked: number; text: string }[]) =>
    list.map(({ id, text, asked }) => keyword(id, text.trim() || 'x', { asked }));

  test('twice is once, names are unique, keys never depend on names', () => {
    fc.assert(
      fc.property(pool, (list) => {
        const keywords = toKeywords(list);
        const plan = build(keywords);
        expect(build(keywords)).toEqual(plan);
        const names = plan.groups.map(({ name }) => name.toLowerCase());
        expect(new Set(names).size).toBe(names.length);
        const renamed = build(keywords, [], { groupName: { pattern: 'All', style: 'as-is' } });
        expect(renamed.rows.map(({ key }) => key)).toEqual(plan.rows.map(({ key }) => key));
      }),
      { seed: 9 },
    );
  });

  test('the yield counts what the build makes, and its bids lie at the ends', () => {
    fc.assert(
      fc.property(pool, fc.boolean(), (list, asAsked) => {
        const keywords = toKeywords(list).map((one, at) => ({
          ...one,
          cpc: at % 3 === 0 ? asMicros(at * 70_001) : null,
        }));
        const changed = { ...layout, asAsked };
        const plan = build(keywords, [], changed);
        const frame = buildFrame(frameInputOf({ keywords, layout: changed }));
        const sum = buildYield(frame, penny);
        const bids = plan.rows.map(({ base, steps }) =>
          bidOf({ base, steps, held: null }, layout.ladder, penny),
        );
        expect([sum.groups, sum.rows]).toEqual([plan.groups.length, plan.rows.length]);
        expect(sum.lowestBid).toBe(bids.length ? Math.min(...bids) : null);
        expect(sum.highestBid).toBe(bids.length ? Math.max(...bids) : null);
      }),
      { seed: 10 },
    );
  });
});

test.each([
  [null, '2027-03-31', true],
  ['2027-04-01', '2027-03-31', true],
  ['2027-04-01', '2027-04-01', false],
  ['2027-04-01', '2028-01-01', false],
])('bids that start high until %s, on %s: %s', (until, day, isOn) => {
  const layout = { startHigh: { on: true, narrow: 15_000, wide: 12_000, until } };
  expect(layoutOn(layout, day).startHigh.on).toBe(isOn);
});
