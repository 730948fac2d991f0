import { randomBeta, randomBinomial, randomGamma, randomLcg, randomPoisson } from 'd3-random';
import { describe, expect, test } from 'vitest';
import { expectedRates, ratesUnder } from './expected-rates.ts';

const rows = (samples: readonly (readonly [of: number, all: number])[]) => ({
  of: Float64Array.from(samples, ([of]) => of),
  all: Float64Array.from(samples, ([, all]) => all),
});
const squares = (found: ArrayLike<number>, rates: readonly number[]) =>
  rates.reduce((sum, rate, at) => sum + ((found[at] as number) - rate) ** 2, 0);

describe('rates to expect', () => {
  test('err by little more than those of the true prior', () => {
    let [own, known, raw] = [0, 0, 0];
    for (let run = 0; run < 20; run++) {
      const source = randomLcg(0.1 + run / 40);
      const rateOf = randomBeta.source(source)(2, 48);
      const rates = Array.from({ length: 300 }, () => rateOf());
      const samples = rates.map((rate, at) => {
        const all = 5 + ((at * 37) % 200);
        return [randomBinomial.source(source)(all, rate)(), all] as const;
      });
      own += squares(expectedRates(rows(samples), []) ?? [], rates);
      known += squares(
        samples.map(([of, all]) => (of + 2) / (all + 50)),
        rates,
      );
      raw += squares(
        samples.map(([of, all]) => of / all),
        rates,
      );
    }
    expect(own / known).toBeLessThan(1.15);
    expect(raw / own).toBeGreaterThan(1.5);
  });

  test('in ad groups and themes err by little more than where it is known how alike they are', () => {
    let [own, known, flat] = [0, 0, 0];
    for (let run = 0; run < 8; run++) {
      const source = randomLcg(0.3 + run / 20);
      const around = (mean: number, strength: number) =>
        randomBeta.source(source)(mean * strength, (1 - mean) * strength)();
      const rates: number[] = [];
      const [groupOf, themeOf]: [number[], number[]] = [[], []];
      for (let theme = 0; theme < 12; theme++) {
        const ofTheme = around(0.05, 60);
        for (let group = 0; group < 10; group++) {
          const ofGroup = around(ofTheme, 400);
          for (let row = 0; row < 6; row++) {
            rates.push(around(ofGroup, 1_500));
            groupOf.push(theme * 10 + group);
            themeOf.push(theme);
          }
        }
      }
      const samples = rates.map((rate, at) => {
        const all = 10 + ((at * 53) % 300);
        return [randomBinomial.source(source)(all, rate)(), all] as const;
      });
      const levels = [Int32Array.from(groupOf), Int32Array.from(themeOf)];
      own += squares(expectedRates(rows(samples), levels) ?? [], rates);
      flat += squares(expectedRates(rows(samples), []) ?? [], rates);
      known += squares(ratesUnder(rows(samples), levels, [1_500, 400, 60], 0.05), rates);
    }
    expect(own / known).toBeLessThan(1.15);
    expect(flat / own).toBeGreaterThan(1.5);
  });

  test('a level that is the row itself is left out', () => {
    const samples = [...Array(40).keys()].map((at) => [at % 5, 20 + ((at * 13) % 90)] as const);
    const alone = Int32Array.from(samples.keys());
    const themes = Int32Array.from(samples, (_, at) => at % 4);
    expect(expectedRates(rows(samples), [alone, themes])).toEqual(expectedRates(rows(samples), [themes]));
    expect(expectedRates(rows(samples), [alone])).toEqual(expectedRates(rows(samples), []));
  });

  test('what has seen nothing has the rate of what it lies in', () => {
    const samples = [
      [50, 500],
      [60, 500],
      [2, 500],
      [1, 500],
      [0, 0],
      [0, 0],
    ] as const;
    const groups = Int32Array.of(0, 0, 1, 1, 0, 1);
    const found = expectedRates(rows(samples), [groups]) as Float64Array;
    expect(found[4]).toBeGreaterThan(0.08);
    expect(found[5]).toBeLessThan(0.02);
  });

  test('of nothing there is no rate, and where nothing was sold it is near none', () => {
    expect(expectedRates(rows([]), [])).toBeNull();
    expect(expectedRates(rows([[0, 0]]), [])).toBeNull();
    const [none = 1] = expectedRates(rows([[0, 500]]), []) ?? [];
    expect(none).toBeLessThan(0.002);
    expect(none).toBeGreaterThanOrEqual(0);
  });

  test('more than one a click are counted, and not cut off at one', () => {
    const source = randomLcg(0.7);
    const rateOf = randomGamma.source(source)(8, 0.25);
    const rates = Array.from({ length: 200 }, () => rateOf());
    const samples = rates.map((rate, at) => {
      const all = 5 + (at % 40);
      return [randomPoisson.source(source)(rate * all)(), all] as const;
    });
    const found = expectedRates(rows(samples), []) as Float64Array;
    const known = squares(
      samples.map(([of, all]) => (of + 8) / (all + 4)),
      rates,
    );
    expect(squares(found, rates) / known).toBeLessThan(1.15);
  });
});
