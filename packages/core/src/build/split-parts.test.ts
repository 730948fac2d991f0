import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { splitParts } from './index.ts';

describe('splitting over campaigns', () => {
  const groups = (count: number, rows = 1) => Array.from({ length: count }, () => rows);
  const split = (...given: Parameters<typeof splitParts>) => [...splitParts(...given)];

  test('as even as can be when first made', () => {
    expect(split(groups(7), { groups: 3, rows: 100 })).toEqual([1, 1, 1, 2, 2, 3, 3]);
    expect(split(groups(4, 2), { groups: 9, rows: 4 })).toEqual([1, 1, 2, 2]);
    expect(split([], { groups: 3, rows: 3 })).toEqual([]);
  });

  test('sticky: what stands somewhere stays, new ones take the first free place', () => {
    const before = [1, 2, 2, 0, 3, 0];
    expect(split(groups(6), { groups: 2, rows: 100 }, before)).toEqual([1, 2, 2, 1, 3, 3]);
  });

  test('no part is ever over its limits, and nothing moves when the pool grows', () => {
    const limits = { groups: 4, rows: 9 };
    const list = fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 60 });
    fc.assert(
      fc.property(list, list, (first, more) => {
        const all = [...first, ...more];
        const parts = split(first, limits);
        const grown = split(all, limits, parts);
        expect(grown.slice(0, first.length)).toEqual(parts);
        const used = new Map<number, { groups: number; rows: number }>();
        grown.forEach((part, at) => {
          const sum = used.get(part) ?? { groups: 0, rows: 0 };
          used.set(part, { groups: sum.groups + 1, rows: sum.rows + (all[at] ?? 0) });
        });
        for (const { groups: count, rows } of used.values()) {
          expect(count).toBeLessThanOrEqual(limits.groups);
          expect(rows).toBeLessThanOrEqual(limits.rows);
        }
      }),
      { seed: 31 },
    );
  });
});
