import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  adds,
  asDay,
  type Claim,
  claimOf,
  claims,
  type Dimension,
  dimensions,
  dimensionsOf,
  type GrainOnHand,
  grainCode,
  grainFor,
  grainOf,
  noneTold,
  pickTimes,
  type ReportFact,
  type ReportImport,
  readGrain,
  replacing,
  standing,
  type Time,
  timeKey,
  timeSteps,
} from './index.ts';

const day = (from: number): Time => ({ from: asDay(from), to: asDay(from) });
const time = (from: number, to: number): Time => ({ from: asDay(from), to: asDay(to) });
const told = (clicks: number) => ({ ...noneTold, impressions: clicks * 10, clicks });
const of = { account: 'fennelwick', grain: 'keyword/day' };
const fact = (at: number, campaign: string, place: string, clicks: number): ReportFact => ({
  time: day(at),
  campaign,
  place,
  told: told(clicks),
});
const imported = (facts: ReportFact[], said: Time[] = [], isWhole = false, own = of): ReportImport => ({
  claim: claimOf(own, facts, said, isWhole),
  facts,
});
const stood = (imports: readonly ReportImport[]) =>
  standing(imports)
    .flatMap(({ claim, facts }) => facts.map((one) => JSON.stringify([claim.account, claim.grain, one])))
    .sort();

describe('grains', () => {
  test('a grain tells what its columns tell', () => {
    expect(grainCode(grainOf(new Set(['campaign', 'group', 'keyword', 'device']), 'day'))).toBe(
      'keyword+device/day',
    );
    // A report of terms that names what answered them is another grain than one that does not.
    expect(grainCode(grainOf(new Set(['campaign', 'group', 'keyword', 'term']), 'range'))).toBe(
      'term+keyword/range',
    );
    expect(grainCode(grainOf(new Set(), 'week'))).toBe('account/week');
  });

  test('its code says all of it, and nothing else is a code', () => {
    fc.assert(
      fc.property(fc.subarray([...dimensions]), fc.constantFrom(...timeSteps), (some, step) => {
        const grain = grainOf(new Set(some), step);
        expect(readGrain(grainCode(grain))).toEqual(grain);
        // What its rows name is told, but for a second name of rows that no split is: an ad's words beside an extra's.
        const has = dimensionsOf(grain);
        const [finest] = (['extra', 'term', 'ad', 'keyword', 'group', 'campaign'] as const).filter((one) =>
          some.includes(one),
        );
        for (const one of some)
          if (one === finest || !['term', 'group', 'campaign'].includes(one)) expect([...has]).toContain(one);
      }),
    );
    for (const code of [
      'keyword',
      'keyword/year',
      'word/day',
      'keyword+device+device/day',
      'ad+page+hour/day',
      '',
    ])
      expect(readGrain(code)).toBeUndefined();
  });
});

/** Imports over few days, campaigns and grains, so that they meet. */
const anyFacts = fc.array(
  fc.record({
    at: fc.integer({ min: 1, max: 4 }),
    campaign: fc.constantFrom('a', 'b', 'c'),
    place: fc.constantFrom('k1', 'k2'),
    clicks: fc.integer({ min: 0, max: 9 }),
  }),
  { maxLength: 8 },
);
const anyImport = fc
  .record({
    facts: anyFacts,
    said: fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 3 }),
    isWhole: fc.boolean(),
    account: fc.constantFrom('fennelwick', 'quillmere'),
    grain: fc.constantFrom('keyword/day', 'keyword+device/day'),
  })
  .map(({ facts, said, isWhole, account, grain }) => {
    const once = new Map(facts.map((one) => [`${one.at}:${one.campaign}:${one.place}`, one]));
    return imported(
      [...once.values()].map(({ at, campaign, place, clicks }) => fact(at, campaign, place, clicks)),
      said.map(day),
      isWhole,
      { account, grain },
    );
  });

