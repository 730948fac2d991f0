import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  asDay,
  FigureSums,
  type GroupedBy,
  groupFacts,
  noneTold,
  notBrokenDown,
  type ReadFact,
  resultFigures,
} from './index.ts';

const fact = (
  campaign: string,
  device: string,
  day: number,
  clicks: number,
  impressions = clicks * 20,
): ReadFact => ({
  line: 1,
  nth: 0,
  key: '',
  names: { campaign, group: 'g', keyword: 'tea', match: day % 2 ? 'exact' : null, device },
  campaign: campaign.toLowerCase(),
  place: '',
  time: { from: asDay(day), to: asDay(day) },
  told: { ...noneTold, clicks, impressions },
});
const clicksBy = (facts: ReadFact[], by: GroupedBy) =>
  groupFacts(facts, by).map(({ name, sums }) => [name, sums.figure('clicks')]);

describe('what happened, told apart', () => {
  // Day 20,786 is Sunday 29 November 2026.
  const facts = [
    fact('Teapots', 'phone', 20_786, 3),
    fact('Cups', 'desk', 20_786, 4),
    fact('TEAPOTS', 'desk', 20_787, 5),
    fact('Teapots', 'phone', 20_793, 6),
  ];

  test('by names, whatever their case, by days and weekdays', () => {
    expect(clicksBy(facts, 'campaign')).toEqual([
      ['Teapots', 14],
      ['Cups', 4],
    ]);
    expect(clicksBy(facts, 'device')).toEqual([
      ['phone', 9],
      ['desk', 9],
    ]);
    expect(clicksBy(facts, 'day')).toEqual([
      ['2026-11-29', 7],
      ['2026-11-30', 5],
      ['2026-12-06', 6],
    ]);
    expect(clicksBy(facts, 'weekday')).toEqual([
      ['7', 13],
      ['1', 5],
    ]);
    expect(clicksBy(facts, 'match')).toEqual([
      ['', 7],
      ['exact', 11],
    ]);
    // What the report does not name is one row, without a name.
    expect(clicksBy(facts, 'network')).toEqual([['', 18]]);
  });

  test('told apart by anything, it adds up to the whole', () => {
    const anyFact = fc
      .record({
        c: fc.constantFrom('a', 'B', 'b', ''),
        d: fc.constantFrom('x', 'y'),
        day: fc.integer({ min: 20_000, max: 20_020 }),
        n: fc.nat(50),
        m: fc.nat(900),
      })
      .map(({ c, d, day, n, m }) => fact(c, d, day, n, m));
    fc.assert(
      fc.property(
        fc.array(anyFact, { maxLength: 20 }),
        fc.constantFrom<GroupedBy>('campaign', 'device', 'day', 'weekday', 'match', 'term'),
        (all, by) => {
          const whole = all.reduce((sums, { told }) => sums.add(told), new FigureSums());
          const groups = groupFacts(all, by);
          const again = groups.reduce((sums, group) => sums.addAll(group.sums), new FigureSums());
          for (const name of resultFigures) {
            const [a, b] = [whole.figure(name), again.figure(name)];
            if (a === null || b === null) expect(b).toBe(a);
            else expect(b).toBeCloseTo(a, 9);
          }
          expect(new Set(groups.map(({ key }) => key)).size).toBe(groups.length);
        },
      ),
    );
  });

  test('what a campaign has beyond its terms is not broken down', () => {
    const sums = (clicks: number | null, impressions: number) =>
      new FigureSums().add({ ...noneTold, clicks, impressions });
    expect(notBrokenDown(sums(100, 3_000), sums(80, 2_100))).toEqual({
      impressions: 900,
      clicks: 20,
      cost: null,
      conversions: null,
      value: null,
    });
    expect(notBrokenDown(sums(null, 10), sums(5, 12))).toMatchObject({ clicks: null, impressions: -2 });
  });
});
