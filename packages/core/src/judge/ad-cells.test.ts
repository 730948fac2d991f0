import { expect, test } from 'vitest';
import { asDay, type FactTable } from '../learn/index.ts';
import { adCells as given } from './index.ts';

const adCells = (...of: Parameters<typeof given>) => [...given(...of)];

/** Rows of four ads: two versions in each of two ad groups. */
function table(
  rows: readonly (readonly [place: number, time: number, shown: number, clicks: number, sold?: number])[],
) {
  const column = (of: (row: (typeof rows)[number]) => number) => Float64Array.from(rows, of);
  return {
    rows: rows.length,
    times: [3, 1, 2].map((day) => ({ from: asDay(day), to: asDay(day) })),
    campaigns: 1,
    campaignOf: new Uint32Array(5),
    place: Uint32Array.from(rows, ([place]) => place),
    time: Uint32Array.from(rows, ([, time]) => time),
    figures: {
      impressions: column(([, , shown]) => shown),
      clicks: column(([, , , clicks]) => clicks),
      conversions: column(([, , , , sold = 0]) => sold * 1_000_000),
    },
    full: new Set(),
  } as unknown as FactTable;
}
const sides = { of: Int8Array.of(0, 1, 0, 1, -1), stratum: Int32Array.of(0, 0, 1, 1, 0), strata: 2 };
const all = new Uint8Array(3).fill(1);

test('days on which both were seen stand in their order, those of one alone are left out', () => {
  const facts = table([
    [0, 0, 100, 5],
    [1, 0, 80, 4],
    [0, 1, 50, 1],
    [2, 2, 10, 1],
    [3, 2, 20, 3],
    [4, 2, 999, 99],
    [3, 1, 20, 3],
  ]);
  expect(adCells(facts, all, sides, 'clicks')).toEqual([
    { time: 2, stratum: 1, triesA: 10, hitsA: 1, triesB: 20, hitsB: 3, clicksA: 1, clicksB: 3 },
    { time: 3, stratum: 0, triesA: 100, hitsA: 5, triesB: 80, hitsB: 4, clicksA: 5, clicksB: 4 },
  ]);
  expect(adCells(facts, Uint8Array.of(1, 1, 0), sides, 'clicks')).toHaveLength(1);
});

test('conversions are whole, from none to the clicks, of clicks', () => {
  const facts = table([
    [0, 0, 100, 5, 2.4],
    [1, 0, 80, 4, 9],
    [2, 0, 80, 4, -2],
    [3, 0, 80, 6, 1],
  ]);
  expect(
    adCells(facts, all, sides, 'conversions').map((one) => [one.triesA, one.hitsA, one.triesB, one.hitsB]),
  ).toEqual([
    [5, 2, 4, 4],
    [4, 0, 6, 1],
  ]);
});

test('reports without the figures tell nothing', () => {
  const facts = table([[0, 0, 100, 5]]);
  const without = (figure: 'clicks' | 'conversions'): FactTable => ({
    ...facts,
    figures: { ...facts.figures, [figure]: null },
  });
  expect(adCells(without('clicks'), all, sides, 'clicks')).toEqual([]);
  expect(adCells(without('conversions'), all, sides, 'conversions')).toEqual([]);
});
