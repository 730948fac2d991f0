import { type ShownLook, shownLook, usualLook, type VerdictRow } from '@sprig/contracts';
import { lookGroupings, resultFigures } from '@sprig/core/learn';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { daysText, figureText, grainText, typedFigure } from '../../plan/results/result-words.ts';
import { isWithin, type Spot, thinned } from './lasso.ts';
import { addressOfLook, lookOfAddress } from './look-address.ts';
import {
  beforeOf,
  changeOf,
  changeText,
  groupName,
  isAsLong,
  isMoreThanChance,
  noLookWords,
  readFigure,
  toldDaysText,
} from './look-words.ts';
import { paceOf, paceWords } from './pace-words.ts';
import { problemText, replacingWords } from './report-words.ts';
import { actText, evidenceText, limitText, readLimit } from './verdict-words.ts';

const day = fc
  .integer({ min: 19_000, max: 22_000 })
  .map((at) => new Date(at * 86_400_000).toISOString().slice(0, 10));
const days = fc.tuple(day, day).map((both) => {
  const [from = '', to = ''] = both.sort();
  return { from, to };
});
const anyLook: fc.Arbitrary<ShownLook> = fc
  .record({
    account: fc.option(fc.string({ maxLength: 20, minLength: 1 })),
    by: fc.constantFrom(...lookGroupings, 'account' as const),
    range: fc.option(days),
    against: fc.oneof(fc.constantFrom('before' as const, 'none' as const), days),
    names: fc.array(
      fc.record({
        by: fc.constantFrom('campaign' as const, 'match' as const),
        is: fc.string({ maxLength: 30 }),
      }),
      { maxLength: 3 },
    ),
    figures: fc.array(
      fc.record({
        figure: fc.constantFrom(...resultFigures),
        is: fc.constantFrom('over' as const, 'under' as const),
        than: fc.integer({ min: -5_000_000, max: 5_000_000 }),
      }),
      { maxLength: 3 },
    ),
    sort: fc.constantFrom(...resultFigures),
    down: fc.boolean(),
  })
  .map((look) => shownLook.parse(look.by === 'account' ? { ...look, names: [], figures: [] } : look));

const addressOf = (look: ShownLook) =>
  new URLSearchParams(Object.entries(addressOfLook(look)).filter(([, value]) => value !== ''));

describe('a look as an address', () => {
  test('is read back as it was, whatever its names', () =>
    fc.assert(
      fc.property(anyLook, (look) => {
        expect(lookOfAddress(addressOf(look))).toEqual(look);
      }),
    ));

  test('of accounts has no conditions, whatever it says', () =>
    expect(lookOfAddress(new URLSearchParams('by=account&names=[["campaign","Pots"]]'))).toEqual({
      ...usualLook(),
      by: 'account',
    }));

  test('says nothing of what is usual', () => expect([...addressOf(usualLook()).keys()]).toEqual([]));

  test.each([
    'by=nonsense',
    'names=[[1',
    'names={}',
    'figures=[["position","near",4]]',
    'from=2026-13-45&to=x',
    'from=2026-11-02&to=2026-11-01',
    'against=..',
    'sort=',
  ])('that can’t be read is as it usually is: %s', (address) =>
    expect(
      lookOfAddress(new URLSearchParams(`${address}&by=${address.startsWith('by') ? 'x' : 'keyword'}`)),
    ).toEqual({
      ...usualLook(),
      by: address.startsWith('by') ? 'campaign' : 'keyword',
    }),
  );
});

describe('what is drawn around', () => {
  const square: Spot[] = [
    [0, 0],
    [10, 0],
    [10, 10],
    [0, 10],
  ];
  test.each<[Spot, boolean]>([
    [[5, 5], true],
    [[11, 5], false],
    [[-1, 5], false],
    [[5, 12], false],
  ])('%j is within: %s', (spot, is) => expect(isWithin(spot, square)).toBe(is));

  test('a bay that the line leaves out is out', () => {
    const bay: Spot[] = [
      [0, 0],
      [10, 0],
      [10, 10],
      [5, 3],
      [0, 10],
    ];
    expect([isWithin([5, 8], bay), isWithin([5, 1], bay), isWithin([1, 7], bay)]).toEqual([
      false,
      true,
      true,
    ]);
  });

  test('corners that lie close together are one', () =>
    expect(
      thinned(
        [
          [0, 0],
          [1, 0],
          [4, 0],
          [4, 1],
          [9, 1],
        ],
        3,
      ),
    ).toEqual([
      [0, 0],
      [4, 0],
      [9, 1],
    ]));
});

