import { randomBinomial, randomLcg } from 'd3-random';
import { describe, expect, test } from 'vitest';
import { expectedCtr, type JudgedRow, judge, usualVerdictLimits } from './index.ts';

const M = 1_000_000;
const row = (part: Partial<JudgedRow> = {}): JudgedRow => ({
  impressions: 2_000,
  clicks: 200,
  cost: 100 * M,
  position: 2,
  lostRank: null,
  settled: { clicks: 200, cost: 100 * M, conversions: 10, value: 0 },
  since: { clicks: 10, cost: 5 * M },
  type: 'exact',
  isBrand: false,
  network: '',
  group: 'g',
  theme: 't',
  campaign: 'c',
  pageFails: false,
  ...part,
});
const aim = { cost: 10 * M, return: null };
/** Others that are as usual, at all positions, so that there is something to be held against. */
const others = Array.from({ length: 40 }, (_, at) =>
  row({
    position: 1 + (at % 5),
    clicks: Math.round(200 * 0.8 ** (at % 5)),
    group: `g${at % 8}`,
    settled: { clicks: 200, cost: 100 * M, conversions: 10, value: 0 },
  }),
);
const verdictOf = (
  part: Partial<JudgedRow>,
  limits = usualVerdictLimits,
  aims: typeof aim | { cost: null; return: number | null } = aim,
) => judge([row(part), ...others], limits, aims)[0];
const settled = (part: Partial<JudgedRow['settled']>) => ({ ...row().settled, ...part });

describe('verdicts', () => {
  test('a page that fails, or sells no more though it is clicked, is broken', () => {
    expect(verdictOf({ pageFails: true })).toMatchObject({
      verdict: 'broken-page',
      stake: 100 * M,
      evidence: { by: 'page' },
    });
    const stopped = verdictOf({ since: { clicks: 120, cost: 60 * M }, settled: settled({ clicks: 240 }) });
    expect(stopped).toMatchObject({
      verdict: 'broken-page',
      stake: 60 * M,
      evidence: { own: 120, by: 'since' },
    });
    // Ten, all among the first 120 of 240 clicks.
    const chance = Array.from({ length: 10 }, (_, nth) => (120 - nth) / (240 - nth)).reduce((a, b) => a * b);
    expect(stopped?.evidence.chance).toBeCloseTo(chance, 12);
    expect(verdictOf({ since: { clicks: 30, cost: 15 * M } })?.verdict).not.toBe('broken-page');
  });

  test('what has cost several times the aim and sold nothing never pays; without an aim that rests', () => {
    const none = { since: null, settled: settled({ conversions: 0, clicks: 130, cost: 65 * M }) };
    expect(verdictOf(none)).toMatchObject({
      verdict: 'never-pays',
      stake: 65 * M,
      evidence: { own: 65 * M, against: 10 * M },
    });
    expect(verdictOf(none, usualVerdictLimits, { cost: null, return: null })?.verdict).not.toBe('never-pays');
    // By a return of 4 a conversion that brings 40 may cost 10.
    const worth = others.map((one) => ({ ...one, settled: { ...one.settled, value: 400 * M } }));
    const [first] = judge([row(none), ...worth], usualVerdictLimits, { cost: null, return: 4 });
    expect(first).toMatchObject({ verdict: 'never-pays', evidence: { against: 10 * M } });
    expect(
      verdictOf({ ...none, settled: settled({ conversions: 0, clicks: 60, cost: 25 * M }) })?.verdict,
    ).not.toBe('never-pays');
  });

  test('what sells far worse than what surrounds it is not sold, and is held against the nearest', () => {
    const bad = { since: null, settled: settled({ conversions: 2, clicks: 400, cost: 20 * M }) };
    expect(verdictOf({ ...bad, group: 'g1' })).toMatchObject({
      verdict: 'not-sold',
      evidence: { own: 0.005, against: 0.05, by: 'group' },
      stake: 18 * M,
    });
    expect(verdictOf({ ...bad, group: 'alone', theme: 't' })?.evidence.by).toBe('theme');
    expect(verdictOf({ ...bad, group: 'alone', theme: 'alone' })?.evidence.by).toBe('campaign');
    expect(
      verdictOf({ ...bad, settled: settled({ conversions: 0, clicks: 60, cost: 20 * M }) })?.verdict,
    ).not.toBe('not-sold');
  });

  test('what is seen and not clicked, stands too low, pays, is fine, or has seen too little', () => {
    expect(verdictOf({ clicks: 60, cost: 30 * M })).toMatchObject({
      verdict: 'not-clicked',
      evidence: { own: 0.03, by: 'position' },
    });
    expect(verdictOf({ position: 5.2, clicks: 80 })).toMatchObject({
      verdict: 'too-low',
      evidence: { own: 5.2, against: 3.5, by: 'position' },
    });
    expect(verdictOf({ position: null, lostRank: 0.6 })).toMatchObject({
      verdict: 'too-low',
      evidence: { own: 0.6, by: 'lost-rank' },
    });
    expect(verdictOf({ position: null, lostRank: null })?.verdict).toBe('fine');
    expect(verdictOf({ settled: settled({ conversions: 30 }) })).toMatchObject({
      verdict: 'pays',
      evidence: { against: 10 * M, by: 'aim' },
    });
    expect(verdictOf({ settled: settled({ conversions: 30 }) })?.stake).toBeCloseTo(200 * M, 0);
    expect(verdictOf({})?.verdict).toBe('fine');
    const few = {
      impressions: 300,
      clicks: 3,
      settled: settled({ clicks: 3, cost: M, conversions: 0 }),
      since: null,
    };
    expect(verdictOf(few)).toMatchObject({
      verdict: 'too-early',
      evidence: { more: { of: 'impressions', count: 200 } },
    });
  });

  test('where nothing tells conversions nothing is said of selling', () => {
    const dumb = others.map((one) => ({ ...one, since: null, settled: { ...one.settled, conversions: 0 } }));
    const said = judge(dumb, usualVerdictLimits, aim).map(({ verdict }) => verdict);
    expect(said.some((one) => one === 'never-pays' || one === 'not-sold' || one === 'broken-page')).toBe(
      false,
    );
    expect(judge([], usualVerdictLimits, aim)).toEqual([]);
    const nothing = row({
      impressions: 0,
      clicks: 0,
      cost: 0,
      position: null,
      since: null,
      settled: { clicks: 0, cost: 0, conversions: 0, value: 0 },
    });
    expect(judge([nothing], usualVerdictLimits, { cost: 0, return: 0 })[0]?.verdict).toBe('too-early');
  });

  test('own brand is not what others are held against', () => {
    const brands = Array.from({ length: 10 }, (_, at) =>
      row({ isBrand: true, position: 1 + at / 5, clicks: 900, impressions: 2_000 }),
    );
    const all = judge([...others, ...brands], usualVerdictLimits, aim);
    expect(all.filter(({ verdict }) => verdict === 'not-clicked')).toEqual([]);
  });
});