describe('imports', () => {
  test('the days and campaigns that an import names are its own; others stay', () => {
    const before = imported([fact(1, 'a', 'k1', 5), fact(1, 'b', 'k1', 6), fact(2, 'a', 'k1', 7)]);
    const after = imported([fact(1, 'a', 'k2', 1)]);
    expect(stood([before, after])).toEqual(
      stood([imported([fact(1, 'a', 'k2', 1), fact(1, 'b', 'k1', 6), fact(2, 'a', 'k1', 7)])]),
    );
  });

  test('a day without a row had nothing, where the report says that it is of that day', () => {
    const before = imported([fact(1, 'a', 'k1', 5), fact(2, 'a', 'k1', 7)]);
    expect(stood([before, imported([fact(1, 'a', 'k1', 5)], [day(1), day(2)])])).toEqual(
      stood([imported([fact(1, 'a', 'k1', 5)])]),
    );
  });

  test('the whole account speaks for campaigns that it does not name', () => {
    const before = imported([fact(1, 'a', 'k1', 5), fact(1, 'b', 'k1', 6)]);
    expect(stood([before, imported([fact(1, 'a', 'k1', 5)], [], true)])).toEqual(
      stood([imported([fact(1, 'a', 'k1', 5)])]),
    );
  });

  test('a range takes the place of the same range only', () => {
    const ofRange = (from: number, to: number, clicks: number): ReportImport =>
      imported([{ ...fact(1, 'a', 'k1', clicks), time: time(from, to) }], [], false, {
        account: 'fennelwick',
        grain: 'keyword/range',
      });
    expect(stood([ofRange(1, 7, 3), ofRange(1, 8, 4)])).toHaveLength(2);
    expect(stood([ofRange(1, 7, 3), ofRange(1, 8, 4), ofRange(1, 7, 5)])).toEqual(
      stood([ofRange(1, 8, 4), ofRange(1, 7, 5)]),
    );
  });

  test('what it would do is said before', () => {
    const before = imported([
      fact(1, 'a', 'k1', 5),
      fact(1, 'a', 'k2', 6),
      fact(1, 'b', 'k1', 7),
      fact(2, 'a', 'k1', 8),
    ]);
    const next = imported([fact(1, 'a', 'k1', 4), fact(1, 'a', 'k3', 1), fact(2, 'a', 'k1', 8)]);
    expect(replacing([before], next)).toEqual({
      rows: 3,
      times: 2,
      campaigns: 1,
      added: 1,
      gone: 1,
      // Impressions and clicks of one row.
      changed: 2,
      isSame: false,
    });
    expect(replacing([before], before)).toMatchObject({
      rows: 4,
      added: 0,
      gone: 0,
      changed: 0,
      isSame: true,
    });
  });

  test('the same sheet twice changes nothing', () => {
    fc.assert(
      fc.property(fc.array(anyImport, { maxLength: 3 }), anyImport, (before, next) => {
        expect(stood([...before, next, next])).toEqual(stood([...before, next]));
        const stand = standing([...before, next]);
        expect(replacing(stand, next).isSame).toBe(true);
      }),
    );
  });

  test('of one account, grain, time and campaign all that stands is of one import', () => {
    fc.assert(
      fc.property(fc.array(anyImport, { maxLength: 5 }), (imports) => {
        const from = new Map<string, number>();
        for (const [n, { claim, facts }] of standing(imports).entries())
          for (const one of facts) {
            const unit = [claim.account, claim.grain, timeKey(one.time), one.campaign].join(' ');
            expect(from.get(unit) ?? n).toBe(n);
            from.set(unit, n);
          }
      }),
    );
  });

  test('the last import stands whole, and what it does not speak for stays as it was', () => {
    fc.assert(
      fc.property(fc.array(anyImport, { maxLength: 3 }), anyImport, (before, last) => {
        const after = standing([...before, last]);
        expect(after.at(-1)?.facts).toEqual(last.facts);
        const was = standing(before);
        for (const [n, { claim, facts }] of was.entries()) {
          const isOfLast = claim.account === last.claim.account && claim.grain === last.claim.grain;
          expect(after[n]?.facts).toEqual(facts.filter((one) => !isOfLast || !claims(last.claim, one)));
        }
      }),
    );
  });

  test('the order of imports that share nothing does not matter', () => {
    const meets = (a: Claim, b: Claim) =>
      a.account === b.account &&
      a.grain === b.grain &&
      [...a.times].some((one) => b.times.has(one)) &&
      (a.campaigns === null || b.campaigns === null || [...a.campaigns].some((one) => b.campaigns?.has(one)));
    let apart = 0;
    fc.assert(
      fc.property(fc.array(anyImport, { maxLength: 2 }), anyImport, anyImport, (before, a, b) => {
        if (meets(a.claim, b.claim)) return;
        apart++;
        expect(stood([...before, a, b])).toEqual(stood([...before, b, a]));
      }),
    );
    expect(apart).toBeGreaterThan(10);
  });

  test('taken back, what stood before stands again', () => {
    fc.assert(
      fc.property(fc.array(anyImport, { minLength: 1, maxLength: 4 }), fc.nat(), (imports, n) => {
        const at = n % imports.length;
        const others = imports.filter((_, other) => other !== at);
        // What is left is as if it had never been: whatever it hid is there, unless a later one hides it too.
        const left = new Set(stood(others));
        const back = imports[at] as ReportImport;
        for (const one of standing(imports).flatMap(({ claim, facts }, other) =>
          other === at ? [] : facts.map((f) => JSON.stringify([claim.account, claim.grain, f])),
        ))
          expect(left.has(one)).toBe(true);
        const with_ = new Set(stood(imports));
        for (const { claim, facts } of standing(others))
          for (const one of facts) {
            const isOfBack = claim.account === back.claim.account && claim.grain === back.claim.grain;
            const text = JSON.stringify([claim.account, claim.grain, one]);
            expect(with_.has(text) || (isOfBack && claims(back.claim, one))).toBe(true);
          }
      }),
    );
  });
});