describe('figures in words', () => {
  test.each([
    ['impressions', 1_204, '1,204'],
    ['ctr', 0.034_6, '3.46%'],
    ['cpc', 434_999, '£0.43'],
    ['cost', 0, '£0.00'],
    ['cost', -2_500_000, '−£2.50'],
    ['conversions', 1_500_000, '1.5'],
    ['conversions', -500_000, '-0.5'],
    ['position', 2.04, '2.0'],
    ['return', 1.25, '1.25×'],
    ['clicks', null, '–'],
  ] as const)('%s of %s is %s', (name, value, words) => expect(figureText(name, value, 'GBP')).toBe(words));

  test('what is typed is read back, in the units of the figure', () => {
    for (const name of resultFigures)
      for (const value of [0, 1, 250_000, ...(name === 'ctr' || name === 'position' ? [0.05, 2.5] : [])]) {
        const read = readFigure(name, typedFigure(name, value));
        expect([name, read]).toEqual([name, { value: expect.closeTo(value, 4) }]);
      }
    expect(readFigure('cost', '£1,250.50')).toEqual({ value: 1_250_500_000 });
    expect(readFigure('ctr', '2,5 %')).toEqual({ value: 0.025 });
    expect(readFigure('position', 'four')).toEqual({ words: '“four” is no number. Type it like 3.5.' });
  });

  test('changes are told where there was something, and never of sums of fewer days', () => {
    expect([changeOf(12, 10), changeOf(5, 0), changeOf(5, null)]).toEqual([0.2, null, null]);
    expect([0.2, -0.5, 0.001, 12].map(changeText)).toEqual(['+20%', '−50%', '±0%', '+>999%']);
    const of = (most: number) => ({ least: most, most, of: 28 });
    const figures = resultFigures.map((_, at) => at + 1);
    expect(isAsLong({ days: of(28), daysBefore: of(14) })).toBe(false);
    expect(beforeOf('clicks', figures, { days: of(28), daysBefore: of(14) })).toBeNull();
    expect(beforeOf('ctr', figures, { days: of(28), daysBefore: of(14) })).toBe(6);
    expect(beforeOf('clicks', figures, { days: of(28), daysBefore: of(28) })).toBe(2);
  });
});

test('rates and counts are held against chance, amounts are not', () => {
  const of = (impressions: number, clicks: number, conversions: number) => {
    const told: Partial<Record<(typeof resultFigures)[number], number>> = {
      impressions,
      clicks,
      conversions,
    };
    return resultFigures.map((name) => told[name] ?? null);
  };
  const [now, before] = [of(4_000, 120, 30_400_000), of(4_000, 80, 20_000_000)];
  const days = { least: 28, most: 28, of: 28 };
  const found = {
    days,
    daysBefore: days,
    dispersion: { impressions: 0.01, clicks: 0.01, conversions: null },
  };
  const is = (
    name: (typeof resultFigures)[number],
    then: (number | null)[] | null = before,
    figures = now,
    of28 = found,
  ) => isMoreThanChance(name, figures, then, of28);
  expect(is('ctr')).toBe(true);
  expect(is('rate')).toBe(false);
  expect(is('cost')).toBeNull();
  expect(is('ctr', null)).toBeNull();
  expect(is('rate', before, of(4_000, 120, -2_000_000))).toBeNull();
  // 120 clicks against 80 in 28 days each: 40 against an error of 14.
  expect(is('clicks')).toBe(true);
  expect(is('clicks', before, of(4_000, 90, 0))).toBe(false);
  // Of no days nothing is known, and of fewer days less was to be had.
  expect(is('conversions')).toBeNull();
  expect(is('clicks', before, now, { ...found, daysBefore: { ...days, most: 20 } })).toBeNull();
});

test('days, kinds of reports and groups in words', () => {
  expect(daysText({ from: '2026-11-02', to: '2026-11-29' })).toBe('2 Nov – 29 Nov 2026');
  expect(daysText({ from: '2026-12-15', to: '2027-01-11' })).toBe('15 Dec 2026 – 11 Jan 2027');
  expect(daysText({ from: '2026-11-02', to: '2026-11-02' })).toBe('2 Nov 2026');
  expect(grainText('keyword/day')).toBe('reports of keywords by day');
  expect(grainText('term+keyword+device/range')).toBe(
    'reports of search terms, split by keyword and device, over whole ranges',
  );
  expect([
    groupName('weekday', '1'),
    groupName('hour', '7'),
    groupName('theme', ''),
    groupName('device', ''),
  ]).toEqual(['Monday', '07:00', 'no theme', 'no device told']);
  expect(toldDaysText({ least: 3, most: 5, of: 28 })).toBe('3 to 5 of 28 days');
  expect(noLookWords({ none: 'dimension', missing: ['device'] }, 'device')[0]).toBe(
    'No report of this account tells device',
  );
});

