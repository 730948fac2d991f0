import fc from 'fast-check';
import { expect, test } from 'vitest';
import { onlyCosting, termRuns } from './index.ts';

const M = 1_000_000;
const term = (said: string, cost: number, conversions = 0) => ({
  term: said,
  cost: cost * M,
  clicks: cost * 2,
  conversions: conversions * M,
});
const none = new Set<string>();

test('words and runs of two are summed over terms, each once a term', () => {
  const runs = termRuns(
    [term('free tea tea', 3), term('free teapot', 4, 1), term('how to make tea', 2)],
    new Set(['to']),
  );
  const of = (run: string) => runs.find((one) => one.run === run);
  expect(of('free')).toEqual({
    run: 'free',
    cost: 7 * M,
    clicks: 14,
    conversions: M,
    terms: 2,
    dearest: 'free teapot',
  });
  expect(of('tea')).toMatchObject({ cost: 5 * M, terms: 2 });
  expect(of('tea tea')).toMatchObject({ cost: 3 * M, terms: 1 });
  // A word that carries no meaning by itself stands in runs only.
  expect(of('to')).toBeUndefined();
  expect(of('how to')).toMatchObject({ terms: 1 });
  expect(runs.map(({ cost }) => cost)).toEqual(runs.map(({ cost }) => cost).toSorted((a, b) => b - a));
});

test('what only costs is told by the shortest that says it', () => {
  const runs = onlyCosting(
    termRuns(
      [term('free tea', 3), term('free cups', 4), term('tea set', 9, 2), term('second hand tea', 2)],
      none,
    ),
  );
  const names = runs.map(({ run }) => run);
  expect(names).toContain('free');
  // All that says `second hand` says `second` too; `tea` has sold.
  expect(names).not.toContain('second hand');
  expect(names).not.toContain('tea');
  // `free tea` costs in one of the two terms of `free`, and `tea` by itself has sold.
  expect(names).toContain('free tea');
  expect(termRuns([], none)).toEqual([]);
});

test('no run costs more than all terms, and what only costs has sold nothing', () => {
  const words = fc.constantFrom('a', 'b', 'c', 'd');
  const anyTerm = fc.record({
    term: fc.array(words, { minLength: 1, maxLength: 4 }).map((list) => list.join(' ')),
    cost: fc.nat(1_000),
    clicks: fc.nat(50),
    conversions: fc.integer({ min: -2, max: 5 }),
  });
  fc.assert(
    fc.property(fc.array(anyTerm, { maxLength: 30 }), (terms) => {
      const all = terms.reduce((sum, one) => sum + one.cost, 0);
      const runs = termRuns(terms, none);
      for (const { run, cost, terms: count } of runs) {
        const has = terms.filter((one) => ` ${one.term} `.includes(` ${run} `));
        expect(count).toBe(has.length);
        expect(cost).toBe(has.reduce((sum, one) => sum + one.cost, 0));
        expect(cost).toBeLessThanOrEqual(all);
      }
      for (const { conversions } of onlyCosting(runs)) expect(conversions).toBeLessThanOrEqual(0);
    }),
  );
});