describe('times that can be added', () => {
  test('days of a range, and only those within it', () => {
    expect(pickTimes([day(1), day(2), day(9)], time(1, 7))).toEqual({ times: [day(1), day(2)], days: 2 });
    expect(pickTimes([time(0, 7)], time(1, 7))).toEqual({ times: [], days: 0 });
  });

  test('of times that overlap those that cover most', () => {
    expect(pickTimes([time(1, 4), time(4, 7), time(1, 6)], time(1, 7))).toEqual({
      times: [time(1, 6)],
      days: 6,
    });
    expect(pickTimes([time(1, 3), time(4, 7), time(1, 6)], time(1, 7)).days).toBe(7);
    // A whole one rather than its parts.
    expect(pickTimes([time(1, 3), time(4, 7), time(1, 7)], time(1, 7)).times).toEqual([time(1, 7)]);
  });

  const anyTime = fc
    .tuple(fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 8 }))
    .map(([from, days]) => time(from, from + days));

  test('no day is added twice, and no choice covers more', () => {
    fc.assert(
      fc.property(fc.array(anyTime, { maxLength: 9 }), anyTime, (times, range) => {
        const picked = pickTimes(times, range);
        const days = picked.times.flatMap(({ from, to }) =>
          Array.from({ length: to - from + 1 }, (_, at) => from + at),
        );
        expect(new Set(days).size).toBe(days.length);
        expect(days.length).toBe(picked.days);
        for (const one of picked.times) expect(one.from >= range.from && one.to <= range.to).toBe(true);
        // Slow way: every set of them.
        let most = 0;
        for (let set = 0; set < 1 << times.length; set++) {
          const some = times
            .filter((_, at) => set & (1 << at))
            .filter(({ from, to }) => from >= range.from && to <= range.to);
          const all = some.flatMap(({ from, to }) =>
            Array.from({ length: to - from + 1 }, (_, at) => from + at),
          );
          if (new Set(all).size === all.length) most = Math.max(most, all.length);
        }
        expect(picked.days).toBe(most);
      }),
      { numRuns: 60 },
    );
  });
});

describe('the grain that a look reads', () => {
  const onHand = (code: string, times: Record<string, Time[]>): GrainOnHand => {
    const grain = readGrain(code);
    if (!grain) throw new Error(code);
    return { grain, times: new Map(Object.entries(times)) };
  };
  const week = time(1, 7);
  const days = [1, 2, 3, 4, 5, 6, 7].map(day);
  const asked = (dims: Dimension[], byDay = false) => ({ dimensions: new Set(dims), byDay, range: week });
  const found = (answer: ReturnType<typeof grainFor>) =>
    'grain' in answer ? grainCode(answer.grain) : answer;

  test('the coarsest that tells what is asked', () => {
    const all = [
      onHand('keyword+device/day', { a: days }),
      onHand('keyword/day', { a: days }),
      onHand('campaign/day', { a: days }),
      onHand('term+keyword/day', { a: days }),
    ];
    expect(found(grainFor(asked(['campaign']), all))).toBe('campaign/day');
    expect(found(grainFor(asked(['keyword']), all))).toBe('keyword/day');
    expect(found(grainFor(asked(['keyword', 'device']), all))).toBe('keyword+device/day');
    expect(found(grainFor(asked(['term', 'keyword']), all))).toBe('term+keyword/day');
    expect(grainFor(asked(['term', 'device']), all)).toEqual({ none: 'dimension', missing: [] });
    expect(grainFor(asked(['page']), all)).toEqual({ none: 'dimension', missing: ['page'] });
  });

  test('the one that covers most of the range, and says how much', () => {
    const answer = grainFor(asked(['campaign']), [
      onHand('campaign/day', { a: days.slice(0, 2), b: [] }),
      onHand('keyword/range', { a: [week], b: [time(1, 9)] }),
    ]);
    expect(found(answer)).toBe('keyword/range');
    expect(answer).toMatchObject({ days: { least: 0, most: 7, of: 7 } });
  });

  test('by day only what was told by day', () => {
    const ranges = [onHand('keyword/range', { a: [week] }), onHand('keyword/week', { a: [week] })];
    expect(found(grainFor(asked(['keyword']), ranges))).toBe('keyword/week');
    expect(grainFor(asked(['keyword'], true), ranges)).toEqual({ none: 'days' });
    expect(grainFor({ ...asked(['keyword']), range: time(2, 6) }, ranges)).toEqual({ none: 'time' });
  });

  test('only rows of that grain and of those times are added', () => {
    const answer = grainFor(asked(['campaign']), [
      onHand('campaign/range', { a: [week, time(1, 3)], b: [time(1, 3)] }),
    ]);
    if (!('grain' in answer)) throw new Error('none');
    expect(adds(answer, 'campaign/range', 'a', week)).toBe(true);
    expect(adds(answer, 'campaign/range', 'a', time(1, 3))).toBe(false);
    expect(adds(answer, 'campaign/range', 'b', time(1, 3))).toBe(true);
    expect(adds(answer, 'keyword/range', 'a', week)).toBe(false);
    expect(adds(answer, 'campaign/range', 'c', week)).toBe(false);
  });
});