test('the CTR to expect leaves the row itself out, and draws match types to the plan', () => {
  const rows = Array.from({ length: 30 }, (_, at) => {
    const position = 1 + (at % 6);
    return {
      type: 'exact' as const,
      position,
      impressions: 1_000,
      clicks: Math.round(120 * 0.75 ** (position - 1)),
    };
  });
  const odd = { type: 'exact' as const, position: 2, impressions: 40_000, clicks: 200 };
  const model = expectedCtr([...rows, odd]);
  // With itself it would have drawn the curve down to a third of it.
  expect(model?.of(odd)).toBeGreaterThan(0.06);
  expect(model?.of(odd)).toBeLessThan(0.12);
  const clean = expectedCtr(rows);
  expect(clean?.at('exact', 1)).toBeCloseTo(0.12, 2);
  expect(clean?.at('broad', 1)).toBeCloseTo(clean?.at(null, 1) ?? 0, 10);
  expect(expectedCtr(rows.map((one) => ({ ...one, position: 2 })))).toBeNull();
  expect(expectedCtr(rows.map((one) => ({ ...one, clicks: 0 })))).toBeNull();
});

test('what was put into an account is found, and few are blamed wrongly', () => {
  const causes = { '': 0, 'never-pays': 0, 'not-sold': 0, 'not-clicked': 0, 'broken-page': 0 };
  const found = { ...causes };
  let [blamed, wrongly] = [0, 0];
  for (let run = 0; run < 4; run++) {
    const source = randomLcg(0.13 + run / 10);
    const uniform = () => source();
    const rows: JudgedRow[] = [];
    const put: (keyof typeof causes)[] = [];
    for (let at = 0; at < 1_000; at++) {
      const names = Object.keys(causes) as (keyof typeof causes)[];
      const cause = uniform() < 0.1 ? (names[1 + Math.floor(uniform() * 4)] as keyof typeof causes) : '';
      const position = 1 + uniform() * 2.4;
      const impressions = Math.round(1_500 * Math.exp(3 * uniform()));
      const ctr = 0.12 * 0.8 ** (position - 1) * (cause === 'not-clicked' ? 0.35 : 1);
      const clicks = randomBinomial.source(source)(impressions, ctr)();
      const rate = { '': 0.05, 'never-pays': 0, 'not-sold': 0.008, 'not-clicked': 0.05, 'broken-page': 0.05 }[
        cause
      ];
      const after = cause === 'broken-page' ? Math.round(clicks * 0.5) : 0;
      const sold: number[] = [];
      for (let click = 0; click < clicks - after; click++) if (uniform() < rate) sold.push(click);
      const last = sold.at(-1);
      const cpc = 0.4 * M;
      rows.push(
        row({
          impressions,
          clicks,
          cost: clicks * cpc,
          position,
          settled: { clicks, cost: clicks * cpc, conversions: sold.length, value: 0 },
          since: last === undefined ? null : { clicks: clicks - last - 1, cost: (clicks - last - 1) * cpc },
          group: `g${at % 50}`,
          theme: `t${at % 10}`,
        }),
      );
      put.push(cause);
    }
    judge(rows, usualVerdictLimits, { cost: 8 * M, return: null }).forEach(({ verdict }, at) => {
      const cause = put[at] as keyof typeof causes;
      const isBlame = ['never-pays', 'not-sold', 'not-clicked', 'broken-page'].includes(verdict);
      // With too few clicks nothing of it can be seen.
      const isEnough = (rows[at]?.settled.clicks ?? 0) >= 500;
      if (cause !== '' && isEnough) causes[cause]++;
      if (isBlame) blamed++;
      if (isBlame && verdict !== cause) wrongly++;
      if (cause !== '' && isEnough && verdict === cause) found[cause]++;
    });
  }
  const [all, right] = [causes, found].map((one) => Object.values(one).reduce((sum, n) => sum + n, 0));
  expect(all).toBeGreaterThan(60);
  expect((right ?? 0) / (all ?? 1)).toBeGreaterThan(0.9);
  expect(wrongly / blamed).toBeLessThan(0.1);
});
