import { expect, test } from 'vitest';
import { seeded } from '../text/index.ts';
import { differMoreThanChance } from './index.ts';

test.each([
  // By hand: pooled 0.525, error 0.070 6, z = 2.12 and 1.84.
  [{ of: 60, all: 100 }, { of: 45, all: 100 }, true],
  [{ of: 59, all: 100 }, { of: 46, all: 100 }, false],
  [{ of: 120, all: 4_000 }, { of: 80, all: 4_000 }, true],
  [{ of: 30, all: 1_000 }, { of: 30, all: 1_000 }, false],
  // Too little to tell, or no shares at all.
  [{ of: 1, all: 10 }, { of: 9, all: 12 }, null],
  [{ of: 4, all: 400 }, { of: 4, all: 400 }, null],
  [{ of: 12, all: 10 }, { of: 5, all: 100 }, null],
  [{ of: 0, all: 0 }, { of: 5, all: 100 }, null],
  [{ of: -1, all: 100 }, { of: 50, all: 100 }, null],
])('%j and %j: %s', (a, b, differs) => {
  expect(differMoreThanChance(a, b)).toBe(differs);
  expect(differMoreThanChance(b, a)).toBe(differs);
});

test('of two that are the same about one in twenty differs, and of two that are not nearly all do', () => {
  const random = seeded(3);
  const drawn = (all: number, rate: number) => {
    let of = 0;
    for (let n = 0; n < all; n++) if (random() < rate) of++;
    return { of, all };
  };
  const share = (rate: number, other: number) => {
    let differing = 0;
    for (let n = 0; n < 2_000; n++)
      if (differMoreThanChance(drawn(600, rate), drawn(600, other))) differing++;
    return differing / 2_000;
  };
  expect(share(0.05, 0.05)).toBeGreaterThan(0.03);
  expect(share(0.05, 0.05)).toBeLessThan(0.065);
  expect(share(0.05, 0.12)).toBeGreaterThan(0.95);
});
