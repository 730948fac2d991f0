import { randomBinomial, randomLcg } from 'd3-random';
import { describe, expect, test } from 'vitest';
import { type MeasuredRow, measuredCurve } from './index.ts';

const CPC = 800_000;
/** Exact rows at positions 1 to 6: 12% are clicked at the top, a quarter fewer each position down; clicks cost 1.4 CPCs there, a fifth less each. */
function rows(seed: number, part: Partial<MeasuredRow> = {}): MeasuredRow[] {
  const source = randomLcg(seed);
  return Array.from({ length: 300 }, (_, at) => {
    const position = 1 + (at % 51) / 10;
    const impressions = 400 + (at % 7) * 100;
    const clicks = randomBinomial.source(source)(impressions, 0.12 * 0.75 ** (position - 1))();
    const price = 1.4 * 0.8 ** (position - 1) * (0.9 + ((at * 7) % 21) / 100);
    return { type: 'exact', position, impressions, clicks, cost: clicks * CPC * price, cpc: CPC, ...part };
  });
}

describe('what a position brings and costs', () => {
  test('is found as it was put in', () => {
    const { ctr, price } = measuredCurve(rows(0.3), 8);
    expect(ctr).toHaveLength(8);
    expect(ctr?.[0]).toBeCloseTo(0.12, 2);
    expect((ctr?.[1] ?? 0) / (ctr?.[0] ?? 1)).toBeCloseTo(0.75, 1);
    expect(Math.abs((price?.[0] ?? 0) - 1.4)).toBeLessThan(0.08);
    expect((price?.[1] ?? 0) / (price?.[0] ?? 1)).toBeCloseTo(0.8, 2);
  });

  test('is that of exact rows, whatever others are clicked', () => {
    const broad = rows(0.5, { type: 'broad' }).map((row) => ({ ...row, clicks: Math.round(row.clicks / 3) }));
    expect(measuredCurve([...rows(0.3), ...broad], 3).ctr?.[0]).toBeCloseTo(0.12, 1);
  });

  test('is not told by too few clicks, at one position, without CPCs, or where it rises', () => {
    expect(measuredCurve(rows(0.3).slice(0, 1), 8)).toEqual({ ctr: null, price: null });
    expect(measuredCurve([], 8)).toEqual({ ctr: null, price: null });
    expect(measuredCurve(rows(0.3, { position: 2 }), 8)).toEqual({ ctr: null, price: null });
    expect(measuredCurve(rows(0.3, { cpc: null }), 8).price).toBeNull();
    expect(measuredCurve(rows(0.3, { cpc: null }), 8).ctr).not.toBeNull();
    const turned = rows(0.3).map((row) => ({ ...row, position: 8 - row.position }));
    expect(measuredCurve(turned, 8)).toEqual({ ctr: null, price: null });
    // CPCs of another market altogether.
    expect(measuredCurve(rows(0.3, { cpc: 1 }), 8).price).toBeNull();
  });
});