describe('what a report would do, in words', () => {
  const nothing = { rows: 0, times: 0, campaigns: 0, added: 0, gone: 0, changed: 0 };
  test.each([
    [nothing, 'Adds nothing.'],
    [{ ...nothing, added: 1 }, 'Adds 1 row; replaces nothing.'],
    [{ ...nothing, rows: 4, times: 2, campaigns: 1 }, 'All of it was told so already: nothing changes.'],
    [
      { rows: 1_204, times: 7, campaigns: 3, added: 2, gone: 0, changed: 3 },
      'Replaces 7 times of 3 campaigns, 1,204 rows; 2 rows more, 3 figures changed.',
    ],
  ])('%j', (does, words) => expect(replacingWords(does)).toBe(words));

  test('a cell that can’t be read is told with its line and column', () => {
    expect(problemText({ line: 1_018, code: 'figure', column: 'Clicks', text: 'x' })).toBe(
      'Line 1,018, Clicks: “x”, no number: the rest of the row counts.',
    );
    expect(problemText({ line: 2, code: 'broken', column: '', text: '' })).toBe(
      'Line 2: empty, quotes that don’t close, or a line that is too long.',
    );
  });
});

test('a month is held against its pace', () => {
  const month = { daily: 10_000_000, spent: 120_000_000, from: '2026-11-01', to: '2026-11-16', days: 30 };
  expect(paceOf(month)).toBe(0.75);
  expect(paceWords(month, 'GBP')).toBe('November: £120.00 of £300.00 after 16 of 30 days, 75% of its pace');
  expect(paceWords({ ...month, from: '2026-11-05' }, 'GBP')).toBe(
    'November: £120.00 of £300.00 after 12 of 30 days (told from its 5. day on), 100% of its pace',
  );
  expect(paceOf({ ...month, daily: 0 })).toBeNull();
});

describe('verdicts in words', () => {
  const row = (
    verdict: VerdictRow['verdict'],
    part: Partial<VerdictRow['evidence']>,
    more: Partial<VerdictRow> = {},
  ) =>
    ({
      verdict,
      evidence: { own: null, against: null, by: 'none', chance: null, more: null, ...part },
      clicks: 400,
      impressions: 5_200,
      position: 2.14,
      days: null,
      act: null,
      ...more,
    }) as VerdictRow;

  test.each<[VerdictRow, string]>([
    [row('broken-page', { by: 'page' }), 'Its page did not answer when it was last looked at.'],
    [
      row('broken-page', { by: 'since', own: 120, against: 0.08, chance: 1e-5 }),
      '120 clicks since its last conversion; before, 8% of clicks sold, hardly by chance.',
    ],
    [
      row('never-pays', { own: 65_000_000, against: 10_000_000, by: 'aim', chance: 0.0015 }),
      '£65.00 spent and nothing sold; a conversion may cost £10.00.',
    ],
    [
      row('not-sold', { own: 0.005, against: 0.05, by: 'group', chance: 0.01 }),
      '0.5% of 400 clicks sold; its ad group sells 5%.',
    ],
    [
      row('not-clicked', { own: 0.03, against: 0.094, by: 'position', chance: 0.01 }),
      'CTR 3% at position 2.1; 9.4% is to be expected there.',
    ],
    [row('too-low', { own: 5.23, by: 'position' }), 'Position 5.2 over 5,200 impressions.'],
    [row('too-low', { own: 0.46, by: 'lost-rank' }), '46% of impressions lost to rank.'],
    [
      row('pays', { own: 4_000_000, against: 15_000_000, by: 'aim' }),
      '£4.00 a conversion; £15.00 is aimed at.',
    ],
    [
      row('too-early', { more: { of: 'impressions', count: 229.2 } }, { days: 24 }),
      '230 impressions more needed, in about 24 days as it goes.',
    ],
    [
      row('too-early', { more: { of: 'clicks', count: 90 } }, { days: 900 }),
      '90 clicks more needed, more than a year as it goes.',
    ],
  ])('%#', (shown, words) => expect(evidenceText(shown, 'GBP')).toBe(words));

  test('what was done, and what came of it a day', () => {
    const was = { days: 28, impressions: 0, clicks: 56, cost: 28_000_000, conversions: 2 };
    const act = {
      by: 'keyword',
      key: 'k1:e',
      verdict: 'too-low',
      act: { kind: 'raise', by: 20 },
      on: '2026-11-20',
      until: '2026-12-04',
      was,
      since: { days: 0, impressions: 0, clicks: 0, cost: 0, conversions: 0 },
    } as const;
    const acted = (since: (typeof act)['was']) => row('too-low', {}, { act: { ...act, since } });
    expect(actText(acted(act.since), 'GBP')).toBe(
      'Bid raised by 20% on 20 Nov (too low), look again on 4 Dec.',
    );
    expect(actText(acted({ ...was, days: 14, clicks: 42, cost: 21_000_000 }), 'GBP')).toContain(
      'A day, before and since: 2 → 3 clicks, £1.00 → £1.50, 0.1 → 0.1 conversions.',
    );
    expect(actText(row('fine', {}), 'GBP')).toBe('');
  });

  test('limits are typed as they read', () => {
    expect(limitText('notSold', 0.5)).toBe('50%');
    expect(readLimit('notSold', '35 %')).toEqual({ value: 0.35 });
    expect(readLimit('clicks', '250')).toEqual({ value: 250 });
    expect(readLimit('clicks', 'many')).toHaveProperty('words');
  });
});
