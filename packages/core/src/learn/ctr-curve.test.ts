import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seeded } from '../text/index.ts';
import { ctrAt, ctrCurve } from './index.ts';

describe('the curve that clicks follow', () => {
  test('is found again in figures that lie on it', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 0.3, noNaN: true }),
        fc.double({ min: 0.4, max: 1.1, noNaN: true }),
        fc.array(
          fc.record({
            position: fc.integer({ min: 10, max: 80 }),
            impressions: fc.integer({ min: 50, max: 5_000 }),
          }),
          {
            minLength: 3,
            maxLength: 30,
          },
        ),
        (top, fall, seen) => {
          const points = seen.map(({ position, impressions }) => ({
            position: position / 10,
            impressions,
            clicks: impressions * ctrAt({ top, fall }, position / 10),
          }));
          const curve = ctrCurve(points);
          if (new Set(seen.map(({ position }) => position)).size === 1) expect(curve).toBeNull();
          else {
            expect(curve?.top).toBeCloseTo(top, 4);
            expect(curve?.fall).toBeCloseTo(fall, 4);
          }
        },
      ),
    );
  });

  test('is near in figures with chance in them', () => {
    const random = seeded(11);
    const points = Array.from({ length: 400 }, (_, at) => {
      const position = 1 + (at % 60) / 10;
      const impressions = 400;
      let clicks = 0;
      for (let n = 0; n < impressions; n++)
        if (random() < ctrAt({ top: 0.12, fall: 0.7 }, position)) clicks++;
      return { position, impressions, clicks };
    });
    const curve = ctrCurve(points);
    expect(Math.abs((curve?.top ?? 0) - 0.12)).toBeLessThan(0.006);
    expect(Math.abs((curve?.fall ?? 0) - 0.7)).toBeLessThan(0.02);
  });

  test.each([
    ['nothing', []],
    ['two points', [1, 2].map((position) => ({ position, impressions: 10, clicks: 1 }))],
    ['one position', [2, 2, 2].map((position) => ({ position, impressions: 10, clicks: 1 }))],
    ['no click', [1, 2, 3].map((position) => ({ position, impressions: 10, clicks: 0 }))],
    ['no impression', [1, 2, 3].map((position) => ({ position, impressions: 0, clicks: 0 }))],
  ])('can’t be told of %s', (_, points) => expect(ctrCurve(points)).toBeNull());
});
